import type { LookedCheck } from '../rules/checks/looked';
import type { Judge } from './checkJudge';
import { plain } from './found';
import { lookedVerdict } from './looks';

/** What is looked at: its looks decide, and where the rules say so somebody who may has to accept them. */
export const lookedJudge: Judge<LookedCheck> = {
  // What shows a proof has to be named.
  answeredBy: (check) => (check.proof ? 'figure' : 'look'),
  judge: ({ requirement: { check }, looked }) => {
    const verdict = lookedVerdict(looked);
    const settled = verdict === 'pass' && check.needsApproval ? 'undecided' : verdict;
    return { measured: { ...plain(settled), failed: looked.failed } };
  },
  wantsLook: (check) => !check.proof,
  buildsOn: true,
};
