import type { ClimateLog } from './climateLog';
import { arrheniusRate, type CureModel, cureRate, REFERENCE_C } from './cureAge';
import { dryingRate } from './drying';

/** What hardens a layer: hydration, drying, or moisture of the air. */
export const CURE_KINDS = ['cement', 'drying', 'sealant'] as const;
export type CureKind = (typeof CURE_KINDS)[number];

const HOUR_MS = 3_600_000;
/** Readings further apart than this are bridged by the worse of the two, and the bridge is told, hours [common practice, no source]. */
export const GAP_HOURS = 3;

/** One layer that must harden before what comes next. */
export interface CureLayer {
  kind: CureKind;
  laidAtMs: number;
  /** What its label says, or the rule book: it is never ready sooner. */
  labelHours: number;
  model: CureModel;
  /** Its wet film over the one that the label's hours are meant for; 1 where nobody measured. */
  filmRatio: number;
}

/** Air from the last reading on, as somebody expects it. */
export interface Forecast {
  airC: number;
  relativeHumidity: number;
  /** From when on it is expected so, ms since 1970; until then the last reading goes on. At once without it. */
  fromMs?: number | undefined;
}

/** When a layer is ready, and by what. */
export interface CureReady {
  /** ms since 1970; null where the air as expected never lets it get ready. */
  readyAtMs: number | null;
  /** The label's hours, or what held it up. */
  decides: 'label' | 'cold' | 'damp' | 'film';
  /** Hours that it had earned by the last reading, of those that it needs. */
  earnedHours: number;
  /** Hours after it was laid without a reading near, bridged by the worse neighbour. */
  bridgedHours: number;
  /** Hours that counted nothing: too cold, or the air full. */
  lostHours: number;
  /** Hours before the end that rest on the forecast or on the last reading going on. */
  assumedHours: number;
  /** False where nobody read the air at all: the label's hours are taken as they are. */
  read: boolean;
}

type Rate = (airC: number, relativeHumidity: number) => number;

function rateOf({ kind, model, filmRatio }: CureLayer): Rate {
  if (kind === 'sealant') return () => 1;
  if (kind === 'drying') return (airC, humidity) => dryingRate(airC, humidity, filmRatio);
  const settings = { model, referenceC: REFERENCE_C };
  return (airC) => cureRate(airC, settings);
}

interface Run {
  earned: number;
  bridged: number;
  lost: number;
  atMs: number;
  /** Set once the need is met. */
  readyAtMs: number | null;
}

/** Adds a stretch of one rate; stops where the need is met. */
function spend(run: Run, toMs: number, rate: number, need: number): void {
  const hours = (toMs - run.atMs) / HOUR_MS;
  if (rate === 0) run.lost += hours;
  else if (run.readyAtMs === null && run.earned + hours * rate >= need)
    run.readyAtMs = run.atMs + ((need - run.earned) / rate) * HOUR_MS;
  run.earned += hours * rate;
  run.atMs = toMs;
}

