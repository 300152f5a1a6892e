import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { versionOf } from '../outcome/versions';
import { type Evaporation, type EvaporationTaken, evaporationOf } from './evaporationOf';
import type { FloodVerdictInput } from './floodVerdictInput';
import { INSTRUMENTS } from './gauge';
import { hoursStillNeeded } from './hoursStillNeeded';
import { type LossRate, lossRate } from './lossRate';
import { type Prepared, prepare, SETTLED_WITHIN_HOURS } from './preparedReadings';
import { atLeastZero, less, quantile, type Rate } from './rate';
import { checkReadings, LEVEL_QUESTIONS, type LevelQuestion, type LevelReading } from './series';
import { slowing } from './slowing';

/** Why a verdict is as it is, and what would help. */
export const FLOOD_REASONS = [
  'moisture-found',
  'loss-beyond-doubt',
  'leak-stopped',
  'tight-enough',
  ...LEVEL_QUESTIONS,
  'too-few-readings',
  'time-not-run',
  'smallest-leak-not-set',
  'leak-not-excluded',
  'place-not-seen',
  'no-evaporation-known',
  'control-pan',
  'finer-gauge',
  'step-coarser',
  'more-time',
  'more-time-does-not-help',
  'marks-off-line',
  'pan-times-differ',
] as const;
/** One of them. */
export type FloodReason = (typeof FLOOD_REASONS)[number];

/** Name and version of this calculation, as an ended test keeps it. */
export const FLOOD_CALCULATION = `flood-verdict ${versionOf('flood-verdict')}`;

/** Between which levels a leak lies that stopped when the water had sunk to it, mm as the readings count. */
export interface LeakBand {
  heightMm: number;
  lowMm: number;
  highMm: number;
}

/** What a flood test says. */
export interface FloodVerdict {
  verdict: 'pass' | 'fail' | 'undecided';
  /** Median of the net loss, evaporation taken off, at least zero; null without two readings. */
  netLossMmPerDay: number | null;
  /** 2.5 % bound, at least zero; null when evaporation is unknown, since then there is none. */
  lowMmPerDay: number | null;
  /** 97.5 % bound, given that nothing leaks in. */
  highMmPerDay: number | null;
  /** 0.5 % bound, at least zero: a leak is beyond doubt when it lies above zero. */
  failBoundMmPerDay: number | null;
  /** Hours more until a decision may be expected; 0 when decided, null when time alone does not bring one. */
  hoursStillNeeded: number | null;
  reasons: FloodReason[];
  questions: LevelQuestion[];
  hoursRun: number;
  /** Loss of level as read, evaporation still in it. */
  lossMmPerDay: number | null;
  evaporation: EvaporationTaken;
  /** Where a leak that stopped lies; null where none did. */
  leakHeight: LeakBand | null;
  /** The step that the readings were taken to have, mm. */
  stepMm: number;
  formula: string;
}

const DAY = 24;
/** Beyond chance: one in two hundred. */
const BEYOND_CHANCE = 0.995;
/** A minute: clocks and people are not finer than that. */
export const MINUTE_HOURS = 1 / 60;

function check(input: FloodVerdictInput): Outcome<null> {
  const water = checkReadings(input.readings, 'readings');
  if (!water.ok) return water;
  if (input.pan) {
    const pan = checkReadings(input.pan.readings, 'pan.readings');
    if (!pan.ok) return pan;
    if (input.pan.readings.length < 2) return refuse('pan-readings-too-few', 'pan.readings');
  }
  return done(null);
}

interface Bounds {
  net: number;
  low: number;
  high: number;
  fail: number;
}

interface Net {
  bounds: Bounds;
  /** The lower bound for a fail before it was set to at least zero, mm per day: a leak is beyond doubt above that. */
  failAtMmPerDay: number;
  /** Less than nothing leaks, beyond chance. */
  isBelowZero: boolean;
}

const DRIFT_NODES = 21;
/** The bound for a fail lies between that of the likeliest correlation, by this share, and that of all a series bears: by calibration at most 2 of 100 tight ones fail. */
const LIKELIEST = 0.4;

/** What a logger's creeping adds, mm per hour, values of equal weight. */
function drift(input: FloodVerdictInput): number[] {
  const sd = input.method === 'logger' ? (input.driftMmPerDay ?? INSTRUMENTS.logger.driftMmPerDay) : 0;
  if (sd === 0) return [0];
  return Array.from({ length: DRIFT_NODES }, (_, i) => normalQuantile((i + 0.5) / DRIFT_NODES, 0, sd) / DAY);
}

