import { outsideFaces } from '../checks/waterProof';
import type { LeakHeight } from '../water/leakHeight';
import type { Suspect } from './suspects';

/** Surface tension of water at 20 °C, N/m, and its weight, N/m³ [from memory]. */
const TENSION = 0.0728;
const WEIGHT = 9810;
/** More than this no hole that leaks to be seen holds back, mm: 4σ/(ρ·g·d) for 0.7 mm. */
export const HELD_BACK_MOST_MM = 42;

/** How much water a hole with a dry edge holds back, mm: 4σ/(ρ·g·d). The hole may lie so far below where the level stops. */
export const heldBackMm = (holeMm: number): number =>
  Math.min(HELD_BACK_MOST_MM, ((4 * TENSION) / (WEIGHT * (holeMm / 1000))) * 1000);
/** Places along an element at which its height is asked. */
const ALONG = 401;

/** Where a hole at a height may lie. */
export interface AtHeight {
  suspect: Suspect;
  /** How much speaks for it, against the likeliest: 0 to 1. */
  share: number;
}

/** How well a height fits: within the interval fully, less the farther below it, and not above it. */
function fits(
  mm: number,
  { lowMm, highMm }: Pick<LeakHeight, 'lowMm' | 'highMm'>,
  marginMm: number,
  heldBack: number,
): number {
  if (mm > highMm + marginMm) return 0;
  const below = lowMm - marginMm - mm;
  return below <= 0 ? 1 : below > heldBack ? 0 : Math.exp((-2 * below) / heldBack);
}

/** How much of an element lies where a level settled, 0 to 1: what is outside, or no part of the surface, not at all. */
export function heightFit(
  { faces, lowMm, highMm }: Pick<Suspect, 'faces' | 'lowMm' | 'highMm'>,
  height: Pick<LeakHeight, 'lowMm' | 'highMm'>,
  heldBack: number,
  marginMm: number,
): number {
  if (faces.length === 0 || outsideFaces(faces)) return 0;
  // A lying seam has one height; an upright one is asked along its own, by the shares of it that fit.
  const heights =
    highMm === lowMm ? [lowMm] : Array.from({ length: ALONG }, (_, k) => lowMm + ((highMm - lowMm) * k) / (ALONG - 1));
  return heights.reduce((sum, mm) => sum + fits(mm, height, marginMm, heldBack), 0) / heights.length;
}

/**
 * What lies where a flood stopped falling, likeliest first: elements with a part at that height, by how much of them lies there and how
 * much they were suspected before; below it less and less, as far as a hole of its size holds water back. `marginMm` is what the level itself may be
 * off by.
 */
export function atHeight(
  suspects: readonly Suspect[],
  height: LeakHeight,
  heldBack = HELD_BACK_MOST_MM,
  marginMm = 2,
): AtHeight[] {
  const weighed = suspects
    .map((suspect) => ({ suspect, share: suspect.prior * heightFit(suspect, height, heldBack, marginMm) }))
    .filter((w) => w.share > 0)
    .sort((a, b) => b.share - a.share);
  const most = weighed[0]?.share ?? 1;
  return weighed.map((w) => ({ ...w, share: w.share / most }));
}
