import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { ACTIVITY_RANGE, AIR_SPEED_SPREAD_MS, evaporationMmPerHour } from './evaporation';
import type { ClimateReading, FloodVerdictInput } from './floodVerdictInput';
import { INSTRUMENTS, stepOf } from './gauge';
import { type LossRate, lossRate } from './lossRate';
import { atLeastZero, equalShares, thinOut } from './rate';
import {
  type LevelQuestion,
  type LevelReading,
  questionsOfLogger,
  questionsOfMarks,
  type Segment,
  settleFor,
  splitAtEvents,
  stuckIn,
} from './series';

/** The pan loses 1 ± 0.15 (95 %) of what the flooded floor loses: standard deviation of that ratio [common practice, no source]. */
export const PAN_RATIO_SD = 0.075;
type PanReadings = NonNullable<FloodVerdictInput['pan']>;

const RATIO_NODES = 61;
const RATE_NODES = 101;
const KEPT = 160;
/** A pan with fewer readings than this is read by hand, whatever gauge was used. */
const LOGGED_AT_LEAST = 12;
/** A pan that begins later or ends earlier than the water by more than this says nothing of the hours between; nor does what was read of it so long before. */
const PAN_MISSES_HOURS = 2;
/** Beyond chance: one in two hundred. */
const BEYOND_CHANCE = 0.995;
/** How far an estimate from the air may lie under the truth: read elsewhere, or before the water cooled [common practice, no source]. */
const CLIMATE_SD = 0.15;
const DAY = 24;

/** Evaporation as it was taken off, mm per day; null where it is not known. */
export interface EvaporationTaken {
  from: 'pan' | 'climate' | 'nothing';
  mmPerDay: number | null;
  lowMmPerDay: number;
  highMmPerDay: number | null;
}

/** What the air took of the water, and how that is known. */
export interface Evaporation {
  /** A pan, the air as it was read, or nothing. */
  from: EvaporationTaken['from'];
  /** mm per hour to take off, values of equal weight; null: only known to be at least zero. */
  taken: number[] | null;
  /** What may be taken off for a pass: without a pan nothing, since the air over the water may have been full. */
  takenForPass: number[];
  /** Loss less pan, read at the same times, in place of the loss itself, with the series it comes from. */
  against: LossRate | null;
  difference: Segment[] | null;
  /** Pan and water were not read at the same times. */
  timesDiffer: boolean;
  /** Half-width at 95 % that no longer test makes smaller, mm per day. */
  systematicMmPerDay: number;
  shown: EvaporationTaken;
  /** What is asked about the pan’s own readings. */
  questions: LevelQuestion[];
}

const ratios = (sd: number): number[] =>
  Array.from({ length: RATIO_NODES }, (_, i) => normalQuantile((i + 0.5) / RATIO_NODES, 1, sd));

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
function differenceOf(water: readonly LevelReading[], pan: readonly LevelReading[]): LevelReading[] | null {
  const panAt = new Map(pan.map((r) => [r.atHours, r.levelMm]));
  const both = water.filter((r) => panAt.has(r.atHours));
  if (both.length < LOGGED_AT_LEAST || both.length < water.length * 0.9) return null;
  return both.map((r) => ({ atHours: r.atHours, levelMm: r.levelMm - panAt.get(r.atHours)! }));
}

/** What the pan says that can't be: it rose, it jumped, it stood still for hours, it was not there for part of the test. */
function panQuestions(
  method: 'marks' | 'logger',
  readings: readonly LevelReading[],
  segments: readonly Segment[],
  stepMm: number,
  rate: LossRate,
  window: readonly [number, number],
): LevelQuestion[] {
  const jumps =
    method === 'marks'
      ? questionsOfMarks(segments, stepMm, INSTRUMENTS.marks.eyeMm)
      : questionsOfLogger(segments, stepMm);
  const asked: LevelQuestion[] = jumps.map((q) => ({
    ...q,
    kind: q.kind === 'level-rose' ? 'pan-rose' : 'pan-jumped',
  }));
  const [first, last] = [readings[0]!, readings.at(-1)!];
  const stuck = method === 'logger' ? stuckIn(readings, stepMm) : null;
  if (stuck) asked.push({ kind: 'pan-stuck', atHours: stuck.atHours, byMm: 0 });
  if (asked.length === 0 && rate.rate.cdf(0) > BEYOND_CHANCE)
    asked.push({ kind: 'pan-rises', atHours: last.atHours, byMm: last.levelMm - first.levelMm });
  if (first.atHours > window[0] + PAN_MISSES_HOURS)
    asked.push({ kind: 'pan-begins-late', atHours: first.atHours, byMm: 0 });
  if (last.atHours < window[1] - PAN_MISSES_HOURS)
    asked.push({ kind: 'pan-ends-early', atHours: last.atHours, byMm: 0 });
  return asked;
}