/** The net loss: nothing leaks in, so that no bound lies below zero, and the upper one is given that. */
function netOf(input: FloodVerdictInput, loss: LossRate, { taken, takenForPass }: Evaporation): Net {
  const creeping = drift(input);
  const net = (rate: Rate, off: readonly number[]) => less(less(rate, off), creeping);
  const perDay = (rate: Rate, p: number) => Math.max(0, quantile(rate, p) * DAY);
  const middle = net(loss.rate, taken ?? [0]);
  const doubt = net(loss.cautious, taken ?? [0]);
  const failAt = LIKELIEST * quantile(middle, 0.005) + (1 - LIKELIEST) * quantile(doubt, 0.005);
  const most = taken === takenForPass ? middle : net(loss.rate, takenForPass);
  return {
    bounds: {
      net: perDay(middle, 0.5),
      low: perDay(middle, 0.025),
      high: perDay(atLeastZero(most), 0.975),
      fail: Math.max(0, failAt * DAY),
    },
    failAtMmPerDay: failAt * DAY,
    isBelowZero: middle.cdf(0) > BEYOND_CHANCE,
  };
}

/** The level of the water at a time, between its neighbours, mm. */
function levelAt(readings: readonly LevelReading[], atHours: number): number {
  const after = readings.findIndex((r) => r.atHours >= atHours);
  if (after <= 0) return (after === 0 ? readings[0] : readings.at(-1))!.levelMm;
  const [a, b] = [readings[after - 1]!, readings[after]!];
  return a.levelMm + ((b.levelMm - a.levelMm) * (atHours - a.atHours)) / (b.atHours - a.atHours);
}

/** A loss that slowed: a leak whose height was reached where the pan tells evaporation apart, a question where nothing does. */
function slowed(p: Prepared, evaporation: Evaporation): { band: LeakBand | null; question: LevelQuestion | null } {
  const found = slowing(evaporation.difference ?? p.segments, p.stepMm, p.startHours);
  if (!found?.isLeak) return { band: null, question: null };
  if (!evaporation.difference)
    return { band: null, question: { kind: 'loss-slowed', atHours: found.atHours, byMm: -found.extraMm } };
  const level = (hours: number) => levelAt(p.readings, hours);
  return {
    band: { heightMm: level(found.atHours), lowMm: level(found.toHours), highMm: level(found.fromHours) },
    question: null,
  };
}

function decide(
  input: FloodVerdictInput,
  questions: readonly LevelQuestion[],
  net: Net | null,
  evaporationKnown: boolean,
  hoursRun: number,
  leakBand: LeakBand | null,
) {
  const reasons: FloodReason[] = [];
  if (input.moistureFound) return { verdict: 'fail' as const, reasons: ['moisture-found' as FloodReason] };
  for (const q of questions) if (!reasons.includes(q.kind)) reasons.push(q.kind);
  if (!net) return { verdict: 'undecided' as const, reasons: [...reasons, 'too-few-readings' as FloodReason] };
  const asked = reasons.length > 0;
  if (!asked && leakBand) return { verdict: 'fail' as const, reasons: ['leak-stopped' as FloodReason] };
  if (!asked && evaporationKnown && net.failAtMmPerDay > 0)
    return { verdict: 'fail' as const, reasons: ['loss-beyond-doubt' as FloodReason] };
  const smallest = input.smallestLeakMmPerDay;
  if (hoursRun + MINUTE_HOURS < input.plannedHours) reasons.push('time-not-run');
  if (smallest === null) reasons.push('smallest-leak-not-set');
  else if (net.bounds.high >= smallest) reasons.push('leak-not-excluded');
  if (input.placeNotSeen) reasons.push('place-not-seen');
  if (reasons.length > 0) return { verdict: 'undecided' as const, reasons };
  return { verdict: 'pass' as const, reasons: ['tight-enough' as FloodReason] };
}

/**
 * The verdict on a flood test. The rate of loss comes from marks as intervals that an eye may miss, or from an autocorrelated
 * logger series, what is absorbed in the first hours being an unknown of its own; a logger may creep. Evaporation is taken
 * off: the control pan's fall times a ratio of 1 ± 0.15 (95 %); the estimate from the climate towards a fail alone; else it is
 * only known to be at least zero. Nothing leaks in: no bound lies below zero, the upper one is given that. Fail is asked first:
 * moisture found, a loss that stopped at a height, or the one-sided 99.5 % lower bound of the net loss above zero. Pass: the
 * time is run, no moisture, and the 97.5 % upper bound under the smallest leak the firm wants excluded. Else undecided. What
 * can't be (rising, jumping, standing still, beginning late, less than nothing), of water or pan, is asked about and decides
 * nothing.
 */
