import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { PlanPoint } from '../../shower/geometry/point';
import { anyMm, place32 } from '../../units/bounded';
import { numbers } from '../../units/randomNumbers';
import { Shot } from '../survey/shots';
import { heightsOf, isTold, makeSurface, ownHeights, type Surface, toRimMm } from '../survey/surface';

/** Half-width of a laser or rod reading that holds it 95 times of 100, mm: 1/32 in [common practice, no source]. */
export const SHOT_UNCERTAINTY_MM = 25.4 / 32;
/**
 * How much a level may be out, in mm for each metre of floor: half-width that holds it 95 times of 100. 1/8 in at 30 ft, as
 * levels for floors are sold [from memory, no source]. It tilts all shots of one set-up together.
 */
export const LEVEL_TILT_MM_PER_M = 0.35;
/**
 * A path to the drain is too short for its fall to be measured where both guard bands take more than half of what lies
 * between the limits; no floor beyond this length is let off for a coarse instrument, mm: 3 in [common practice, no source].
 */
const LONGEST_SHORT_PATH_MM = 76.2;
/** Standard deviations in a 95 % half-width of a normal distribution. */
const HALF_WIDTHS = 1.959964;
/** Paths to the drain start at least this densely along the outline, mm. */
const PATH_EVERY_MM = 20;

/** A floor as it was shot, to be held against the least and greatest fall. */
export const FallSurveyInput = z.object({
  footprint: z.array(PlanPoint).min(3).max(200),
  drain: PlanPoint,
  /** Radius of the drain's rim, mm. */
  drainRimMm: z.number().positive().max(500),
  /** Height of the rim in the same figures as the shots, mm. */
  drainZMm: anyMm,
  shots: z.array(Shot).max(2000),
  /** Half-width of every shot that holds it 95 times of 100, mm. */
  uncertaintyMm: z.number().min(0).max(100),
  /** How much the level may be out, mm a metre; a usual level's where it is not said. */
  tiltMmPerM: z.number().min(0).max(20).default(LEVEL_TILT_MM_PER_M),
  minFall: z.number().min(0).max(1),
  maxFall: z.number().min(0).max(1),
  seed: place32,
  runs: z.number().int().min(0).max(20_000),
});
/** What a survey of falls takes. */
export type FallSurveyInput = z.input<typeof FallSurveyInput>;

/** The falls of a floor, with how sure they are. */
export interface FallSurvey {
  /**
   * rise / run along the straight path from the outline to the drain's rim; below zero it runs away from the drain. Of the
   * paths that are long enough to be measured, and of shorter ones that are proved to be outside a limit.
   */
  leastFall: number;
  /** rise / run of the steepest path. */
  greatestFall: number;
  /** Where on the outline the path with the least fall starts. */
  at: PlanPoint;
  /** Where that one starts. */
  greatestAt: PlanPoint;
  /** Undecided where the shots are too uncertain to tell. */
  verdict: 'pass' | 'fail' | 'undecided';
  /** Share of guesses at the true heights whose least fall lies under the limit; null without runs. */
  probabilityBelow: number | null;
  /** How much the outline's heights differ, mm. */
  outOfLevelMm: number;
}

/** Straight paths from the outline to the rim: each starts between two vertices of the outline. */
export interface Paths {
  /** The vertex of the outline before the place where each begins. */
  from: Int32Array;
  /** The vertex after it. */
  to: Int32Array;
  /** How far it begins from the one towards the other, 0 to 1. */
  share: Float64Array;
  /** Its length, mm. */
  pathMm: Float64Array;
  /** Where each begins. */
  start: PlanPoint[];
  /** 1 where no shot tells how high the path starts. */
  unseen: Uint8Array;
}

