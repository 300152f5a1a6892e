import type { Judgement } from '../log/judgement';
import type { Check, CheckKind, CheckOf } from '../rules/checks/check';
import type { Judge } from './checkJudge';
import { figureJudge } from './figure';
import { filmJudge } from './film';
import { floodJudge } from './flood';
import { lookedJudge } from './looked';
import { measuredJudge } from './measured';
import { positionJudge } from './position';
import { surveyJudge } from './survey';
import { waitJudge } from './wait';

/** How each kind of check is judged. A new kind does not compile until it stands here. */
const JUDGES: { readonly [K in CheckKind]: Judge<CheckOf<K>> } = {
  measured: measuredJudge,
  looked: lookedJudge,
  number: figureJudge,
  position: positionJudge,
  flood: floodJudge,
  wait: waitJudge,
  survey: surveyJudge,
  film: filmJudge,
};

/** How the kind that this check is of is judged. */
export const judgeOf = <C extends Check>(check: C): Judge<C> => JUDGES[check.kind] as unknown as Judge<C>;

/** Stands for a wait with no end in sight, ms since 1970: the year 2100. */
const NO_END_MS = Date.UTC(2100, 0, 1);

/** When the last wait of a stage that is not over yet will be, ms since 1970; null when nothing is waited for. `judgements` are the stage's. */
export function waitingUntilMs(judgements: readonly Judgement[]): number | null {
  const waits = judgements.filter((j) => judgeOf(j.requirement.check).byClock && j.verdict === 'undecided');
  return waits.length > 0 ? Math.max(...waits.map((j) => j.readyAtMs ?? NO_END_MS)) : null;
}
