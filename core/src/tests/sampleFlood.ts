import { floodCheckOf } from '../rules/ruleBook';
import { BOOK, climb, fold, pass, releaseBody, type Tablet } from './sampleTablet';

export const HOUR_MS = 3_600_000;
export const FILL_MM = 76.2;
export const PLACES = floodCheckOf(BOOK.methods[0]!)!.check.places.map((p) => p.id);

/** A shower released up to its drain, its mortar old enough for water. */
export function readyForWater(t: Tablet): Tablet {
  climb(t, 'drain-tie-in');
  pass(t, 'drain-tie-in');
  t.write('stage-released', releaseBody('drain-tie-in'));
  t.until(t.nowMs() + 30 * HOUR_MS);
  t.write('stage-released', releaseBody('cure'));
  return t;
}

export function lookForWater(t: Tablet, moment: 'start' | 'leaving' | 'end', places = PLACES): void {
  for (const where of places) t.write('moisture-look', { where, found: false, answer: 'dry', moment });
}

/** Water in now: the looks at the start, and the test as the rule book asks for it. */
export function waterIn(t: Tablet, levelMm = FILL_MM, startLooks = PLACES): string {
  const id = t.write('flood-started', {
    waterLineMm: levelMm,
    plannedHours: 24,
    method: 'logger',
    resolutionMm: 0.1,
    panResolutionMm: 0.1,
    smallestLeakMmPerDay: 1,
    prepared: [],
  });
  lookForWater(t, 'start', startLooks);
  return id;
}

export interface Logged {
  leakMmPerDay?: number;
  evaporationMmPerDay?: number;
  hours?: number;
  fromHours?: number;
}

/** A small scatter that repeats itself and has no trend, mm. */
const scatter = (k: number): number => 0.05 * Math.sin(k * 2.4) + 0.04 * Math.sin(k * 0.7);

/** The logger's files of water and pan for the test that runs; the tablet's clock moves on to their end. */
export function logged(t: Tablet, more: Logged = {}): void {
  const { leakMmPerDay = 0, evaporationMmPerDay = 2, hours = 25, fromHours = 0 } = more;
  const test = fold(t.entries).flood!;
  const minutes = Array.from({ length: Math.round((hours - fromHours) * 6) + 1 }, (_, k) => k * 10);
  const startAt = new Date(test.startMs + fromHours * HOUR_MS).toISOString();
  const level = (start: number, perDay: number, seed: number) =>
    minutes.map((m, k) => Math.round((start - (perDay * (fromHours + m / 60)) / 24 + scatter(k + seed)) * 10) / 10);
  t.until(test.startMs + hours * HOUR_MS);
  const water = level(test.filledToMm, leakMmPerDay + evaporationMmPerDay, 0);
  const series = (of: 'water' | 'pan', levelMm: number[]) => ({
    levelMm: Math.min(...levelMm),
    instrument: 'logger',
    of,
    resolutionMm: 0.1,
    series: { startAt, minutes, levelMm, file: `${of}.csv` },
  });
  t.write('flood-reading', series('water', water));
  t.write('flood-reading', series('pan', level(60, evaporationMmPerDay, 31)));
}

/** Looks at the end, and the end as the tablet would state it. */
export function endFlood(
  t: Tablet,
  stated: 'pass' | 'fail' | 'undecided' | 'aborted' = 'pass',
  endLooks = PLACES,
): string {
  lookForWater(t, 'end', endLooks);
  const test = fold(t.entries).flood!;
  return t.write('flood-ended', { lowestLevelMm: test.waterLineMm, verdict: stated, inputs: test.inputs });
}

/** A whole test that a tight shower passes. */
export function passFlood(t: Tablet, levelMm = FILL_MM): void {
  waterIn(t, levelMm);
  logged(t);
  endFlood(t);
}

/** A shower whose flood passed and was released. */
export function flooded(t: Tablet): Tablet {
  readyForWater(t);
  passFlood(t);
  t.write('stage-released', releaseBody('flood-test'));
  return t;
}
