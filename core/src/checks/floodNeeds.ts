import type { FloodLook, FloodTest, Shortfall } from '../log/floodTest';
import type { FloodCheck } from '../rules/checks/flood';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { FloodVerdict } from '../water/floodVerdict';
import { firstLevel } from './floodReadings';
import { lowestCurbMm } from './waterProof';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A look at the end may be begun this long before the time is run, hours [common practice, no source]. */
const END_LOOK_BEFORE_HOURS = 0.5;

/** Height of the floor at the walls' feet and the threshold, mm above the drain rim. */
export const thresholdMm = (model: ShowerModel): number => model.geometry.perimeterRiseMm ?? 0;

/** The water line that a test needs at least, mm above the drain rim: as deep over the drain and at the threshold as asked. */
export function leastFillMm(model: ShowerModel, check: Pick<FloodCheck, 'atThresholdAtLeastMm'>): number {
  return thresholdMm(model) + check.atThresholdAtLeastMm;
}

/** True for a look that saw something, dry or wet. */
const seen = (l: FloodLook): boolean => l.answer !== 'could-not-see';

/** Places that nobody looked at, at a moment of the test at which the look still says something. */
function unseenAt(test: FloodTest, check: FloodCheck, moment: 'start' | 'end'): string[] {
  const fits = (l: FloodLook) =>
    moment === 'start'
      ? l.atMs <= test.startMs + check.startLookWithinHours * HOUR_MS
      : l.atMs >= test.startMs + (check.plannedHours - END_LOOK_BEFORE_HOURS) * HOUR_MS;
  const looks = test.looks.filter((l) => l.moment === moment && seen(l) && fits(l));
  return check.places.map((p) => p.id).filter((id) => !looks.some((l) => l.where === id));
}

/**
 * What a test falls short of, by the rule book that the shower is judged by; empty when it lacks nothing. `judged` is the
 * verdict on its readings, or null where there is none. What the tablet wrote into the test of hours, depth or leak to
 * exclude counts for nothing here.
 */
export function floodShortfalls(
  test: FloodTest,
  check: FloodCheck,
  model: ShowerModel,
  judged: Pick<FloodVerdict, 'hoursRun'> | null,
): Shortfall[] {
  const short: Shortfall[] = test.layersMissing.map((where) => ({ kind: 'layers-missing', by: 1, where }));
  const lacking = check.plannedHours - (judged?.hoursRun ?? 0);
  if (lacking > 1 / 60) short.push({ kind: 'hours', by: lacking, where: null });
  const lineMm = Math.min(test.filledToMm, firstLevel(test) ?? test.filledToMm);
  const shallow = leastFillMm(model, check) - lineMm;
  if (shallow > 0.5) short.push({ kind: 'depth', by: shallow, where: null });
  const over = test.filledToMm - (lowestCurbMm(model) ?? Infinity);
  if (over > 0.5) short.push({ kind: 'over-curb', by: over, where: null });
  for (const moment of ['start', 'end'] as const)
    for (const where of unseenAt(test, check, moment)) short.push({ kind: `${moment}-look`, by: 1, where });
  return short;
}

/** The verdict of a test as a whole: what leaks fails; a pass that lacks something, or readings that say nothing, are undecided. */
export function wholeVerdict(
  judged: Pick<FloodVerdict, 'verdict'> | null,
  moistureFound: boolean,
  short: readonly Shortfall[],
): FloodVerdict['verdict'] {
  if (moistureFound || judged?.verdict === 'fail') return 'fail';
  return judged?.verdict === 'pass' && short.length === 0 ? 'pass' : 'undecided';
}
