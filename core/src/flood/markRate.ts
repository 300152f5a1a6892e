import type { Rate } from './rate';
import type { Segment } from './series';

const GRID = 2000;

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

/** Length of the starts that fit one segment at a rate, 0 when none does. */
function room({ hours, levelMm }: Segment, half: number, rate: number): number {
  let [top, bottom] = [Infinity, -Infinity];
  hours.forEach((t, i) => {
    const start = levelMm[i]! + rate * t;
    top = Math.min(top, start + half);
    bottom = Math.max(bottom, start - half);
  });
  return Math.max(0, top - bottom);
}

/** The least half step at which one line fits at all. */
function leastHalf(segments: readonly Segment[], half: number): number {
  let [low, high] = [half, half * 2];
  const fits = (h: number) => {
    const [a, b] = feasible(segments, h);
    return a < b;
  };
  while (!fits(high)) high *= 2;
  for (let k = 0; k < 50; k += 1) {
    const middle = (low + high) / 2;
    if (fits(middle)) high = middle;
    else low = middle;
  }
  return high;
}

export interface MarkRate {
  rate: Rate;
  /** The marks fit no straight line within their step: the loss changed, or a mark was misread. The step was widened. */
  widened: boolean;
}

/**
 * The rate of loss from hand marks, taken as intervals: each mark uniform within half a step to both sides, flat prior on
 * start and rate; the rate's marginal is the length of the starts that fit it (their product over segments). Null when
 * no segment has two marks. Two marks give the triangular distribution of their rounding.
 */
export function markRate(segments: readonly Segment[], resolutionMm: number): MarkRate | null {
  const used = segments.filter((s) => s.hours.length >= 2);
  if (used.length === 0) return null;
  let half = resolutionMm / 2;
  let [low, high] = feasible(used, half);
  const widened = !(low < high);
  if (widened) {
    half = leastHalf(used, half) + resolutionMm / 2;
    [low, high] = feasible(used, half);
  }
  const step = (high - low) / GRID;
  const density = Array.from({ length: GRID + 1 }, (_, k) =>
    used.reduce((product, s) => product * room(s, half, low + k * step), 1),
  );
  const sums = [0];
  for (let k = 1; k <= GRID; k += 1) sums.push(sums[k - 1]! + (density[k - 1]! + density[k]!) / 2);
  const total = sums[GRID]!;
  const cdf = (x: number): number => {
    const at = (x - low) / step;
    if (at <= 0) return 0;
    if (at >= GRID) return 1;
    const k = Math.floor(at);
    const part = at - k;
    const here = density[k]! + ((density[k + 1]! - density[k]!) * part) / 2;
    return (sums[k]! + here * part) / total;
  };
  return { rate: { cdf, span: [low, high] }, widened };
}