export function floodVerdict(input: FloodVerdictInput): Outcome<FloodVerdict> {
  const checked = check(input);
  if (!checked.ok) return checked;
  const prepared = prepare(input);
  const { readings, segments, startHours, stepMm, eyeMm } = prepared;
  const first = readings[0]?.atHours ?? startHours;
  // What ran before the first reading counts only where that was taken soon after the water went in.
  const since = first - startHours <= SETTLED_WITHIN_HOURS ? startHours : first;
  const hoursRun = Math.max(0, (readings.at(-1)?.atHours ?? since) - since);
  const loss = lossRate(input.method, segments, stepMm, eyeMm, startHours);
  const window: [number, number] = [segments[0]?.hours[0] ?? 0, segments.at(-1)?.hours.at(-1) ?? 0];
  const found = evaporationOf(input, readings, window, prepared.questions, startHours, stepMm);
  if (!found.ok) return found;
  const evaporation = found.value;
  const { from, taken, against } = evaporation;
  const reading = against ?? loss;
  const net = reading && netOf(input, reading, evaporation);
  const bounds = net?.bounds ?? null;
  const slow = slowed(prepared, evaporation);
  const questions = [...prepared.questions, ...evaporation.questions];
  const last = readings.at(-1);
  if (loss && questions.length === 0 && loss.rate.cdf(0) > BEYOND_CHANCE)
    questions.push({ kind: 'level-rises', atHours: last!.atHours, byMm: last!.levelMm - readings[0]!.levelMm });
  if (slow.question) questions.push(slow.question);
  if (from === 'pan' && net?.isBelowZero && questions.length === 0)
    questions.push({ kind: 'less-than-nothing', atHours: last!.atHours, byMm: 0 });
  const { verdict, reasons } = decide(input, questions, net, taken !== null, hoursRun, slow.band);
  const advice =
    verdict === 'undecided' && bounds ? adviceOf(input, bounds, evaporation.systematicMmPerDay, from, hoursRun) : [];
  const notes: FloodReason[] = [
    ...(loss?.widened ? ['marks-off-line' as const] : []),
    ...(stepMm > input.resolutionMm ? ['step-coarser' as const] : []),
    ...(evaporation.timesDiffer ? ['pan-times-differ' as const] : []),
    ...(from === 'nothing' && bounds && verdict !== 'pass' && !input.moistureFound
      ? ['no-evaporation-known' as const]
      : []),
  ];
  const needed =
    verdict !== 'undecided'
      ? 0
      : net === null || questions.length > 0
        ? Math.max(0, input.plannedHours - hoursRun)
        : hoursStillNeeded({
            ...net.bounds,
            fail: net.failAtMmPerDay,
            hoursRun,
            systematic: evaporation.systematicMmPerDay,
            input,
            evaporationKnown: taken !== null,
          });
  return done({
    verdict,
    netLossMmPerDay: bounds?.net ?? null,
    lowMmPerDay: taken === null ? null : (bounds?.low ?? null),
    highMmPerDay: bounds?.high ?? null,
    failBoundMmPerDay: taken === null ? null : (bounds?.fail ?? null),
    hoursStillNeeded: needed,
    reasons: [...new Set([...reasons, ...timeAdvice(verdict, bounds, needed, hoursRun, input), ...advice, ...notes])],
    questions,
    hoursRun,
    lossMmPerDay: loss ? quantile(loss.rate, 0.5) * DAY : null,
    evaporation: evaporation.shown,
    leakHeight: verdict === 'fail' && reasons.includes('leak-stopped') ? slow.band : null,
    stepMm,
    formula: reading?.logger
      ? 'block means, correlated errors (restricted maximum likelihood), absorption in the first hours'
      : 'interval-censored readings, flat prior',
  });
}

function timeAdvice(
  verdict: string,
  bounds: Bounds | null,
  needed: number | null,
  hoursRun: number,
  input: FloodVerdictInput,
): FloodReason[] {
  if (verdict !== 'undecided' || !bounds || input.smallestLeakMmPerDay === null) return [];
  if (needed === null) return ['more-time-does-not-help'];
  return needed > Math.max(0, input.plannedHours - hoursRun) + 0.01 ? ['more-time'] : [];
}

/** What would narrow the interval, besides time: a pan, or a finer gauge. */
function adviceOf(
  input: FloodVerdictInput,
  bounds: Bounds,
  systematic: number,
  from: string,
  hoursRun: number,
): FloodReason[] {
  const smallest = input.smallestLeakMmPerDay;
  if (smallest === null || bounds.high < smallest) return [];
  const advice: FloodReason[] = [];
  if (from !== 'pan') advice.push('control-pan');
  const half = (bounds.high - bounds.low) / 2;
  const gauge = ((input.resolutionMm * 0.776) / Math.max(hoursRun, 1)) * DAY;
  if (input.method === 'marks' && half > systematic && gauge > smallest / 4) advice.push('finer-gauge');
  return advice;
}
