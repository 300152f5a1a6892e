import type { Forecast } from '../cure/cureClock';
import type { CheckVerdict } from '../log/bodies';
import type { ShowerState } from '../log/state';
import type { WaitCheck } from '../rules/checks/wait';
import { floodCheckOf } from '../rules/ruleBook';
import type { Judge } from './checkJudge';
import { type LayerReady, laidIn, layersOf } from './cureOfShower';
import { plain } from './found';

/** What a wait comes to at a moment. */
export interface WaitFound {
  /** Undecided while it lasts; a fail where water came before it was over. */
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

/** Work after the flood asks for a wait and a flood of its own; it does not make the earlier flood too early. */
const lastWorkBefore = (times: readonly number[], filledMs: number): boolean => Math.max(...times) <= filledMs;

/** A wait: the only kind that goes by the clock. */
export const waitJudge: Judge<WaitCheck> = {
  answeredBy: () => 'work',
  judge: ({ state, requirement: { check, stage } }) => {
    const floodOrder = state.rules && floodCheckOf(state.rules.method)?.stage.order;
    const beforeWater = typeof floodOrder === 'number' && stage.order < floodOrder;
    const { verdict, readyAtMs } = judgeWait(state, check, beforeWater);
    return { measured: plain(verdict, { ready: readyAtMs ?? Infinity }), readyAtMs };
  },
  byClock: true,
};