/** All paths of a surface, closely along its outline. */
export function pathsOf(surface: Surface): Paths {
  const { floor, shots } = surface;
  const rim = Array.from({ length: surface.rim.count }, (_, k) => ({
    xMm: surface.x[surface.rim.from + k]!,
    yMm: surface.y[surface.rim.from + k]!,
  }));
  const rows: { from: number; to: number; share: number; pathMm: number; start: PlanPoint; unseen: boolean }[] = [];
  surface.outline.forEach((v, k) => {
    const next = surface.outline[k + 1];
    if (!next || next.edge !== v.edge) return;
    const steps = Math.max(1, Math.ceil((next.alongMm - v.alongMm) / PATH_EVERY_MM));
    for (let s = 0; s <= steps; s += 1) {
      const share = s / steps;
      const xMm = surface.x[v.vertex]! * (1 - share) + surface.x[next.vertex]! * share;
      const yMm = surface.y[v.vertex]! * (1 - share) + surface.y[next.vertex]! * share;
      const pathMm = toRimMm(floor, { xMm, yMm });
      if (pathMm <= 1) continue;
      const unseen = !isTold({ floor, shots, rim }, { xMm, yMm });
      rows.push({ from: v.vertex, to: next.vertex, share, pathMm, start: { xMm, yMm }, unseen });
    }
  });
  return {
    from: Int32Array.from(rows, (r) => r.from),
    to: Int32Array.from(rows, (r) => r.to),
    share: Float64Array.from(rows, (r) => r.share),
    pathMm: Float64Array.from(rows, (r) => r.pathMm),
    start: rows.map((r) => r.start),
    unseen: Uint8Array.from(rows, (r) => Number(r.unseen)),
  };
}

/** Rise of a path over the rim, mm. */
const riseOf = (p: Paths, z: ArrayLike<number>, drainZMm: number, k: number): number =>
  z[p.from[k]!]! * (1 - p.share[k]!) + z[p.to[k]!]! * p.share[k]! - drainZMm;

/** Length under which a path's fall can't be told from its limits, mm. */
export const shortPathMm = (l: Limits): number =>
  l.maxFall > l.minFall
    ? Math.min(LONGEST_SHORT_PATH_MM, (2 * l.uncertaintyMm) / (l.maxFall - l.minFall))
    : LONGEST_SHORT_PATH_MM;

/**
 * The paths with the least and the greatest fall, by their number and their rise / run, of those whose fall can be
 * measured: long enough, and shot. The number is -1 where there is none.
 */
export function extremeFalls(paths: Paths, z: ArrayLike<number>, drainZMm: number, shortMm: number) {
  let [least, most] = [-1, -1];
  let [leastFall, greatestFall] = [Infinity, -Infinity];
  for (let k = 0; k < paths.pathMm.length; k += 1) {
    if (paths.pathMm[k]! < shortMm || paths.unseen[k]! === 1) continue;
    const fall = riseOf(paths, z, drainZMm, k) / paths.pathMm[k]!;
    if (fall < leastFall) [least, leastFall] = [k, fall];
    if (fall > greatestFall) [most, greatestFall] = [k, fall];
  }
  return { least, leastFall, most, greatestFall };
}

/**
 * One guess after another at the true heights of a survey: every shot and the rim moved by its own uncertainty, and all of
 * them tilted about the drain together, since a level that is out is out for a whole set-up.
 */
export function guesses(
  surface: Surface,
  drainZMm: number,
  { uncertaintyMm, tiltMmPerM = LEVEL_TILT_MM_PER_M }: Pick<Limits, 'uncertaintyMm' | 'tiltMmPerM'>,
  seed: number,
) {
  const { normal } = numbers(seed);
  const sd = uncertaintyMm / HALF_WIDTHS;
  const tiltSd = tiltMmPerM / 1000 / HALF_WIDTHS;
  const { drain } = surface.floor;
  const shotZ = new Float64Array(surface.shots.length);
  const z = new Float64Array(surface.x.length);
  return (): { z: Float64Array; drainZMm: number } => {
    const [tiltX, tiltY] = [tiltSd * normal(), tiltSd * normal()];
    for (let i = 0; i < shotZ.length; i += 1) {
      const { xMm, yMm, zMm } = surface.shots[i]!;
      shotZ[i] = zMm + sd * normal() + tiltX * (xMm - drain.xMm) + tiltY * (yMm - drain.yMm);
    }
    const rim = drainZMm + sd * normal();
    heightsOf(surface, shotZ, rim, z);
    return { z, drainZMm: rim };
  };
}

