import type { ClimateLog } from './climateLog';
import { arrheniusRate, type CureModel, cureRate, REFERENCE_C } from './cureAge';
import { dryingRate } from './drying';

/** What hardens a layer: hydration, drying, or moisture of the air. */
export const CURE_KINDS = ['cement', 'drying', 'sealant'] as const;
/** What hardens, and by what it does: cement by temperature, a film by drying, a sealant by its label alone. */
export type CureKind = (typeof CURE_KINDS)[number];

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Readings further apart than this are bridged by the worse of the two, and the bridge is told, hours [common practice, no source]. */
export const GAP_HOURS = 3;

/** One layer that must harden before what comes next. */
export interface CureLayer {
  /** What hardens or dries. */
  kind: CureKind;
  /** When it was laid, ms since 1970. */
  laidAtMs: number;
  /** What its label says, or the rule book: it is never ready sooner. */
  labelHours: number;
  /** How cement is counted. */
  model: CureModel;
  /** Its wet film over the one that the label's hours are meant for; 1 where nobody measured. */
  filmRatio: number;
}

/** Air from the last reading on, as somebody expects it. */
export interface Forecast {
  /** Temperature of the air, °C. */
  airC: number;
  /** Share of what the air could hold, 0 to 1. */
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

/** Hours that an hour in such air counts for. */
type Rate = (airC: number, relativeHumidity: number) => number;

/** How a layer counts the hours in the air. */
function rateOf({ kind, model, filmRatio }: CureLayer): Rate {
  if (kind === 'sealant') return () => 1;
  if (kind === 'drying') return (airC, humidity) => dryingRate(airC, humidity, filmRatio);
  const settings = { model, referenceC: REFERENCE_C };
  return (airC) => cureRate(airC, settings);
}

/** What was earned so far, and how much of it rests on guesses. */
interface Run {
  /** Hours earned. */
  earned: number;
  /** Of them in gaps that are short enough to be bridged. */
  bridged: number;
  /** Hours in gaps that are too long, which count for nothing. */
  lost: number;
  /** When, ms since 1970. */
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

/** Readings that are counted at a time: most layers are ready long before a log ends, and a short list stays at hand. */
const BLOCK = 4096;
/** Rates of one block of readings, used again for each. */
const blockRates = new Float64Array(BLOCK);

/** Rates of `n` readings from one on, written to the front of `rates`: one plain loop for each kind. */
function readRates(layer: CureLayer, log: ClimateLog, from: number, n: number, rates: Float64Array): void {
  const { airC, relativeHumidity } = log;
  if (layer.kind === 'drying')
    for (let k = 0; k < n; k += 1) rates[k] = dryingRate(airC[from + k]!, relativeHumidity[from + k]!, layer.filmRatio);
  else if (layer.model === 'nurse-saul') {
    const settings = { model: layer.model, referenceC: REFERENCE_C };
    for (let k = 0; k < n; k += 1) rates[k] = cureRate(airC[from + k]!, settings);
  } else for (let k = 0; k < n; k += 1) rates[k] = arrheniusRate(airC[from + k]!);
}

/** A gap longer than this is not bridged, ms. */
const GAP_MS = GAP_HOURS * HOUR_MS;

/** How far a layer has come, in milliseconds at the reference. */
interface Counting {
  /** Rate of the reading before, and when it was read. */
  before: number;
  /** From which moment on it counts, ms since 1970. */
  sinceMs: number;
  /** Counted up to here. */
  lastMs: number;
  /** Hours earned, ms. */
  earnedMs: number;
  /** In gaps that are too long, ms. */
  lostMs: number;
  /** In gaps that are bridged, ms. */
  bridgedMs: number;
  /** When the hours of the label were earned, ms since 1970; null while they were not. */
  readyAtMs: number | null;
}

/**
 * Counts `n` readings on, until the need is met: between two readings their mean, over a gap the worse. `rates` are theirs,
 * `from` the place of the first.
 */
function count(
  so: Counting,
  atMs: ArrayLike<number>,
  from: number,
  n: number,
  rates: Float64Array,
  needMs: number,
): void {
  let { before, sinceMs, lastMs, earnedMs, lostMs, bridgedMs } = so;
  let readyAtMs: number | null = null;
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
  Object.assign(so, { before, sinceMs, lastMs, earnedMs, lostMs, bridgedMs, readyAtMs });
}

/** Runs a layer through the readings after it was laid. */
function throughLog(layer: CureLayer, log: ClimateLog, rate: Rate): Run {
  const { atMs, airC, relativeHumidity } = log;
  const first = firstAfter(atMs, layer.laidAtMs);
  if (first >= atMs.length) return { earned: 0, bridged: 0, lost: 0, atMs: layer.laidAtMs, readyAtMs: null };
  const known = Math.max(0, first - 1);
  const so: Counting = {
    before: rate(airC[known]!, relativeHumidity[known]!),
    sinceMs: first > 0 ? atMs[known]! : layer.laidAtMs,
    lastMs: layer.laidAtMs,
    earnedMs: 0,
    lostMs: 0,
    bridgedMs: 0,
    readyAtMs: null,
  };
  for (let from = first; from < atMs.length && so.readyAtMs === null; from += BLOCK) {
    const n = Math.min(BLOCK, atMs.length - from);
    readRates(layer, log, from, n, blockRates);
    count(so, atMs, from, n, blockRates, layer.labelHours * HOUR_MS);
  }
  const { earnedMs, lostMs, bridgedMs, lastMs, readyAtMs } = so;
  return {
    earned: earnedMs / HOUR_MS,
    lost: lostMs / HOUR_MS,
    bridged: bridgedMs / HOUR_MS,
    atMs: lastMs,
    readyAtMs,
  };
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
