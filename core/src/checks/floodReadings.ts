import type { FloodLook, FloodTest } from '../log/floodTest';
import type { FloodCheck } from '../rules/checks/flood';
import type { FloodVerdictInput } from '../water/floodVerdictInput';

/** A minute: nobody waits finer than that, hours. */
const SETTLED_MINUTE = 1 / 60;

/** m/s of air over the water in a closed bathroom [common practice, no source]. */
const STILL_AIR_MS = 0.05;

/** Latest series of one water, or null. */
const latestSeries = (test: FloodTest, of: 'water' | 'pan') => test.series.findLast((s) => s.of === of) ?? null;

/** Levels that were read by hand, one for each moment, in order of time; what came before the water is left out. */
function levelsOf(test: FloodTest, of: 'water' | 'pan') {
  const byTime = new Map<number, number>();
  for (const l of test.levels) if (l.of === of && l.atHours >= 0) byTime.set(l.atHours, l.levelMm);
  return [...byTime].map(([atHours, levelMm]) => ({ atHours, levelMm })).sort((a, b) => a.atHours - b.atHours);
}

/** What a logger wrote from the filling on. */
function seriesReadings(series: NonNullable<ReturnType<typeof latestSeries>>) {
  return series.hours.flatMap((atHours, i) => (atHours < 0 ? [] : [{ atHours, levelMm: series.levelMm[i]! }]));
}

/** The pan beside the water, if two levels of it are known. */
function panOf(test: FloodTest): FloodVerdictInput['pan'] | undefined {
  const series = latestSeries(test, 'pan');
  if (series) return { readings: seriesReadings(series), resolutionMm: series.resolutionMm };
  const readings = levelsOf(test, 'pan');
  return readings.length >= 2 ? { readings, resolutionMm: test.panResolutionMm ?? test.resolutionMm } : undefined;
}

/** True for moisture that a test is answerable for: wet, and not so before the water. */
export const isWetLook = (look: Pick<FloodLook, 'answer' | 'moment'>): boolean =>
  look.answer === 'wet' && look.moment !== 'start';

/** The first level of the water that was read, mm above the drain rim; null without a reading. */
export function firstLevel(test: FloodTest): number | null {
  const series = latestSeries(test, 'water');
  return (series ? seriesReadings(series) : levelsOf(test, 'water'))[0]?.levelMm ?? null;
}

/** All entries that a test consists of; none where there is no test. */
export const floodEntries = (test: FloodTest | null): string[] =>
  test ? [...test.inputs, ...test.looks.map((l) => l.entry), ...(test.end ? [test.end.entry] : [])] : [];

/**
 * What the verdict is computed from: the readings as they are, judged by the rule book's hours and its smallest leak, not by
 * what the test was started with. Null while there is no reading of the water at all.
 */
export function verdictInput(test: FloodTest, check: FloodCheck): FloodVerdictInput | null {
  const series = latestSeries(test, 'water');
  const settled = (r: { atHours: number }) => series !== null || r.atHours >= check.settleHours - SETTLED_MINUTE;
  const readings = (series ? seriesReadings(series) : levelsOf(test, 'water')).filter(settled);
  if (readings.length === 0) return null;
  const pan = panOf(test);
  const events = test.events.filter((e) => e.atHours >= 0).map(({ kind, of, atHours }) => ({ kind, of, atHours }));
  const climate = test.climate
    .filter((c) => c.atHours >= -2)
    .map(({ entry: _entry, ...c }) => ({ ...c, atHours: Math.max(0, c.atHours), airSpeedMs: STILL_AIR_MS }));
  return {
    method: series ? 'logger' : 'marks',
    readings,
    resolutionMm: series?.resolutionMm ?? test.resolutionMm,
    ...(events.length > 0 ? { events } : {}),
    ...(pan ? { pan } : {}),
    ...(climate.length > 0 ? { climate } : {}),
    settleHours: check.settleHours,
    smallestLeakMmPerDay: check.smallestLeakMmPerDay,
    plannedHours: check.plannedHours,
    moistureFound: test.looks.some(isWetLook),
  };
}

/** Hour at which the planned time is run, ms since 1970. */
export const plannedEndMs = (test: FloodTest): number => test.startMs + test.plannedHours * 3_600_000;

/** The lowest level that the readings themselves tell, down to the first break of a logger's series. */
export function lowestRead(test: FloodTest): number {
  const series = latestSeries(test, 'water');
  const cut = Math.min(...test.events.filter((e) => e.kind === 'power-cut').map((e) => e.atHours), Infinity);
  const logged = series ? series.levelMm.filter((_, i) => series.hours[i]! >= 0 && series.hours[i]! < cut) : [];
  const read = test.levels.filter((l) => l.of === 'water').map((l) => l.levelMm);
  return [...logged, ...read].reduce((low, l) => Math.min(low, l), test.filledToMm);
}
