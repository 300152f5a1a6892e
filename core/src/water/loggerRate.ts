import tCdf from '@stdlib/stats-base-dists-t-cdf';
import { less, type Rate, tabulated } from './rate';
import { median, type Segment } from './series';

/** At most this many block means; a logger's readings are averaged down to them. */
const BLOCKS = 72;
/** Correlations between neighbouring blocks that are tried: 0 to nearly 1. */
const CORRELATIONS = [...Array.from({ length: 18 }, (_, k) => k * 0.05), 0.88, 0.91, 0.93, 0.95, 0.965, 0.98];
const LEAST_BLOCKS = 5;

/** A logger’s readings in means of blocks. */
export interface Blocks {
  /** Middle of each block. */
  hours: number[];
  /** Its mean level, mm. */
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

/** A straight line through blocks, a start for each run. */
export interface LineFit {
  /** mm per hour, up positive. */
  slope: number;
  /** Of the slope, mm per hour. */
  standardError: number;
  /** Level of each segment at hour 0, mm. */
  starts: number[];
  /** Scatter of a block about the line, mm. */
  residualSd: number;
  /** Log of the restricted likelihood, up to a constant. */
  logLikelihood: number;
}

/** One unknown beside the levels of the segments: its value at each block, and how large it may be beforehand. */
export interface Column {
  values: readonly number[];
  /** Standard deviation of what is expected of it, mm; without one it is free. */
  priorMm?: number;
}

/**
 * Generalised least squares with errors whose correlation falls as correlation^(distance / block width): the level of each
 * segment, then the columns; the last column's value and its standard error come back as slope. `floorVariance` keeps a
 * series without scatter from claiming to know more than its steps can tell.
 */
export function fitColumns(
  blocks: Blocks,
  correlation: number,
  segments: number,
  floorVariance: number,
  columns: readonly Column[],
  scatterMm = 0,
): LineFit {
  const size = segments + columns.length;
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
    for (let c = 0; c < columns.length; c += 1) {
      const { values } = columns[c]!;
      row[segments + c] = scale * (values[i]! - (i > 0 ? phi * values[i - 1]! : 0));
    }
    const y = scale * (blocks.levelMm[i]! - (i > 0 ? phi * blocks.levelMm[i - 1]! : 0));
    yy += y * y;
    for (let p = 0; p < size; p += 1) {
      b[p]! += row[p]! * y;
      for (let q = 0; q < size; q += 1) a[p]![q]! += row[p]! * row[q]!;
    }
  }
  columns.forEach(({ priorMm }, c) => {
    if (priorMm !== undefined) a[segments + c]![segments + c]! += (scatterMm / priorMm) ** 2;
  });
  const { x, logDet, lastInverse } = solve(a, b);
  const free = columns.filter((c) => c.priorMm === undefined).length;
  const freedom = n - segments - free;
  const residual = Math.max(0, yy - x.reduce((sum, v, i) => sum + v * b[i]!, 0)) + freedom * floorVariance;
  return {
    slope: x[size - 1]!,
    standardError: Math.sqrt((residual / freedom) * lastInverse),
    starts: x.slice(0, segments),
    residualSd: Math.sqrt(residual / freedom),
    logLikelihood: -0.5 * (logV + logDet + freedom * Math.log(residual)),
  };
}

