import { type FloorGap, floorGap } from '../floor/flatness/floorFlatness';
import { judgeSurvey, type SurveyJudged, type SurveyLimits } from '../floor/survey/judgeSurvey';
import type { Shot, SurveyedFloor } from '../floor/survey/shots';
import { makeSurface, ownHeights } from '../floor/survey/surface';
import type { CheckVerdict } from '../log/bodies';
import type { Evidence } from '../log/state';
import type { Outcome } from '../outcome/outcome';
import type { SurveyCheck } from '../rules/checks/survey';
import { drainOutline, drainReachMm } from '../shower/geometry/showerGeometry';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { Judge } from './checkJudge';
import { type Measured, plain } from './found';

/** A later shot this near to an earlier one is that place shot again, mm. */
const SAME_PLACE_MM = 30;

/** A shot with the entry that it was kept by. */
export interface KeptShot extends Shot {
  /** Id of the entry that keeps it. */
  entry: string;
  /** Name of who said it. */
  author: string;
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
}

/** The shots that stand: a place that was shot again counts as it was shot last. */
export function standingShots(readings: readonly Evidence[]): KeptShot[] {
  const out: KeptShot[] = [];
  for (const { shot, entry, author, observedAt } of readings) {
    if (!shot) continue;
    const kept = { xMm: shot.xMm, yMm: shot.yMm, zMm: shot.zMm, entry, author, observedAt };
    const before = out.findIndex((o) => Math.hypot(o.xMm - kept.xMm, o.yMm - kept.yMm) <= SAME_PLACE_MM);
    if (before >= 0) out[before] = kept;
    else out.push(kept);
  }
  return out;
}

/** The floor of a shower as a survey takes it, with the edges that stand open. */
export function surveyedFloor(
  { geometry }: ShowerModel,
  withDrain: boolean,
): { floor: SurveyedFloor; openEdges: number[] } {
  const { footprint, drain, edges } = geometry;
  const at = { xMm: drain.xMm, yMm: drain.yMm };
  const channel = withDrain && drain.kind === 'line';
  return {
    floor: {
      footprint,
      drain: at,
      drainRimMm: withDrain && !channel ? drainReachMm(geometry) : 0,
      ...(channel ? { rim: drainOutline(geometry) } : {}),
    },
    openEdges: edges.flatMap((e, i) => (e.kind === 'open' ? [i] : [])),
  };
}

/** The limits of a check on falls. */
export function surveyLimits(check: SurveyCheck): SurveyLimits | null {
  const { measures, uncertaintyMm } = check;
  if (measures.of !== 'fall') return null;
  return { uncertaintyMm, minFall: measures.minFall, maxFall: measures.maxFall, pondMm: measures.pondMm };
}

/** Falls and ponds of a shower's floor; the drain's rim is the height that shots count from. */
export function judgeFloorFall(
  model: ShowerModel,
  check: SurveyCheck,
  shots: readonly Shot[],
): Outcome<SurveyJudged> | null {
  const limits = surveyLimits(check);
  if (!limits) return null;
  const { floor, openEdges } = surveyedFloor(model, true);
  return judgeSurvey(floor, 0, shots, limits, openEdges);
}

/** The worst gap under the check's straightedge, with its verdict; null while no line over the floor is as long. */
export function judgeFloorFlat(
  model: ShowerModel,
  check: SurveyCheck,
  shots: readonly Shot[],
): Outcome<{ gap: FloorGap | null; verdict: CheckVerdict }> | null {
  const { measures, uncertaintyMm } = check;
  if (measures.of !== 'flat') return null;
  const made = makeSurface(surveyedFloor(model, false).floor, shots);
  if (!made.ok) return made;
  const gap = floorGap(made.value, ownHeights(made.value, 0), measures.straightedgeMm);
  const guard = uncertaintyMm / 2;
  const verdict = !gap
    ? 'undecided'
    : gap.gapMm > measures.gapMm + guard
      ? 'fail'
      : gap.gapMm > measures.gapMm - guard
        ? 'undecided'
        : 'pass';
  return { ok: true, value: { gap, verdict } };
}

/** What shots came to, remembered by the drawing and the shots. */
const judged = new WeakMap<ShowerModel, Map<string, Measured>>();

/** What the shots of a survey come to, as one finding. */
function surveyMeasured(model: ShowerModel, check: SurveyCheck, shots: readonly Shot[]): Measured {
  const fall = judgeFloorFall(model, check, shots);
  if (fall?.ok) {
    const { verdict, falls, deepestMm } = fall.value;
    return plain(verdict, { least: -falls.leastFall, greatest: falls.greatestFall, pond: deepestMm });
  }
  const flat = fall ? null : judgeFloorFlat(model, check, shots);
  return flat?.ok ? plain(flat.value.verdict, { gap: flat.value.gap?.gapMm ?? 0 }) : plain('undecided');
}

/**
 * A survey as a check: unseen without a shot, undecided with too few or with such as no floor can be made of. Worked out
 * once for the same shots of the same drawing, since it is asked for again and again.
 */
export function surveyFound(model: ShowerModel, check: SurveyCheck, readings: readonly Evidence[]): Measured {
  const shots = standingShots(readings);
  if (shots.length === 0) return plain('unseen');
  if (shots.length < check.shotsAtLeast) return plain('undecided');
  const key = JSON.stringify([check.measures, check.uncertaintyMm, shots.map((s) => [s.xMm, s.yMm, s.zMm])]);
  const known = judged.get(model) ?? new Map<string, Measured>();
  judged.set(model, known);
  const found = known.get(key) ?? surveyMeasured(model, check, shots);
  known.set(key, found);
  return found;
}

/** A level survey: nothing is asked until the first shot where the rule book does not demand one. */
export const surveyJudge: Judge<SurveyCheck> = {
  answeredBy: () => 'work',
  judge: ({ state, requirement, readings }) => ({
    measured: surveyFound(state.geometry!.model, requirement.check, readings),
  }),
  isOptional: (check) => !check.required,
};
