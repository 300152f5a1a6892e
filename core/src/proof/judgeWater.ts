import type { CheckVerdict } from '../entries/entry';
import type { WaitCheck } from '../rules/ruleBook';
import type { Judgement, ShowerState } from './state';

const MS_PER_HOUR = 3_600_000;

/** The flood's verdict as a check: unseen until a test has ended, and again when what it proved was built anew. */
export function floodCheckVerdict(state: ShowerState): CheckVerdict {
  const end = state.flood?.end;
  if (!end || end.verdict === 'aborted') return 'unseen';
  if (end.verdict === 'pass' && state.flood!.voids.size > 0) return 'unseen';
  return end.verdict;
}

/** When the last work on a stage was done, as far as its entries tell: said done, redone, or else released. */
function lastWorkMs(state: ShowerState, stageKey: string): number | null {
  const stage = state.stages.get(stageKey);
  const said = (stage?.work ?? []).map((e) => Date.parse(e.observedAt));
  const redone = state.redos.filter((e) => e.body.stage === stageKey).map((e) => Date.parse(e.observedAt));
  const times = [...said, ...redone];
  if (times.length > 0) return Math.max(...times);
  return stage?.release ? Date.parse(stage.release.observedAt) : null;
}

export interface WaitFound {
  verdict: CheckVerdict;
  /** When the wait is over, ms since 1970; null while the work it follows is not known. */
  readyAtMs: number | null;
}

/**
 * A wait after the last work, the slowest stage deciding. Water that came before it was over makes it fail: only a
 * deviation can accept that. Stages that the shower's method does not ask anything of are left out.
 */
export function judgeWait(state: ShowerState, check: WaitCheck, beforeWater: boolean): WaitFound {
  const asked = check.after.filter((key) =>
    state.rules?.method.stages.some((s) => s.key === key && s.checks.length > 0),
  );
  const times = asked.map((key) => lastWorkMs(state, key));
  if (times.length === 0 || times.some((t) => t === null)) return { verdict: 'unseen', readyAtMs: null };
  const readyAtMs = Math.max(...(times as number[])) + check.hours * MS_PER_HOUR;
  const filledMs = beforeWater && state.flood && !state.flood.endedByRedo ? state.flood.startMs : null;
  if (filledMs !== null && filledMs < readyAtMs && lastWorkBefore(times as number[], filledMs))
    return { verdict: 'fail', readyAtMs };
  return { verdict: state.clockMs >= readyAtMs ? 'pass' : 'undecided', readyAtMs };
}

/** When the last wait of a stage that is not over yet will be, ms since 1970; null when nothing is waited for. `judgements` are the stage's. */
export function waitingUntilMs(judgements: readonly Judgement[]): number | null {
  const waits = judgements.filter((j) => j.requirement.check.kind === 'wait' && j.verdict === 'undecided');
  return waits.length > 0 ? Math.max(...waits.map((j) => j.readyAtMs ?? 0)) : null;
}

/** Work after the flood asks for a wait and a flood of its own; it does not make the earlier flood too early. */
const lastWorkBefore = (times: readonly number[], filledMs: number): boolean => Math.max(...times) <= filledMs;
