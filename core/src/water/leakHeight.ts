import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { anyMm, hoursSince } from '../units/bounded';
import { checkReadings } from './series';

/** A level that sinks more slowly as it nears a hole. */
export const LeakHeightInput = z.object({
  readings: z
    .array(z.object({ atHours: hoursSince, levelMm: anyMm }))
    .min(1)
    .max(25_000),
  /** The full step of the gauge, mm. */
  resolutionMm: z.number().positive().max(50),
  /** Wetted area at levels, m²; the same everywhere without it. */
  areaByLevel: z
    .array(z.object({ levelMm: anyMm, m2: z.number().positive().max(10_000) }))
    .min(1)
    .max(500)
    .optional(),
  evaporationMmPerHour: z.number().min(0).max(100),
});
export type LeakHeightInput = z.infer<typeof LeakHeightInput>;

/** The height of a leak, with its bounds at 95 %, mm. */
export interface LeakHeight {
  /** Level at which the water stops running out: an upper bound of the hole, since a fine one holds some water back, mm. */
  heightMm: number;
  lowMm: number;
  highMm: number;
}

const LEAST_READINGS = 8;
const READINGS_KEPT = 120;
const HEIGHTS = 161;
/** Steps of the equation between two readings. */
const STEPS = 4;
/** Likelihood ratio of the 95 % interval (chi-squared, one unknown). */
const RATIO_95 = 3.84;

type Area = (levelMm: number) => number;

function areaOf(table: LeakHeightInput['areaByLevel']): Area {
  if (!table) return () => 1;
  const sorted = [...table].sort((a, b) => a.levelMm - b.levelMm);
  return (level) => {
    const after = sorted.findIndex((p) => p.levelMm >= level);
    if (after === 0) return sorted[0]!.m2;
    if (after < 0) return sorted.at(-1)!.m2;
    const [a, b] = [sorted[after - 1]!, sorted[after]!];
    return a.m2 + ((b.m2 - a.m2) * (level - a.levelMm)) / (b.levelMm - a.levelMm);
  };
}

/** Levels at the readings' times by A(h)·dh/dt = −k·√(h − h₀) − e·A(h), from a start (fourth-order Runge-Kutta). */
function run(hours: readonly number[], start: number, k: number, h0: number, e: number, area: Area): number[] {
  const slope = (h: number) => -(k * Math.sqrt(Math.max(0, h - h0))) / area(h) - e;
  const levels = [start];
  for (let i = 1; i < hours.length; i += 1) {
    const dt = (hours[i]! - hours[i - 1]!) / STEPS;
    let h = levels[i - 1]!;
    for (let s = 0; s < STEPS; s += 1) {
      const a = slope(h);
      const b = slope(h + (a * dt) / 2);
      const c = slope(h + (b * dt) / 2);
      const d = slope(h + c * dt);
      h += ((a + 2 * b + 2 * c + d) * dt) / 6;
    }
    levels.push(h);
  }
  return levels;
}

/** Sum of squares of the best start for this course: the mean of the differences. */
function misfit(levels: readonly number[], course: readonly number[]): number {
  const mean = levels.reduce((sum, l, i) => sum + l - course[i]!, 0) / levels.length;
  return levels.reduce((sum, l, i) => sum + (l - course[i]! - mean) ** 2, 0);
}

/** The least of a function of one unknown above zero, by golden sections over its logarithm. */
function leastOver(low: number, high: number, f: (x: number) => number): number {
  const g = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [Math.log(low), Math.log(high)];
  let [c, d] = [b - g * (b - a), a + g * (b - a)];
  let [fc, fd] = [f(Math.exp(c)), f(Math.exp(d))];
  for (let i = 0; i < 40; i += 1) {
    if (fc < fd) {
      [b, d, fd] = [d, c, fc];
      c = b - g * (b - a);
      fc = f(Math.exp(c));
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + g * (b - a);
      fd = f(Math.exp(d));
    }
  }
  return Math.min(fc, fd);
}

/**
 * The height of a leak from a loss that slows: A(h)·dh/dt = −k·√(h − h₀) − e·A(h) fitted for k, h₀ and the start, h₀ with the
 * interval of its likelihood. The level never stands still while it evaporates, it settles to the evaporation. A fine
 * hole with a dry edge holds water back (4σ/(ρ·g·d)), so that h₀ is an upper bound of the hole's height. Refuses too few
 * readings and a loss that shows no height above the last level. [Torricelli]
 */
export function leakHeight(input: LeakHeightInput): Outcome<LeakHeight> {
  const checked = checkReadings(input.readings, 'readings');
  if (!checked.ok) return checked;
  if (input.readings.length < LEAST_READINGS)
    return refuse('leak-readings-too-few', 'readings', { least: LEAST_READINGS });
  const every = Math.ceil(input.readings.length / READINGS_KEPT);
  const kept = input.readings.filter((_, i) => i % every === 0 || i === input.readings.length - 1);
  const hours = kept.map((r) => r.atHours);
  const levels = kept.map((r) => r.levelMm);
  const [top, bottom] = [levels[0]!, Math.min(...levels)];
  const fall = top - bottom;
  if (fall < 3 * input.resolutionMm) return refuse('level-hardly-fell', 'readings');
  const area = areaOf(input.areaByLevel);
  const e = input.evaporationMmPerHour;
  const scale = area(top) / Math.max(hours.at(-1)! - hours[0]!, 1e-6);
  const heights = Array.from({ length: HEIGHTS }, (_, i) => bottom - 2 * fall + (3 * fall * i) / (HEIGHTS - 1));
  const found = heights.map((h0) => {
    const course = (k: number) => run(hours, top, k, h0, e, area);
    return { h0, misfit: leastOver(1e-4 * scale, 1e3 * scale * Math.sqrt(fall), (k) => misfit(levels, course(k))) };
  });
  const best = found.reduce((a, b) => (b.misfit < a.misfit ? b : a));
  const floor = (levels.length * input.resolutionMm ** 2) / 12;
  const bears = (m: number) => levels.length * Math.log(Math.max(m, floor) / Math.max(best.misfit, floor)) <= RATIO_95;
  const likely = found.filter((f) => bears(f.misfit)).map((f) => f.h0);
  const [lowMm, highMm] = [Math.min(...likely), Math.max(...likely)];
  if (lowMm <= heights[0]!) return refuse('loss-does-not-slow', 'readings');
  return done({ heightMm: best.h0, lowMm, highMm });
}
