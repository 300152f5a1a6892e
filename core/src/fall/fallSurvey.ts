import { z } from 'zod';
import { numbers } from '../flood/simulateFlood';
import { PlanPoint } from '../geometry/point';
import { distanceToOutlineMm } from '../geometry/polygon';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { Shot } from '../survey/shots';
import { heightsOf, makeSurface, ownHeights, type Surface } from '../survey/surface';

/** Half-width of a laser or rod reading that holds it 95 times of 100, mm: 1/32 in [common practice, no source]. */
export const SHOT_UNCERTAINTY_MM = 25.4 / 32;
/** Standard deviations in a 95 % half-width of a normal distribution. */
const HALF_WIDTHS = 1.959964;
/** Paths to the drain start at least this densely along the outline, mm. */
const PATH_EVERY_MM = 20;

export const FallSurveyInput = z.object({
  footprint: z.array(PlanPoint).min(3),
  drain: PlanPoint,
  /** Radius of the drain's rim, mm. */
  drainRimMm: z.number().positive().max(500),
  /** Height of the rim in the same figures as the shots, mm. */
  drainZMm: z.number(),
  shots: z.array(Shot).max(2000),
  /** Half-width of every shot that holds it 95 times of 100, mm. */
  uncertaintyMm: z.number().min(0).max(100),
  minFall: z.number().min(0).max(1),
  maxFall: z.number().min(0).max(1),
  seed: z.number().int(),
  runs: z.number().int().min(0).max(20_000),
});
export type FallSurveyInput = z.infer<typeof FallSurveyInput>;

export interface FallSurvey {
  /** rise / run along the straight path from the outline to the drain's rim; below zero it runs away from the drain. */
  leastFall: number;
  greatestFall: number;
  /** Where on the outline the path with the least fall starts. */
  at: PlanPoint;
  greatestAt: PlanPoint;
  verdict: 'pass' | 'fail' | 'undecided';
  /** Share of guesses at the true heights whose least fall lies under the limit; null without runs. */
  probabilityBelow: number | null;
  /** How much the outline's heights differ, mm. */
  outOfLevelMm: number;
}

/** Straight paths from the outline to the rim: each starts between two vertices of the outline. */
export interface Paths {
  from: Int32Array;
  to: Int32Array;
  share: Float64Array;
  pathMm: Float64Array;
  start: PlanPoint[];
}

/** All paths of a surface, closely along its outline. */
export function pathsOf(surface: Surface): Paths {
  const { drain, drainRimMm, rim } = surface.floor;
  const toRim = (p: PlanPoint): number =>
    rim ? distanceToOutlineMm(p, rim) : Math.hypot(p.xMm - drain.xMm, p.yMm - drain.yMm) - drainRimMm;
  const rows: { from: number; to: number; share: number; pathMm: number; start: PlanPoint }[] = [];
  surface.outline.forEach((v, k) => {
    const next = surface.outline[k + 1];
    if (!next || next.edge !== v.edge) return;
    const steps = Math.max(1, Math.ceil((next.alongMm - v.alongMm) / PATH_EVERY_MM));
    for (let s = 0; s <= steps; s += 1) {
      const share = s / steps;
      const xMm = surface.x[v.vertex]! * (1 - share) + surface.x[next.vertex]! * share;
      const yMm = surface.y[v.vertex]! * (1 - share) + surface.y[next.vertex]! * share;
      const pathMm = toRim({ xMm, yMm });
      if (pathMm > 1) rows.push({ from: v.vertex, to: next.vertex, share, pathMm, start: { xMm, yMm } });
    }
  });
  return {
    from: Int32Array.from(rows, (r) => r.from),
    to: Int32Array.from(rows, (r) => r.to),
    share: Float64Array.from(rows, (r) => r.share),
    pathMm: Float64Array.from(rows, (r) => r.pathMm),
    start: rows.map((r) => r.start),
  };
}

/** Rise of a path over the rim, mm. */
const riseOf = (p: Paths, z: ArrayLike<number>, drainZMm: number, k: number): number =>
  z[p.from[k]!]! * (1 - p.share[k]!) + z[p.to[k]!]! * p.share[k]! - drainZMm;

