import tCdf from '@stdlib/stats-base-dists-t-cdf';
import { less, type Rate, tabulated } from './rate';
import { median, type Segment } from './series';

/** At most this many block means; a logger's readings are averaged down to them. */
const BLOCKS = 72;
/** Correlations between neighbouring blocks that are tried: 0 to nearly 1. */
const CORRELATIONS = Array.from({ length: 50 }, (_, k) => (k * 0.98) / 49);
const LEAST_BLOCKS = 5;

export interface Blocks {
  hours: number[];
  levelMm: number[];
  /** Which run between two breaks it belongs to. */
  segment: number[];
  /** Usual distance of neighbouring blocks, hours. */
  widthHours: number;
}

/** Means over equal windows of time, within each segment; fewer readings than windows stay as they are. */
export function blockMeans(segments: readonly Segment[]): Blocks {
  const count = segments.reduce((sum, s) => sum + s.hours.length, 0);
  const start = segments[0]!.hours[0]!;
  const span = segments.at(-1)!.hours.at(-1)! - start;
  const blocks: Blocks = {
    hours: [],
    levelMm: [],
    segment: [],
    widthHours: span / Math.min(BLOCKS, Math.max(1, count - 1)),
  };
  segments.forEach((s, index) => {
    let [window, n, hours, level] = [-1, 0, 0, 0];
    const close = () => {
      if (n === 0) return;
      blocks.hours.push(hours / n);
      blocks.levelMm.push(level / n);
      blocks.segment.push(index);
    };
    s.hours.forEach((t, i) => {
      const here = count <= BLOCKS ? i : Math.min(BLOCKS - 1, Math.floor(((t - start) / span) * BLOCKS));
      if (here !== window) {
        close();
        [window, n, hours, level] = [here, 0, 0, 0];
      }
      n += 1;
      hours += t;
      level += s.levelMm[i]!;
    });
    close();
  });
  return blocks;
}

/** Solves the symmetric system a·x = b in place by Cholesky; gives x, the log of the determinant and one diagonal element of the inverse. */
function solve(a: number[][], b: number[]): { x: number[]; logDet: number; lastInverse: number } {
  const n = b.length;
  const l: number[][] = a.map((row) => [...row]);
  let logDet = 0;
  for (let j = 0; j < n; j += 1) {
    for (let k = 0; k < j; k += 1) for (let i = j; i < n; i += 1) l[i]![j]! -= l[i]![k]! * l[j]![k]!;
    const pivot = Math.sqrt(Math.max(l[j]![j]!, 1e-300));
    logDet += 2 * Math.log(pivot);
    for (let i = j; i < n; i += 1) l[i]![j]! /= pivot;
  }
  const y = [...b];
  for (let i = 0; i < n; i += 1) {
    for (let k = 0; k < i; k += 1) y[i]! -= l[i]![k]! * y[k]!;
    y[i]! /= l[i]![i]!;
  }
  const x = [...y];
  for (let i = n - 1; i >= 0; i -= 1) {
    for (let k = i + 1; k < n; k += 1) x[i]! -= l[k]![i]! * x[k]!;
    x[i]! /= l[i]![i]!;
  }
  return { x, logDet, lastInverse: 1 / l[n - 1]![n - 1]! ** 2 };
}

export interface LineFit {
  /** mm per hour, up positive. */
  slope: number;
  standardError: number;
  /** Level of each segment at hour 0, mm. */
  starts: number[];
  residualSd: number;
  /** Log of the restricted likelihood, up to a constant. */
  logLikelihood: number;
}

/**
 * Generalised least squares with errors whose correlation falls as correlation^(distance / block width): the level of
 * each segment and one common slope (the last unknown). `floorVariance` keeps a series without scatter from claiming
 * to know more than its steps can tell.
 */