/** First reading after a moment. */
function firstAfter(atMs: ArrayLike<number>, ms: number): number {
  let [low, high] = [0, atMs.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (atMs[middle]! <= ms) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Rates of all readings from one on: a year of minutes is counted in one plain loop for each kind. */
function ratesFrom(
  layer: CureLayer,
  { airC, relativeHumidity }: ClimateLog,
  from: number,
  count: number,
): Float64Array {
  const rates = new Float64Array(count - from);
  if (layer.kind === 'drying')
    for (let i = from; i < count; i += 1) rates[i - from] = dryingRate(airC[i]!, relativeHumidity[i]!, layer.filmRatio);
  else if (layer.model === 'nurse-saul') {
    const settings = { model: layer.model, referenceC: REFERENCE_C };
    for (let i = from; i < count; i += 1) rates[i - from] = cureRate(airC[i]!, settings);
  } else for (let i = from; i < count; i += 1) rates[i - from] = arrheniusRate(airC[i]!);
  return rates;
}

const GAP_MS = GAP_HOURS * HOUR_MS;

/**
 * Counts readings from `from` on until the need is met, in milliseconds at the reference: between two readings their mean,
 * over a gap the worse. `before` is the rate before the first of them, read at `sinceMs`; it counts from `startMs` on.
 */
function count(
  atMs: ArrayLike<number>,
  rates: Float64Array,
  from: number,
  start: { before: number; sinceMs: number; startMs: number },
  needMs: number,
): Run {
  let before = start.before;
  let sinceMs = start.sinceMs;
  let lastMs = start.startMs;
  let earnedMs = 0;
  let lostMs = 0;
  let bridgedMs = 0;
  let readyAtMs: number | null = null;
  const n = rates.length;
  for (let k = 0; k < n; k += 1) {
    const here = rates[k]!;
    const nowMs = atMs[from + k]!;
    const isGap = nowMs - sinceMs > GAP_MS;
    const counts = isGap ? Math.min(before, here) : (before + here) * 0.5;
    const spentMs = nowMs - lastMs;
    if (isGap) bridgedMs += spentMs;
    if (counts === 0) lostMs += spentMs;
    const more = spentMs * counts;
    if (counts > 0 && earnedMs + more >= needMs) readyAtMs = lastMs + (needMs - earnedMs) / counts;
    earnedMs += more;
    lastMs = nowMs;
    sinceMs = nowMs;
    before = here;
    if (readyAtMs !== null) break;
  }
  return {
    earned: earnedMs / HOUR_MS,
    lost: lostMs / HOUR_MS,
    bridged: bridgedMs / HOUR_MS,
    atMs: lastMs,
    readyAtMs,
  };
}

/** Runs a layer through the readings after it was laid. */
function throughLog(layer: CureLayer, log: ClimateLog, rate: Rate): Run {
  const { atMs, airC, relativeHumidity } = log;
  const from = firstAfter(atMs, layer.laidAtMs);
  if (from >= atMs.length) return { earned: 0, bridged: 0, lost: 0, atMs: layer.laidAtMs, readyAtMs: null };
  const rates = ratesFrom(layer, log, from, atMs.length);
  const before = from > 0 ? rate(airC[from - 1]!, relativeHumidity[from - 1]!) : rates[0]!;
  const sinceMs = from > 0 ? atMs[from - 1]! : layer.laidAtMs;
  return count(atMs, rates, from, { before, sinceMs, startMs: layer.laidAtMs }, layer.labelHours * HOUR_MS);
}

/** What holds a layer up beyond its label: the cold, the damp, or a film that without its thickness would be ready by it. */
function heldBy(layer: CureLayer, log: ClimateLog, forecast: Forecast | null): CureReady['decides'] {
  if (layer.kind === 'cement') return 'cold';
  const thin = layer.filmRatio > 1 && cureReady({ ...layer, filmRatio: 1 }, log, forecast).decides === 'label';
  return thin ? 'film' : 'damp';
}

/**
 * When a layer is ready: never sooner than its label's hours, later by the cold or the damp that was read since it was
 * laid, and by the air expected from the last reading on (that reading's own where nobody foretells). Without any
 * reading the label's hours stand alone. Times in ms since 1970. [equivalent age: form of ASTM C1074; drying: own form]
 */
export function cureReady(layer: CureLayer, log: ClimateLog, forecast: Forecast | null = null): CureReady {
  const labelMs = layer.laidAtMs + layer.labelHours * HOUR_MS;
  const rate = rateOf(layer);
  const last = log.atMs.length - 1;
  const read = last >= 0 || forecast !== null;
  if (!read || layer.kind === 'sealant')
    return {
      readyAtMs: labelMs,
      decides: 'label',
      earnedHours: 0,
      bridgedHours: 0,
      lostHours: 0,
      assumedHours: 0,
      read: read && layer.kind !== 'sealant',
    };
  const run = throughLog(layer, log, rate);
  const earnedHours = Math.min(layer.labelHours, run.earned);
  if (last >= 0 && forecast?.fromMs !== undefined && forecast.fromMs > run.atMs && run.readyAtMs === null)
    spend(run, forecast.fromMs, rate(log.airC[last]!, log.relativeHumidity[last]!), layer.labelHours);
  const ahead = forecast ?? { airC: log.airC[last]!, relativeHumidity: log.relativeHumidity[last]! };
  const onward = rate(ahead.airC, ahead.relativeHumidity);
  const endMs = run.readyAtMs ?? (onward > 0 ? run.atMs + ((layer.labelHours - run.earned) / onward) * HOUR_MS : null);
  const readyAtMs = endMs === null ? null : Math.max(labelMs, endMs);
  const lastMs = last >= 0 ? Math.max(layer.laidAtMs, log.atMs[last]!) : layer.laidAtMs;
  return {
    readyAtMs,
    decides: readyAtMs !== null && readyAtMs <= labelMs + 1000 ? 'label' : heldBy(layer, log, forecast),
    earnedHours,
    bridgedHours: run.bridged,
    lostHours: run.lost,
    assumedHours: readyAtMs === null ? 0 : Math.max(0, (readyAtMs - lastMs) / HOUR_MS),
    read,
  };
}

/** The same with the air a few degrees warmer and colder than expected: earliest and latest, ms since 1970. */
export function cureBand(
  layer: CureLayer,
  log: ClimateLog,
  forecast: Forecast,
  plusMinusC: number,
): { earliestMs: number | null; latestMs: number | null } {
  const at = (by: number) => cureReady(layer, log, { ...forecast, airC: forecast.airC + by }).readyAtMs;
  return { earliestMs: at(plusMinusC), latestMs: at(-plusMinusC) };
}