/** The paths with the least and the greatest fall, by their number and their rise / run. */
export function extremeFalls(paths: Paths, z: ArrayLike<number>, drainZMm: number) {
  let [least, most] = [0, 0];
  let [leastFall, greatestFall] = [Infinity, -Infinity];
  for (let k = 0; k < paths.pathMm.length; k += 1) {
    const fall = riseOf(paths, z, drainZMm, k) / paths.pathMm[k]!;
    if (fall < leastFall) [least, leastFall] = [k, fall];
    if (fall > greatestFall) [most, greatestFall] = [k, fall];
  }
  return { least, leastFall, most, greatestFall };
}

/** One guess after another at the true heights of a survey: every shot and the rim moved by its own uncertainty. */
export function guesses(surface: Surface, drainZMm: number, uncertaintyMm: number, seed: number) {
  const { normal } = numbers(seed);
  const sd = uncertaintyMm / HALF_WIDTHS;
  const shotZ = new Float64Array(surface.shots.length);
  const z = new Float64Array(surface.x.length);
  return (): { z: Float64Array; drainZMm: number } => {
    for (let i = 0; i < shotZ.length; i += 1) shotZ[i] = surface.shots[i]!.zMm + sd * normal();
    const rim = drainZMm + sd * normal();
    heightsOf(surface, shotZ, rim, z);
    return { z, drainZMm: rim };
  };
}

interface Limits {
  uncertaintyMm: number;
  minFall: number;
  maxFall: number;
}

/** Fail beyond a limit, undecided within half the uncertainty of it, pass inside. */
function verdictOf(falls: ReturnType<typeof extremeFalls>, paths: Paths, l: Limits): FallSurvey['verdict'] {
  const guard = (k: number) => l.uncertaintyMm / 2 / paths.pathMm[k]!;
  const under = l.minFall - falls.leastFall;
  const over = falls.greatestFall - l.maxFall;
  if (under > guard(falls.least) || over > guard(falls.most)) return 'fail';
  return under > -guard(falls.least) || over > -guard(falls.most) ? 'undecided' : 'pass';
}

/** The falls of a surface as it was shot, judged. */
export function judgeFalls(surface: Surface, drainZMm: number, limits: Limits) {
  const paths = pathsOf(surface);
  const z = ownHeights(surface, drainZMm);
  const falls = extremeFalls(paths, z, drainZMm);
  const edge = surface.outline.map((v) => z[v.vertex]!);
  return {
    leastFall: falls.leastFall,
    greatestFall: falls.greatestFall,
    at: paths.start[falls.least]!,
    greatestAt: paths.start[falls.most]!,
    verdict: verdictOf(falls, paths, limits),
    outOfLevelMm: Math.max(...edge) - Math.min(...edge),
    paths,
    z,
  };
}

/**
 * Fall from a level survey: the average along the straight path from every point of the outline to the drain's rim. The
 * verdict is taken on the shots as they are, with a guard band of half their uncertainty; the share of guesses below the
 * limit informs beside it, since the least of many noisy values is always low.
 */
export function fallSurvey(input: FallSurveyInput): Outcome<FallSurvey> {
  const { footprint, drain, drainRimMm, drainZMm, seed, runs, ...limits } = input;
  if (limits.minFall > limits.maxFall)
    return refuse('range-invalid', 'minFall', 'The least fall is larger than the greatest. Swap them.');
  const surface = makeSurface({ footprint, drain, drainRimMm }, input.shots);
  if (!surface.ok) return surface;
  const { paths, z, ...judged } = judgeFalls(surface.value, drainZMm, limits);
  if (surface.value.outline.every((v) => z[v.vertex]! < drainZMm))
    return refuse(
      'range-invalid',
      'drainZMm',
      'The drain stands higher than the whole edge of the floor. Rod readings grow downwards: say so, or check the drain’s figure.',
    );
  const next = guesses(surface.value, drainZMm, limits.uncertaintyMm, seed);
  let below = 0;
  for (let run = 0; run < runs; run += 1) {
    const guess = next();
    if (extremeFalls(paths, guess.z, guess.drainZMm).leastFall < limits.minFall) below += 1;
  }
  return done({ ...judged, probabilityBelow: runs === 0 ? null : below / runs });
}