export function fitLine(blocks: Blocks, correlation: number, segments: number, floorVariance: number): LineFit {
  const size = segments + 1;
  const a = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const b = new Array<number>(size).fill(0);
  let [yy, logV] = [0, 0];
  const n = blocks.hours.length;
  for (let i = 0; i < n; i += 1) {
    const gap = i === 0 ? Infinity : (blocks.hours[i]! - blocks.hours[i - 1]!) / blocks.widthHours;
    const phi = i === 0 || correlation === 0 ? 0 : correlation ** Math.max(gap, 1e-9);
    const scale = 1 / Math.sqrt(1 - phi * phi);
    logV -= 2 * Math.log(scale);
    const row = new Array<number>(size).fill(0);
    row[blocks.segment[i]!]! += scale;
    if (i > 0) row[blocks.segment[i - 1]!]! -= scale * phi;
    row[size - 1] = scale * (blocks.hours[i]! - (i > 0 ? phi * blocks.hours[i - 1]! : 0));
    const y = scale * (blocks.levelMm[i]! - (i > 0 ? phi * blocks.levelMm[i - 1]! : 0));
    yy += y * y;
    for (let p = 0; p < size; p += 1) {
      b[p]! += row[p]! * y;
      for (let q = 0; q < size; q += 1) a[p]![q]! += row[p]! * row[q]!;
    }
  }
  const { x, logDet, lastInverse } = solve(a, b);
  const freedom = n - size;
  const residual = Math.max(0, yy - x.reduce((sum, v, i) => sum + v * b[i]!, 0)) + freedom * floorVariance;
  return {
    slope: x[size - 1]!,
    standardError: Math.sqrt((residual / freedom) * lastInverse),
    starts: x.slice(0, segments),
    residualSd: Math.sqrt(residual / freedom),
    logLikelihood: -0.5 * (logV + logDet + freedom * Math.log(residual)),
  };
}

/** Scatter of single readings about their neighbours, mm: from successive differences, robust. */
function scatterMm(segments: readonly Segment[]): number {
  const changes = segments.flatMap((s) => s.levelMm.slice(1).map((l, i) => l - s.levelMm[i]!));
  if (changes.length === 0) return 0;
  const usual = median(changes);
  return (1.4826 * median(changes.map((c) => Math.abs(c - usual)))) / Math.SQRT2;
}

/** Nodes of the triangular error that rounding at the two ends of a smooth series leaves on its slope, in steps. */
const ROUNDING = Array.from({ length: 21 }, (_, i) => {
  const p = (i + 0.5) / 21;
  return p < 0.5 ? Math.sqrt(2 * p) - 1 : 1 - Math.sqrt(2 * (1 - p));
});

/**
 * The rate of loss from a logger. Its readings are autocorrelated: block means whose errors have the correlation of
 * highest restricted likelihood, and Student's t about the generalised least squares slope. A series smoother than half
 * its step also carries the rounding of its ends. Null with fewer than five blocks.
 */
export function loggerRate(segments: readonly Segment[], resolutionMm: number): Rate | null {
  const usable = segments.filter((s) => s.hours.length >= 2);
  const blocks = usable.length > 0 ? blockMeans(usable) : null;
  if (!blocks || blocks.hours.length < LEAST_BLOCKS + usable.length - 1) return null;
  return rateOfBlocks(blocks, usable, resolutionMm);
}

/** The same from block means made elsewhere: `segments` tell the scatter and the span. */
export function rateOfBlocks(blocks: Blocks, segments: readonly Segment[], resolutionMm: number): Rate {
  const origin = blocks.levelMm[0]!;
  const centred = { ...blocks, levelMm: blocks.levelMm.map((l) => l - origin) };
  const perBlock = segments.reduce((sum, s) => sum + s.hours.length, 0) / blocks.hours.length;
  const floorVariance = resolutionMm ** 2 / 12 / perBlock;
  const fits = CORRELATIONS.map((c) => fitLine(centred, c, segments.length, floorVariance));
  const best = fits.reduce((a, b) => (b.logLikelihood > a.logLikelihood ? b : a));
  const freedom = blocks.hours.length - segments.length - 1;
  const span = segments.at(-1)!.hours.at(-1)! - segments[0]!.hours[0]!;
  const reach = best.standardError * 60;
  const rate = tabulated(
    (x) => tCdf((x + best.slope) / best.standardError, freedom),
    [-best.slope - reach, -best.slope + reach],
  );
  if (scatterMm(segments) >= resolutionMm / 2) return rate;
  return less(
    rate,
    ROUNDING.map((r) => (r * resolutionMm) / span),
  );
}
