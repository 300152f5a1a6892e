import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { ACTIVITY_RANGE, AIR_SPEED_SPREAD_MS, evaporationMmPerHour } from './evaporation';
import type { ClimateReading, FloodVerdictInput } from './floodVerdictInput';
import { loggerRate } from './loggerRate';
import { markRate } from './markRate';
import { equalShares, type Rate, thinOut } from './rate';
import { type LevelQuestion, type LevelReading, settleFor, splitAtEvents } from './series';

/** The pan loses 1 ± 0.15 (95 %) of what the flooded floor loses: standard deviation of that ratio [common practice, no source]. */
export const PAN_RATIO_SD = 0.075;
type PanReadings = NonNullable<FloodVerdictInput['pan']>;

const RATIO_NODES = 61;
const RATE_NODES = 101;
const KEPT = 160;
/** A pan with fewer readings than this is read by hand, whatever gauge was used. */
const LOGGED_AT_LEAST = 12;
const DAY = 24;

/** Evaporation as it was taken off, mm per day; null where it is not known. */
export interface EvaporationTaken {
  from: 'pan' | 'climate' | 'nothing';
  mmPerDay: number | null;
  lowMmPerDay: number;
  highMmPerDay: number | null;
}

export interface Evaporation {
  from: EvaporationTaken['from'];
  /** mm per hour to take off, values of equal weight; null: only known to be at least zero. */
  taken: number[] | null;
  /** Loss less pan, read at the same times, in place of the loss itself. */
  against: Rate | null;
  timesDiffer: boolean;
  /** Half-width at 95 % that no longer test makes smaller, mm per day. */
  systematicMmPerDay: number;
  shown: EvaporationTaken;
}

const ratios = (): number[] =>
  Array.from({ length: RATIO_NODES }, (_, i) => normalQuantile((i + 0.5) / RATIO_NODES, 1, PAN_RATIO_SD));

const products = (a: readonly number[], b: readonly number[]): number[] =>
  thinOut(
    a.flatMap((x) => b.map((y) => x * y)),
    KEPT,
  );

function shownFor(from: 'pan' | 'climate', values: readonly number[]): EvaporationTaken {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (p: number) => sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))]! * DAY;
  return { from, mmPerDay: at(0.5), lowMmPerDay: at(0.025), highMmPerDay: at(0.975) };
}

function panMethod(input: FloodVerdictInput, pan: PanReadings): 'marks' | 'logger' {
  return input.method === 'logger' && pan.readings.length >= LOGGED_AT_LEAST ? 'logger' : 'marks';
}

/** Water less pan where both were logged at the same times: what moves both drops out. Null when they weren't. */
function difference(water: readonly LevelReading[], pan: readonly LevelReading[]): LevelReading[] | null {
  const panAt = new Map(pan.map((r) => [r.atHours, r.levelMm]));
  const both = water.filter((r) => panAt.has(r.atHours));
  if (both.length < LOGGED_AT_LEAST || both.length < water.length * 0.9) return null;
  return both.map((r) => ({ atHours: r.atHours, levelMm: r.levelMm - panAt.get(r.atHours)! }));
}

