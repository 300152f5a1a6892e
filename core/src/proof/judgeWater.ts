import type { Forecast } from '../cure/cureClock';
import type { CheckVerdict } from '../entries/entry';
import type { WaitCheck } from '../rules/ruleBook';
import { type LayerReady, laidIn, layersOf } from './cureOfShower';
import { type FloodEnd, isWetLook } from './floodTest';
import { type Measured, plain } from './judgeReadings';
import type { Judgement, ShowerState, Worst } from './state';

/** How bad a flood's finding is: its bounds, and what it lacks of what the rule book asks. */
function worstFlood({ figures, short, verdict }: FloodEnd, isWet: boolean): Worst {
  const bound = (name: string, mm: number | null | undefined) => (typeof mm === 'number' ? [[name, mm] as const] : []);
  return Object.fromEntries([
    ...bound('high', figures?.highMmPerDay),
    ...(verdict === 'fail' ? bound('net', figures?.netLossMmPerDay) : []),
    ...(isWet ? [['wet', 1] as const] : []),
    ...(figures ? [] : [['nothing read', 1] as const]),
    ...short.map((s) => [`${s.kind} ${s.where ?? ''}`, s.by] as const),
  ]);
}

/** The flood as a check: unseen until a test has ended, and again when the basin that it tested is another one. */
export function floodFound(state: ShowerState): Measured {
  const test = state.flood;
  if (!test?.end || test.voided || test.end.verdict === 'aborted') return plain('unseen');
  return plain(test.end.verdict, worstFlood(test.end, test.looks.some(isWetLook)));
}

export interface WaitFound {
  verdict: CheckVerdict;
  /** When the wait is over, ms since 1970; null while the work it follows is not known. */
  readyAtMs: number | null;
}

/** The layer that a wait hangs on with all others of its stages; null while one of the stages is not known to be laid. */
export function waitLayers(
  state: ShowerState,
  check: WaitCheck,
  forecast: Forecast | null = null,
): LayerReady[] | null {
  const asked = check.after.filter((key) =>
    state.rules?.method.stages.some((s) => s.key === key && s.checks.length > 0),
  );
  const drying = check.cures === 'drying';
  if (asked.length === 0 || asked.some((key) => laidIn(state, key, drying).length === 0)) return null;
  return layersOf(state, check, asked, forecast);
}

/**
 * A wait after the last work, the slowest layer deciding: never under the label's hours, longer by the cold or the damp
 * that was read on site. Water that came before it was over makes it fail: only a deviation can accept that. Stages that
 * the shower's method does not ask anything of are left out.
 */
export function judgeWait(state: ShowerState, check: WaitCheck, beforeWater: boolean): WaitFound {
  const layers = waitLayers(state, check);
  if (!layers) return { verdict: 'unseen', readyAtMs: null };
  const { readyAtMs } = layers.at(-1)!;
  const filledMs = beforeWater && state.flood && !state.flood.voided ? state.flood.startMs : null;
  const times = layers.map((l) => l.laidAtMs);
  if (filledMs !== null && filledMs < (readyAtMs ?? Infinity) && lastWorkBefore(times, filledMs))
    return { verdict: 'fail', readyAtMs };
  return { verdict: readyAtMs !== null && state.clockMs >= readyAtMs ? 'pass' : 'undecided', readyAtMs };
}

/** Stands for a wait with no end in sight, ms since 1970: the year 2100. */
const NO_END_MS = Date.UTC(2100, 0, 1);

/** When the last wait of a stage that is not over yet will be, ms since 1970; null when nothing is waited for. `judgements` are the stage's. */
export function waitingUntilMs(judgements: readonly Judgement[]): number | null {
  const waits = judgements.filter((j) => j.requirement.check.kind === 'wait' && j.verdict === 'undecided');
  return waits.length > 0 ? Math.max(...waits.map((j) => j.readyAtMs ?? NO_END_MS)) : null;
}

/** Work after the flood asks for a wait and a flood of its own; it does not make the earlier flood too early. */
const lastWorkBefore = (times: readonly number[], filledMs: number): boolean => Math.max(...times) <= filledMs;
