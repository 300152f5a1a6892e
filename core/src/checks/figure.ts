import type { Evidence } from '../log/state';
import type { NumberCheck } from '../rules/checks/figure';
import type { Judge } from './checkJudge';
import { beyond, type Measured, plain, SLACK_MM } from './found';
import { lastLook } from './looks';

/** A figure inside its limit passes; without a limit nothing can be decided. */
function numberFound(check: NumberCheck, looks: readonly Evidence[]): Measured {
  const look = lastLook(looks);
  if (look === null || look.number === null) return plain(look?.answer === 'defect' ? 'fail' : 'unseen');
  if (check.limit === null) return plain('undecided');
  const { atLeast, atMost } = check.limit;
  const worst = {
    ...(atLeast === undefined ? {} : { low: -look.number }),
    ...(atMost === undefined ? {} : { high: look.number }),
  };
  return plain(beyond({ least: atLeast, most: atMost }, look.number) > SLACK_MM ? 'fail' : 'pass', worst);
}

/** One figure for the whole element: the last one that was told. */
export const figureJudge: Judge<NumberCheck> = {
  answeredBy: () => 'figure',
  judge: ({ requirement, looks }) => ({ measured: numberFound(requirement.check, looks) }),
};
