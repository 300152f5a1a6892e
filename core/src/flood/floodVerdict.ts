import { done, type Outcome, refuse } from '../outcome/outcome';
import { type EvaporationTaken, evaporationOf } from './evaporationOf';
import type { FloodVerdictInput } from './floodVerdictInput';
import { hoursStillNeeded } from './hoursStillNeeded';
import { loggerRate } from './loggerRate';
import { markRate } from './markRate';
import { less, quantile, type Rate } from './rate';
import {
  checkReadings,
  type FloodEvent,
  type LevelQuestion,
  type LevelReading,
  questionsOfLogger,
  questionsOfMarks,
  type Segment,
  settleFor,
  splitAtEvents,
} from './series';

export const FLOOD_REASONS = [
  'moisture-found',
  'loss-beyond-doubt',
  'tight-enough',
  'level-rose',
  'level-jumped',
  'too-few-readings',
  'time-not-run',
  'smallest-leak-not-set',
  'leak-not-excluded',
  'place-not-seen',
  'no-evaporation-known',
  'control-pan',
  'finer-gauge',
  'more-time',
  'more-time-does-not-help',
  'marks-off-line',
  'pan-times-differ',
] as const;
export type FloodReason = (typeof FLOOD_REASONS)[number];

/** Name and version of this calculation, as an ended test keeps it. Raise it when the same readings may give another verdict. */
export const FLOOD_CALCULATION = 'flood-verdict 1';

export interface FloodVerdict {
  verdict: 'pass' | 'fail' | 'undecided';
  /** Median of the net loss, evaporation taken off; null without two readings. */
  netLossMmPerDay: number | null;
  /** 2.5 % bound; null when evaporation is unknown, since then there is none. */
  lowMmPerDay: number | null;
  /** 97.5 % bound. */
  highMmPerDay: number | null;
  /** 0.5 % bound: a leak is beyond doubt when it lies above zero. */
  failBoundMmPerDay: number | null;
  /** Hours more until a decision may be expected; 0 when decided, null when time alone does not bring one. */
  hoursStillNeeded: number | null;
  reasons: FloodReason[];
  questions: LevelQuestion[];
  hoursRun: number;
  /** Loss of level as read, evaporation still in it. */
  lossMmPerDay: number | null;
  evaporation: EvaporationTaken;
  formula: string;
}

const DAY = 24;
const BREAKS_WATER: readonly FloodEvent['kind'][] = ['refill', 'plug-moved', 'power-cut', 'step'];
/** A first reading this long after the water went in vouches for the hours since [common practice, no source]. */
const SETTLED_WITHIN_HOURS = 2;
/** A minute: clocks and people are not finer than that. */
const MINUTE_HOURS = 1 / 60;

interface Prepared {
  readings: LevelReading[];
  segments: Segment[];
  questions: LevelQuestion[];
  startHours: number;
}

/** Water readings as they count: after the last time the plug was moved, split at the events, jumps asked about. */
function prepare(input: FloodVerdictInput): Prepared {
  const events = (input.events ?? []).filter((e) => (e.of ?? 'water') === 'water' && BREAKS_WATER.includes(e.kind));
  const startHours = Math.max(0, ...events.filter((e) => e.kind === 'plug-moved').map((e) => e.atHours));
  const readings = startHours > 0 ? input.readings.filter((r) => r.atHours > startHours) : input.readings;
  const breaks = events.map((e) => e.atHours);
  const settle = settleFor(input.method);
  const known = splitAtEvents(readings, breaks, settle);
  const ask = input.method === 'marks' ? questionsOfMarks : questionsOfLogger;
  const questions = ask(known, input.resolutionMm);
  const segments = splitAtEvents(readings, [...breaks, ...questions.map((q) => q.atHours - 1e-9)], settle);
  return { readings, segments, questions, startHours };
}

function rateOf(
  method: 'marks' | 'logger',
  segments: readonly Segment[],
  resolutionMm: number,
): { rate: Rate; widened: boolean } | null {
  if (method === 'marks') return markRate(segments, resolutionMm);
  const rate = loggerRate(segments, resolutionMm);
  return rate && { rate, widened: false };
}

function check(input: FloodVerdictInput): Outcome<null> {
  const water = checkReadings(input.readings, 'readings');
  if (!water.ok) return water;
  if (input.pan) {
    const pan = checkReadings(input.pan.readings, 'pan.readings');
    if (!pan.ok) return pan;
    if (input.pan.readings.length < 2)
      return refuse(
        'range-invalid',
        'pan.readings',
        'The control pan needs two readings at least: at the start and at the end.',
      );
  }
  return done(null);
}