/** The level of each segment and one common slope. */
export function fitLine(blocks: Blocks, correlation: number, segments: number, floorVariance: number): LineFit {
  return fitColumns(blocks, correlation, segments, floorVariance, [{ values: blocks.hours }]);
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

/** What mortar and fleece may drink in the first hours, mm, and how fast that dies away, hours [common practice, no source]. */
export const ABSORBED_MM = 0.2;
const ABSORBED_HOURS = 2;

/** A logger’s rate of loss. */
export interface LoggerRate {
  rate: Rate;
  /** The same over all correlations that the series bears, not the likeliest alone: wider, for a claim that must not be wrong. */
  cautious: Rate;
  /** The correlation of neighbouring blocks that was taken, and the scatter of a block, mm. */
  correlation: number;
  blockSdMm: number;
}

/**
 * The rate of loss from a logger. Its readings are autocorrelated: block means whose errors have the correlation of
 * highest restricted likelihood, and Student's t about the generalised least squares slope; what is absorbed in the first
 * hours is an unknown of its own. A series smoother than half its step also carries the rounding of its ends. Null with
 * fewer than five blocks. `filledHours` is when the water went in.
 */
export function loggerRate(segments: readonly Segment[], resolutionMm: number, filledHours = 0): LoggerRate | null {
  const usable = segments.filter((s) => s.hours.length >= 2);
  const blocks = usable.length > 0 ? blockMeans(usable) : null;
  if (!blocks || blocks.hours.length < LEAST_BLOCKS + usable.length - 1) return null;
  return rateOfBlocks(blocks, usable, resolutionMm, filledHours);
}

/** What was drunk until each block, as a share of all of it, up positive (water that is drunk lowers the level). */
export const absorbed = (hours: readonly number[], filledHours: number): number[] =>
  hours.map((t) => Math.exp(-Math.max(0, t - filledHours) / ABSORBED_HOURS));

function fits(blocks: Blocks, segments: number, floorVariance: number, filledHours: number): LineFit[] {
  const line = { values: blocks.hours };
  const early = { values: absorbed(blocks.hours, filledHours), priorMm: ABSORBED_MM };
  return CORRELATIONS.map((c) => {
    const { residualSd } = fitColumns(blocks, c, segments, floorVariance, [line]);
    return fitColumns(blocks, c, segments, floorVariance, [early, line], residualSd);
  });
}

/** Student's t about slopes, weighted. A fall of the level counts as positive. */
function spread(parts: readonly { fit: LineFit; weight: number }[], freedom: number): Rate {
  const reach = (f: LineFit) => f.standardError * 60;
  const low = Math.min(...parts.map(({ fit }) => -fit.slope - reach(fit)));
  const high = Math.max(...parts.map(({ fit }) => -fit.slope + reach(fit)));
  return tabulated(
    (x) => parts.reduce((sum, { fit, weight }) => sum + weight * tCdf((x + fit.slope) / fit.standardError, freedom), 0),
    [low, high],
  );
}

/** Fits that the series bears, with their likelihoods as weights that add up to one. */
function weighted(all: readonly LineFit[]): { fit: LineFit; weight: number }[] {
  const most = Math.max(...all.map((f) => f.logLikelihood));
  const parts = all.map((fit) => ({ fit, weight: Math.exp(fit.logLikelihood - most) })).filter((p) => p.weight > 0.01);
  const total = parts.reduce((sum, p) => sum + p.weight, 0);
  return parts.map(({ fit, weight }) => ({ fit, weight: weight / total }));
}

/** Fewer blocks than this tell their own correlation too badly to trust the likeliest one alone. */
const FEW_BLOCKS = 36;

/** The same from block means made elsewhere: `segments` tell the scatter and the span. */
export function rateOfBlocks(
  blocks: Blocks,
  segments: readonly Segment[],
  resolutionMm: number,
  filledHours = 0,
): LoggerRate {
  const origin = blocks.levelMm[0]!;
  const centred = { ...blocks, levelMm: blocks.levelMm.map((l) => l - origin) };
  const perBlock = segments.reduce((sum, s) => sum + s.hours.length, 0) / blocks.hours.length;
  const floorVariance = resolutionMm ** 2 / 12 / perBlock;
  const all = fits(centred, segments.length, floorVariance, filledHours);
  const best = all.reduce((a, b) => (b.logLikelihood > a.logLikelihood ? b : a));
  const freedom = Math.max(1, blocks.hours.length - segments.length - 1);
  const span = segments.at(-1)!.hours.at(-1)! - segments[0]!.hours[0]!;
  const smooth = scatterMm(segments) < resolutionMm / 2;
  const rounded = (rate: Rate): Rate =>
    smooth
      ? less(
          rate,
          ROUNDING.map((r) => (r * resolutionMm) / span),
        )
      : rate;
  const cautious = rounded(spread(weighted(all), freedom));
  const likeliest = blocks.hours.length < FEW_BLOCKS ? cautious : rounded(spread([{ fit: best, weight: 1 }], freedom));
  return {
    rate: likeliest,
    cautious,
    correlation: CORRELATIONS[all.indexOf(best)]!,
    blockSdMm: best.residualSd,
  };
}