function fromPan(
  input: FloodVerdictInput,
  pan: PanReadings,
  water: readonly LevelReading[],
  window: readonly [number, number],
  questions: readonly LevelQuestion[],
): Outcome<Evaporation> {
  const method = panMethod(input, pan);
  const events = input.events ?? [];
  const panBreaks = events.filter((e) => e.of === 'pan').map((e) => e.atHours);
  const first = window[0];
  const inWindow = pan.readings.filter((r) => r.atHours >= first - 1);
  const settle = settleFor(method);
  const segments = splitAtEvents(inWindow, panBreaks, settle);
  const rate = method === 'marks' ? markRate(segments, pan.resolutionMm)?.rate : loggerRate(segments, pan.resolutionMm);
  if (!rate)
    return refuse(
      'range-invalid',
      'pan.readings',
      'The control pan has no two readings in the time of the test. Read it at the same times.',
    );
  const panRates = equalShares(rate, RATE_NODES);
  const span = (inWindow.at(-1)?.atHours ?? 0) - (inWindow[0]?.atHours ?? 0);
  const timesDiffer = span < 0.8 * (window[1] - window[0]);
  const whole = products(panRates, ratios());
  const typical = panRates[RATE_NODES >> 1]!;
  const systematicMmPerDay = 1.96 * PAN_RATIO_SD * Math.abs(typical) * DAY;
  const common = { from: 'pan' as const, timesDiffer, systematicMmPerDay, shown: shownFor('pan', whole) };
  const both = method === 'logger' ? difference(water, inWindow) : null;
  if (both) {
    const breaks = events.map((e) => e.atHours).concat(questions.map((q) => q.atHours - 1e-9));
    const against = loggerRate(splitAtEvents(both, breaks, settle), Math.max(input.resolutionMm, pan.resolutionMm));
    const rest = products(
      panRates,
      ratios().map((r) => r - 1),
    );
    if (against) return done({ ...common, taken: rest, against });
  }
  return done({ ...common, taken: whole, against: null });
}

/** Values of equal weight for the evaporation under one climate: activity 0.5 to 1, air speed ± 0.1 m/s. */
export function climateRates(climate: ClimateReading): number[] {
  const slow = Math.max(0, climate.airSpeedMs - AIR_SPEED_SPREAD_MS);
  const fast = climate.airSpeedMs + AIR_SPEED_SPREAD_MS;
  const values: number[] = [];
  for (let i = 0; i < 41; i += 1) {
    const activity = ACTIVITY_RANGE[0] + ((i + 0.5) / 41) * (ACTIVITY_RANGE[1] - ACTIVITY_RANGE[0]);
    for (let k = 0; k < 21; k += 1)
      values.push(evaporationMmPerHour({ ...climate, airSpeedMs: slow + ((k + 0.5) / 21) * (fast - slow) }, activity));
  }
  return thinOut(values, KEPT);
}

/** Share of the test that each climate reading stands for: half-way to its neighbours. */
function shares(readings: readonly ClimateReading[], [from, to]: readonly [number, number]): number[] {
  const at = readings.map((r) => Math.min(to, Math.max(from, r.atHours ?? from)));
  const ends = [from, ...at.slice(1).map((t, i) => (t + at[i]!) / 2), to];
  const total = Math.max(to - from, 1e-9);
  return readings.length === 1 ? [1] : readings.map((_, i) => (ends[i + 1]! - ends[i]!) / total);
}

function fromClimate(readings: readonly ClimateReading[], window: readonly [number, number]): Evaporation {
  const weights = shares(readings, window);
  const each = readings.map((r) => [...climateRates(r)].sort((a, b) => a - b));
  const taken = each[0]!.map((_, i) => each.reduce((sum, values, k) => sum + weights[k]! * values[i]!, 0));
  const shown = shownFor('climate', taken);
  const systematicMmPerDay = ((shown.highMmPerDay ?? 0) - shown.lowMmPerDay) / 2;
  return { from: 'climate', taken, against: null, timesDiffer: false, systematicMmPerDay, shown };
}

/** What evaporation takes: from the control pan, else from the climate, else unknown (at least zero). */
export function evaporationOf(
  input: FloodVerdictInput,
  water: readonly LevelReading[],
  window: readonly [number, number],
  questions: readonly LevelQuestion[],
): Outcome<Evaporation> {
  if (input.pan) return fromPan(input, input.pan, water, window, questions);
  const climate = input.climate === undefined ? [] : Array.isArray(input.climate) ? input.climate : [input.climate];
  if (climate.length > 0) return done(fromClimate(climate, window));
  const shown = { from: 'nothing' as const, mmPerDay: null, lowMmPerDay: 0, highMmPerDay: null };
  return done({ from: 'nothing', taken: null, against: null, timesDiffer: false, systematicMmPerDay: 0, shown });
}