/** What the falls are held against. */
interface Limits {
  /** Half-width of a shot that holds it 95 times of 100, mm. */
  uncertaintyMm: number;
  /** The least fall, rise over run. */
  minFall: number;
  /** The greatest fall, rise over run. */
  maxFall: number;
  /** How far the instrument itself may be out of level, mm a metre. */
  tiltMmPerM?: number | undefined;
}

/**
 * A path that is outside a limit by more than half the uncertainty fails the floor, whichever it is; the paths with the
 * least and the greatest fall leave it undecided within half the uncertainty of a limit, and so does a path that no shot
 * tells of. A short path can only fail: what its fall is nobody can measure, and the rim's own height is as uncertain.
 * Where no path is long enough nothing is decided.
 */
function judgePaths(paths: Paths, z: ArrayLike<number>, drainZMm: number, limits: Limits) {
  const shortMm = shortPathMm(limits);
  const guardMm = limits.uncertaintyMm / 2;
  const measured = extremeFalls(paths, z, drainZMm, shortMm);
  const none = measured.least < 0;
  const falls = none
    ? extremeFalls({ ...paths, unseen: new Uint8Array(paths.unseen.length) }, z, drainZMm, 0)
    : measured;
  const guard = (k: number) => guardMm / paths.pathMm[k]!;
  const near =
    limits.minFall - falls.leastFall > -guard(falls.least) || falls.greatestFall - limits.maxFall > -guard(falls.most);
  let verdict: FallSurvey['verdict'] = none || near ? 'undecided' : 'pass';
  for (let k = 0; k < paths.pathMm.length; k += 1) {
    const pathMm = paths.pathMm[k]!;
    if (paths.unseen[k]! === 1) {
      if (pathMm >= shortMm && verdict === 'pass') verdict = 'undecided';
      continue;
    }
    const fall = riseOf(paths, z, drainZMm, k) / pathMm;
    const under = limits.minFall - fall > guard(k);
    const over = fall - limits.maxFall > guard(k);
    if (under || over) verdict = 'fail';
    if (under && fall < falls.leastFall) [falls.least, falls.leastFall] = [k, fall];
    if (over && fall > falls.greatestFall) [falls.most, falls.greatestFall] = [k, fall];
  }
  return { ...falls, verdict };
}

/** The falls of a surface as it was shot, judged. */
export function judgeFalls(surface: Surface, drainZMm: number, limits: Limits) {
  const paths = pathsOf(surface);
  const z = ownHeights(surface, drainZMm);
  const falls = judgePaths(paths, z, drainZMm, limits);
  const edge = surface.outline.map((v) => z[v.vertex]!);
  return {
    leastFall: falls.leastFall,
    greatestFall: falls.greatestFall,
    at: paths.start[falls.least]!,
    greatestAt: paths.start[falls.most]!,
    verdict: falls.verdict,
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
  if (limits.minFall > limits.maxFall) return refuse('fall-range-reversed', 'minFall');
  const surface = makeSurface({ footprint, drain, drainRimMm }, input.shots);
  if (!surface.ok) return surface;
  const { paths, z, ...judged } = judgeFalls(surface.value, drainZMm, limits);
  if (surface.value.outline.every((v) => z[v.vertex]! < drainZMm)) return refuse('drain-over-edge', 'drainZMm');
  const next = guesses(surface.value, drainZMm, limits, seed);
  const shortMm = shortPathMm(limits);
  let below = 0;
  for (let run = 0; run < runs; run += 1) {
    const guess = next();
    if (extremeFalls(paths, guess.z, guess.drainZMm, shortMm).leastFall < limits.minFall) below += 1;
  }
  return done({ ...judged, probabilityBelow: runs === 0 ? null : below / runs });
}
