import { done, type Outcome } from '../../outcome/outcome';
import type { PlanPoint } from '../../shower/geometry/point';
import { extremeFalls, type FallSurvey, guesses, judgeFalls, type Paths, shortPathMm } from '../fall/fallSurvey';
import { type DrawnPond, outletsOf, pondsOn } from '../ponding/ponding';
import { deepestOf, makeSpill, networkOf } from '../ponding/spill';
import type { Shot, SurveyedFloor } from './shots';
import { makeSurface, type Surface } from './surface';

/** What a floor is held against. */
export interface SurveyLimits {
  /** Half-width that holds a height 95 times of 100, mm. */
  uncertaintyMm: number;
  /** rise / run. */
  minFall: number;
  /** rise / run. */
  maxFall: number;
  /** Deeper water than this is a fault, mm. */
  pondMm: number;
  /** How much the level may be out, mm a metre; a usual level's where it is not said. */
  tiltMmPerM?: number | undefined;
}

/** What a survey says of a floor, on the shots as they are. */
export interface SurveyJudged {
  /** The floor as triangles between the shots. */
  surface: Surface;
  /** Height of each vertex over the datum, mm. */
  z: Float64Array;
  /** Ways down to the drain. */
  paths: Paths;
  /** What the falls come to. */
  falls: Omit<FallSurvey, 'probabilityBelow'>;
  /** Pools that stay. */
  ponds: DrawnPond[];
  /** Depth of the deepest, mm. */
  deepestMm: number;
  /** Whether one is too deep. */
  pondVerdict: FallSurvey['verdict'];
  /** The worse of both. */
  verdict: FallSurvey['verdict'];
  /** Vertices at which water leaves. */
  outlets: number[];
}

/** From good to bad. */
const WORST: readonly FallSurvey['verdict'][] = ['pass', 'undecided', 'fail'];
/** The worse of two verdicts. */
const worse = (a: FallSurvey['verdict'], b: FallSurvey['verdict']): FallSurvey['verdict'] =>
  WORST.indexOf(a) >= WORST.indexOf(b) ? a : b;

/** A floor's falls and ponds from its shots, each within half the uncertainty of its limit undecided. */
export function judgeSurvey(
  floor: SurveyedFloor,
  drainZMm: number,
  shots: readonly Shot[],
  limits: SurveyLimits,
  openEdges: readonly number[] = [],
): Outcome<SurveyJudged> {
  const made = makeSurface(floor, shots);
  if (!made.ok) return made;
  const surface = made.value;
  const { paths, z, ...falls } = judgeFalls(surface, drainZMm, limits);
  const outlets = outletsOf(surface, openEdges);
  const ponds = pondsOn(surface, z, outlets);
  const deepestMm = ponds[0]?.deepestMm ?? 0;
  const guard = limits.uncertaintyMm / 2;
  const pondVerdict =
    deepestMm > limits.pondMm + guard ? 'fail' : deepestMm > limits.pondMm - guard ? 'undecided' : 'pass';
  return done({
    surface,
    z,
    paths,
    falls,
    ponds,
    deepestMm,
    pondVerdict,
    verdict: worse(falls.verdict, pondVerdict),
    outlets,
  });
}

/** How sure a verdict on a floor is, by guesses at what the true heights may be. */
export interface Certainty {
  /** Guesses that were made. */
  runs: number;
  /** Shares of guesses at the true heights: least fall under its limit, a pond deeper than its own, either of both. */
  probabilityBelow: number;
  /** Share of draws in which a pond is too deep. */
  probabilityPond: number;
  /** Share of draws in which anything is wrong. */
  probabilityEither: number;
}

/**
 * How sure a survey is: guesses at the true heights, each shot and the rim moved by its own uncertainty, judged one by
 * one. `onProgress` is told how many are done and may stop it; then what is done so far is given.
 */
export function surveyCertainty(
  judged: SurveyJudged,
  drainZMm: number,
  limits: SurveyLimits,
  { seed, runs, onProgress }: { seed: number; runs: number; onProgress?: (done: number) => boolean },
): Certainty {
  const { surface, paths } = judged;
  const next = guesses(surface, drainZMm, limits, seed);
  const shortMm = shortPathMm(limits);
  const spill = makeSpill(networkOf(surface.neighbours));
  const outlets = Int32Array.from(judged.outlets);
  let [below, pond, either, count] = [0, 0, 0, 0];
  for (; count < runs; count += 1) {
    const guess = next();
    const low = extremeFalls(paths, guess.z, guess.drainZMm, shortMm).leastFall < limits.minFall;
    const deep = deepestOf(guess.z, spill(guess.z, outlets)) > limits.pondMm;
    if (low) below += 1;
    if (deep) pond += 1;
    if (low || deep) either += 1;
    if (onProgress && count % 50 === 49 && !onProgress(count + 1)) break;
  }
  const share = (n: number): number => (count === 0 ? 0 : n / count);
  return {
    runs: count,
    probabilityBelow: share(below),
    probabilityPond: share(pond),
    probabilityEither: share(either),
  };
}

/** How far a trowelled floor leaves the straight line between two shots, mm for each mm to the nearest [common practice, no source]. */
const ROUGHNESS = 0.004;

/**
 * Where one more shot would help most: the path to the drain, or the way out of a pond, whose figure lies nearest to its
 * limit in terms of what is not known there, counted by how much of that a shot would settle. Null when nothing is open.
 */
export function whereNext(
  judged: SurveyJudged,
  limits: SurveyLimits,
): { at: PlanPoint; why: 'fall' | 'pond' | 'unseen' } | null {
  const { surface, paths, z, ponds } = judged;
  const away = (p: PlanPoint) => Math.min(...surface.shots.map((s) => Math.hypot(s.xMm - p.xMm, s.yMm - p.yMm)));
  const sd = limits.uncertaintyMm / 2;
  const score = (marginMm: number, awayMm: number): number => {
    const unknown = (ROUGHNESS * awayMm) ** 2;
    return (Math.exp(-(marginMm ** 2) / (2 * (sd * sd + unknown + 1e-9))) * unknown) / (sd * sd + unknown + 1e-9);
  };
  let best: { at: PlanPoint; why: 'fall' | 'pond'; score: number } | null = null;
  const offer = (at: PlanPoint, why: 'fall' | 'pond', value: number) => {
    if (value > (best?.score ?? 0.02)) best = { at, why, score: value };
  };
  const drainZ = surface.rim.count > 0 ? z[surface.rim.from]! : 0;
  const shortMm = shortPathMm(limits);
  for (let k = 0; k < paths.pathMm.length; k += 1) {
    if (paths.pathMm[k]! < shortMm) continue;
    if (paths.unseen[k]! === 1) return { at: paths.start[k]!, why: 'unseen' };
    const rise = z[paths.from[k]!]! * (1 - paths.share[k]!) + z[paths.to[k]!]! * paths.share[k]! - drainZ;
    const at = paths.start[k]!;
    offer(at, 'fall', score(rise - limits.minFall * paths.pathMm[k]!, away(at)));
  }
  for (const pond of ponds) {
    // Half-way along each side that leaves the pond's deepest place lies what nobody has measured yet.
    const low = surface.x.findIndex((x, v) => x === pond.at.xMm && surface.y[v] === pond.at.yMm);
    for (const v of surface.neighbours[low] ?? []) {
      const at = { xMm: (surface.x[v]! + pond.at.xMm) / 2, yMm: (surface.y[v]! + pond.at.yMm) / 2 };
      offer(at, 'pond', score(pond.deepestMm - limits.pondMm, away(at)));
    }
  }
  return best;
}
