import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { type Rate, tabulated } from './rate';
import type { Segment } from './series';

const RATES = 240;
const STARTS = 80;
/** More marks than this are thinned: neighbours of a logger's series tell the same. */
const MARKS = 40;

/** Ends of the rates for which every mark lies within `half` of one straight line per segment. */
function feasible(segments: readonly Segment[], half: number): [number, number] {
  let [low, high] = [-Infinity, Infinity];
  for (const { hours, levelMm } of segments) {
    for (let i = 0; i < hours.length; i += 1) {
      for (let j = i + 1; j < hours.length; j += 1) {
        const dt = hours[j]! - hours[i]!;
        const fall = levelMm[i]! - levelMm[j]!;
        low = Math.max(low, (fall - 2 * half) / dt);
        high = Math.min(high, (fall + 2 * half) / dt);
      }
    }
  }
  return [low, high];
}

/** The least half step at which one line fits at all. */
function leastHalf(segments: readonly Segment[], half: number): number {
  const fits = (h: number) => {
    const [a, b] = feasible(segments, h);
    return a < b;
  };
  if (fits(half)) return half;
  let [low, high] = [half, half * 2];
  while (!fits(high)) high *= 2;
  for (let k = 0; k < 40; k += 1) {
    const middle = (low + high) / 2;
    if (fits(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** Likelihood of a mark that lies so far from the line: uniform within its step, missed by an eye with this deviation. */
function likelihoodOf(half: number, eyeMm: number): (awayMm: number) => number {
  if (eyeMm <= 0) return (away) => (Math.abs(away) <= half ? 1 : 0);
  const reach = half + 7 * eyeMm;
  const table = Array.from({ length: 401 }, (_, k) => {
    const x = (k * reach) / 400;
    return normalCdf((x + half) / eyeMm, 0, 1) - normalCdf((x - half) / eyeMm, 0, 1);
  });
  return (away) => {
    const at = (Math.abs(away) * 400) / reach;
    const k = Math.floor(at);
    return k >= 400 ? 0 : table[k]! + (table[k + 1]! - table[k]!) * (at - k);
  };
}

/** Likelihood of a rate in one segment: its marks' product, summed over all starts. */
function overStarts({ hours, levelMm }: Segment, rate: number, reach: number, like: (away: number) => number): number {
  const starts = hours.map((t, i) => levelMm[i]! + rate * t);
  // A start that all marks bear lies within reach of each of them.
  const low = Math.max(...starts) - reach;
  const high = Math.min(...starts) + reach;
  if (high <= low) return 0;
  const step = (high - low) / STARTS;
  let sum = 0;
  for (let k = 0; k < STARTS; k += 1) {
    const start = low + (k + 0.5) * step;
    let product = 1;
    for (let i = 0; i < starts.length && product > 0; i += 1) product *= like(starts[i]! - start);
    sum += product;
  }
  return sum * step;
}

function thinned(s: Segment): Segment {
  const n = s.hours.length;
  if (n <= MARKS) return s;
  const keep = Array.from({ length: MARKS }, (_, k) => Math.round((k * (n - 1)) / (MARKS - 1)));
  return { hours: keep.map((k) => s.hours[k]!), levelMm: keep.map((k) => s.levelMm[k]!) };
}

/** A rate of loss from marks by hand. */
export interface MarkRate {
  rate: Rate;
  /** The marks fit no straight line within their step: the loss changed, or a mark was misread. The step was widened. */
  widened: boolean;
}

/**
 * The rate of loss from marks, taken as intervals: each uniform within half a step to both sides and missed by an eye with
 * the deviation given, flat prior on start and rate; the rate's marginal is its likelihood summed over all starts (their
 * product over segments). Null when no segment has two marks. Two marks without an eye's error give the triangular
 * distribution of their rounding.
 */
export function markRate(segments: readonly Segment[], resolutionMm: number, eyeMm = 0): MarkRate | null {
  const used = segments.filter((s) => s.hours.length >= 2).map(thinned);
  if (used.length === 0) return null;
  const least = leastHalf(used, resolutionMm / 2);
  const widened = least > resolutionMm / 2 + 2.5 * eyeMm;
  const half = widened ? least + resolutionMm / 2 : resolutionMm / 2;
  const like = likelihoodOf(half, eyeMm);
  const reach = half + 7 * eyeMm;
  let [low, high] = feasible(used, Math.max(reach, least));
  if (eyeMm <= 0) [low, high] = feasible(used, half);
  const at = (rate: number) => used.reduce((product, s) => product * overStarts(s, rate, reach, like), 1);
  // The first pass finds where the mass is, the second counts it there.
  for (let pass = 0; pass < 2; pass += 1) {
    const step = (high - low) / RATES;
    const density = Array.from({ length: RATES + 1 }, (_, k) => at(low + k * step));
    const most = Math.max(...density);
    const first = Math.max(0, density.findIndex((d) => d > most * 1e-7) - 1);
    const last = Math.min(RATES, density.findLastIndex((d) => d > most * 1e-7) + 1);
    [low, high] = [low + first * step, low + last * step];
  }
  return { rate: summed(at, low, high), widened };
}

/** A density over a stretch as a distribution. */
function summed(density: (x: number) => number, low: number, high: number): Rate {
  const step = (high - low) / RATES;
  const values = Array.from({ length: RATES + 1 }, (_, k) => density(low + k * step));
  const sums = [0];
  for (let k = 1; k <= RATES; k += 1) sums.push(sums[k - 1]! + (values[k - 1]! + values[k]!) / 2);
  const total = sums[RATES]!;
  const cdf = (x: number): number => {
    const at = (x - low) / step;
    if (at <= 0) return 0;
    if (at >= RATES) return 1;
    const k = Math.floor(at);
    const part = at - k;
    const here = values[k]! + ((values[k + 1]! - values[k]!) * part) / 2;
    return (sums[k]! + here * part) / total;
  };
  return tabulated(cdf, [low, high]);
}
