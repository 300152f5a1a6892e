import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { anyMm, lengthMm, positiveMm } from '../../units/bounded';

/** Readings along a line, mm. */
const list = z.array(anyMm).min(2).max(20_000);
/** Heights along one line under a straightedge. */
export const FlatnessInput = z.object({
  /** Heights along a line: places grow. */
  profile: z.object({ xMm: list, zMm: list }),
  /** Its length, mm. */
  straightedgeMm: positiveMm,
  /** Greatest gap that may be seen under it, mm. */
  limitMm: lengthMm,
});
/** A profile and the straightedge that is laid on it. */
export type FlatnessInput = z.infer<typeof FlatnessInput>;

/** The worst gap, wherever the straightedge is laid. */
export interface Flatness {
  /** Worst gap under the straightedge, mm, and where its ends lay. */
  gapMm: number;
  /** Where it touches before the gap, mm along the line. */
  fromMm: number;
  /** And after it. */
  toMm: number;
  /** Whether the worst gap is small enough. */
  verdict: 'pass' | 'fail';
}

/** Heights along a line. */
interface Profile {
  /** Along the line, mm. */
  x: readonly number[];
  /** Height, mm. */
  z: readonly number[];
}
/** A point of a profile. */
interface At {
  /** Along the line, mm. */
  x: number;
  /** Height, mm. */
  z: number;
}

/** Places tried between two that matter, so that a worst one between them is not missed. */
const BETWEEN = 4;
/** Sums of doubles, mm. */
const SLACK = 1e-9;

/** Height of a profile at a place, mm; straight between its points. */
function heightOn({ x, z }: Profile, at: number): number {
  let [low, high] = [0, x.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (x[middle]! <= at) low = middle;
    else high = middle;
  }
  const t = (at - x[low]!) / (x[high]! - x[low]!);
  return z[low]! + (z[high]! - z[low]!) * t;
}

/** The part of a profile that a straightedge covers, its ends put in. */
function windowOf(profile: Profile, from: number, to: number): At[] {
  const inner: At[] = [];
  profile.x.forEach((x, i) => {
    if (x > from + SLACK && x < to - SLACK) inner.push({ x, z: profile.z[i]! });
  });
  return [{ x: from, z: heightOn(profile, from) }, ...inner, { x: to, z: heightOn(profile, to) }];
}

/** Upper convex hull, left to right. */
function upperHull(points: readonly At[]): At[] {
  const hull: At[] = [];
  for (const p of points) {
    while (hull.length >= 2) {
      const [a, b] = [hull.at(-2)!, hull.at(-1)!];
      if ((b.x - a.x) * (p.z - a.z) - (b.z - a.z) * (p.x - a.x) < -SLACK) break;
      hull.pop();
    }
    hull.push(p);
  }
  return hull;
}

/** Worst gap with the straightedge over one stretch: it rests on each side of the hull that touches its middle. */
function gapOver(profile: Profile, from: number, lengthMm: number): number {
  const points = windowOf(profile, from, from + lengthMm);
  const hull = upperHull(points);
  const middle = from + lengthMm / 2;
  let worst = 0;
  hull.slice(1).forEach((b, i) => {
    const a = hull[i]!;
    if (a.x > middle + SLACK * 10 || b.x < middle - SLACK * 10) return;
    const slope = (b.z - a.z) / (b.x - a.x);
    for (const p of points) worst = Math.max(worst, a.z + slope * (p.x - a.x) - p.z);
  });
  return worst;
}

/** Where one end of the straightedge may come to lie worst: an end or its middle on a point of the profile, and between. */
function placesToTry({ x }: Profile, lengthMm: number): number[] {
  const [first, last] = [x[0]!, x.at(-1)! - lengthMm];
  const marks = [...new Set(x.flatMap((at) => [at, at - lengthMm, at - lengthMm / 2]).concat(first, last))]
    .filter((at) => at >= first && at <= last)
    .sort((a, b) => a - b);
  return marks.flatMap((a, i) => {
    const b = marks[i + 1];
    if (b === undefined) return [a];
    return Array.from({ length: BETWEEN }, (_, k) => a + ((b - a) * k) / BETWEEN);
  });
}

/** The worst gap under a rigid straightedge laid anywhere along a profile; null when the profile is shorter. */
export function worstGap(profile: Profile, lengthMm: number): { gapMm: number; fromMm: number } | null {
  if (profile.x.at(-1)! - profile.x[0]! < lengthMm - 1e-6) return null;
  let worst = { gapMm: 0, fromMm: profile.x[0]! };
  for (const fromMm of placesToTry(profile, lengthMm)) {
    const gapMm = gapOver(profile, fromMm, lengthMm);
    if (gapMm > worst.gapMm + 1e-12) worst = { gapMm, fromMm };
  }
  return worst;
}

/**
 * Flatness under a straightedge. It is rigid: over each stretch of its length it rests on that side of the profile's
 * upper convex hull that lies under its middle, extended over its whole length, and where a point of the hull lies
 * there it may rock to either side; the gap is the worst over all places.
 */
export function flatness({ profile, straightedgeMm, limitMm }: FlatnessInput): Outcome<Flatness> {
  const { xMm, zMm } = profile;
  if (xMm.length !== zMm.length) return refuse('profile-heights-missing', 'profile.zMm');
  const back = xMm.findIndex((x, i) => i > 0 && x <= xMm[i - 1]!);
  if (back > 0) return refuse('profile-not-growing', `profile.xMm.${back}`);
  const worst = worstGap({ x: xMm, z: zMm }, straightedgeMm);
  if (!worst) return refuse('profile-too-short', 'straightedgeMm');
  return done({
    gapMm: worst.gapMm,
    fromMm: worst.fromMm,
    toMm: worst.fromMm + straightedgeMm,
    verdict: worst.gapMm > limitMm + 1e-9 ? 'fail' : 'pass',
  });
}