function fromPan(
  input: FloodVerdictInput,
  pan: PanReadings,
  water: readonly LevelReading[],
  window: readonly [number, number],
  questions: readonly LevelQuestion[],
  startHours: number,
  stepMm: number,
): Outcome<Evaporation> {
  const method = panMethod(input, pan);
  const events = input.events ?? [];
  const panBreaks = events.filter((e) => e.of === 'pan').map((e) => e.atHours);
  // The pan is read when it is filled, the water once it has settled: what was read shortly before belongs to the test.
  const inWindow = pan.readings.filter((r) => r.atHours >= window[0] - PAN_MISSES_HOURS);
  const settle = settleFor(method);
  const segments = splitAtEvents(inWindow, panBreaks, settle);
  const panStepMm = stepOf(
    inWindow.map((r) => r.levelMm),
    pan.resolutionMm,
  );
  const eyeMm = input.eyeErrorMm ?? INSTRUMENTS.marks.eyeMm;
  const rate = lossRate(method, segments, panStepMm, eyeMm, startHours);
  if (!rate) return refuse('pan-not-read-meanwhile', 'pan.readings');
  const panRates = equalShares(atLeastZero(rate.rate), RATE_NODES);
  const span = inWindow.at(-1)!.atHours - inWindow[0]!.atHours;
  const whole = products(panRates, ratios(PAN_RATIO_SD));
  const typical = panRates[RATE_NODES >> 1]!;
  const common = {
    from: 'pan' as const,
    timesDiffer: span < 0.8 * (window[1] - window[0]),
    systematicMmPerDay: 1.96 * PAN_RATIO_SD * Math.abs(typical) * DAY,
    shown: shownFor('pan', whole),
    questions: panQuestions(method, inWindow, segments, panStepMm, rate, window),
  };
  const both = method === 'logger' ? differenceOf(water, inWindow) : null;
  if (both) {
    const breaks = events.map((e) => e.atHours).concat(questions.map((q) => q.atHours - 1e-9));
    const difference = splitAtEvents(both, breaks, settle);
    const against = lossRate('logger', difference, Math.max(stepMm, panStepMm), eyeMm, startHours);
    const rest = products(
      panRates,
      ratios(PAN_RATIO_SD).map((r) => r - 1),
    );
    if (against?.logger) return done({ ...common, taken: rest, takenForPass: rest, against, difference });
  }
  return done({ ...common, taken: whole, takenForPass: whole, against: null, difference: null });
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
  return thinOut(
    values.map((v) => Math.max(0, v)),
    KEPT,
  );
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
  const estimate = each[0]!.map((_, i) => each.reduce((sum, values, k) => sum + weights[k]! * values[i]!, 0));
  const shown = shownFor('climate', estimate);
  return {
    from: 'climate',
    taken: products(estimate, ratios(CLIMATE_SD)),
    takenForPass: [0],
    against: null,
    difference: null,
    timesDiffer: false,
    systematicMmPerDay: ((shown.highMmPerDay ?? 0) - shown.lowMmPerDay) / 2,
    shown,
    questions: [],
  };
}

/**
 * What evaporation takes: from the control pan; else from the climate, which counts towards a fail alone, since the air over
 * the water may have been damper than where it was read; else unknown (at least zero).
 */
export function evaporationOf(
  input: FloodVerdictInput,
  water: readonly LevelReading[],
  window: readonly [number, number],
  questions: readonly LevelQuestion[],
  startHours: number,
  stepMm: number,
): Outcome<Evaporation> {
  if (input.pan) return fromPan(input, input.pan, water, window, questions, startHours, stepMm);
  const climate = input.climate === undefined ? [] : Array.isArray(input.climate) ? input.climate : [input.climate];
  if (climate.length > 0) return done(fromClimate(climate, window));
  return done({
    from: 'nothing',
    taken: null,
    takenForPass: [0],
    against: null,
    difference: null,
    timesDiffer: false,
    systematicMmPerDay: 0,
    shown: { from: 'nothing', mmPerDay: null, lowMmPerDay: 0, highMmPerDay: null },
    questions: [],
  });
}