interface Bounds {
  net: number;
  low: number;
  high: number;
  fail: number;
}

function boundsOf(net: Rate): Bounds {
  const perDay = (p: number) => quantile(net, p) * DAY;
  return { net: perDay(0.5), low: perDay(0.025), high: perDay(0.975), fail: perDay(0.005) };
}

function decide(
  input: FloodVerdictInput,
  p: Prepared,
  bounds: Bounds | null,
  evaporationKnown: boolean,
  hoursRun: number,
) {
  const reasons: FloodReason[] = [];
  if (input.moistureFound) return { verdict: 'fail' as const, reasons: ['moisture-found' as FloodReason] };
  for (const q of p.questions) if (!reasons.includes(q.kind)) reasons.push(q.kind);
  if (!bounds) return { verdict: 'undecided' as const, reasons: [...reasons, 'too-few-readings' as FloodReason] };
  const asked = reasons.length > 0;
  if (!asked && evaporationKnown && bounds.fail > 0)
    return { verdict: 'fail' as const, reasons: ['loss-beyond-doubt' as FloodReason] };
  const smallest = input.smallestLeakMmPerDay;
  if (hoursRun + MINUTE_HOURS < input.plannedHours) reasons.push('time-not-run');
  if (smallest === null) reasons.push('smallest-leak-not-set');
  else if (bounds.high >= smallest) reasons.push('leak-not-excluded');
  if (input.placeNotSeen) reasons.push('place-not-seen');
  if (reasons.length > 0) return { verdict: 'undecided' as const, reasons };
  return { verdict: 'pass' as const, reasons: ['tight-enough' as FloodReason] };
}

/**
 * The verdict on a flood test. The rate of loss comes from marks as intervals or from an autocorrelated logger series;
 * evaporation is taken off: the control pan's fall times a ratio of 1 ± 0.15 (95 %), else the estimate from the climate,
 * else it is only known to be at least zero. Fail is asked first: moisture found, or the one-sided 99.5 % lower bound of
 * the net loss above zero. Pass: the time is run, no moisture, and the one-sided 97.5 % upper bound under the smallest
 * leak the firm wants excluded. Else undecided. A rise or a jump that no event explains is asked about and decides nothing.
 */
export function floodVerdict(input: FloodVerdictInput): Outcome<FloodVerdict> {
  const checked = check(input);
  if (!checked.ok) return checked;
  const prepared = prepare(input);
  const first = prepared.readings[0]?.atHours ?? prepared.startHours;
  // What ran before the first reading counts only where that was taken soon after the water went in.
  const since = first - prepared.startHours <= SETTLED_WITHIN_HOURS ? prepared.startHours : first;
  const hoursRun = Math.max(0, (prepared.readings.at(-1)?.atHours ?? since) - since);
  const loss = rateOf(input.method, prepared.segments, input.resolutionMm);
  const window: [number, number] = [prepared.segments[0]?.hours[0] ?? 0, prepared.segments.at(-1)?.hours.at(-1) ?? 0];
  const evaporation = evaporationOf(input, prepared.readings, window, prepared.questions);
  if (!evaporation.ok) return evaporation;
  const { from, taken, against } = evaporation.value;
  const reading = against ?? loss?.rate ?? null;
  const net = reading && less(reading, taken ?? [0]);
  const bounds = net && boundsOf(net);
  const { verdict, reasons } = decide(input, prepared, bounds, taken !== null, hoursRun);
  const advice =
    verdict === 'undecided' && bounds
      ? adviceOf(input, bounds, evaporation.value.systematicMmPerDay, from, hoursRun)
      : [];
  const notes: FloodReason[] = [
    ...(loss?.widened ? ['marks-off-line' as const] : []),
    ...(evaporation.value.timesDiffer ? ['pan-times-differ' as const] : []),
    ...(from === 'nothing' && bounds && verdict !== 'pass' && !input.moistureFound
      ? ['no-evaporation-known' as const]
      : []),
  ];
  const needed =
    verdict !== 'undecided'
      ? 0
      : bounds === null || prepared.questions.length > 0
        ? Math.max(0, input.plannedHours - hoursRun)
        : hoursStillNeeded({
            ...bounds,
            hoursRun,
            systematic: evaporation.value.systematicMmPerDay,
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
    questions: prepared.questions,
    hoursRun,
    lossMmPerDay: loss ? quantile(loss.rate, 0.5) * DAY : null,
    evaporation: evaporation.value.shown,
    formula:
      input.method === 'marks'
        ? 'interval-censored marks, flat prior'
        : 'block means, correlated errors (restricted maximum likelihood)',
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
