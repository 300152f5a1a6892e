import { ONE_SPOT_MM, type Pattern, patternPlaces } from './laps';

/** Where along a seam the next reading is wanted, and by which pattern. */
export interface TapePlaceInput {
  /** Length of the seam, mm. */
  lengthMm: number;
  /** What the check asks along a seam. */
  pattern: Pattern;
  /** Where readings were taken, mm. */
  taken: readonly number[];
  /** The exact place that the pattern asks for, mm. */
  nextAtMm: number;
  /** What a tape is set to: an inch, a centimetre, mm. */
  markMm: number;
}

/**
 * The place on a whole mark of the tape at which a hand takes the reading that is wanted: towards the nearer corner where the
 * pattern asks for no more readings by that, else the nearest mark that does, else the exact place. Never farther off than one
 * spot reaches. [own arithmetic]
 */
export function tapePlace({ lengthMm, pattern, taken, nextAtMm, markMm }: TapePlaceInput): number {
  const below = Math.floor(nextAtMm / markMm + 1e-9) * markMm;
  const above = Math.ceil(nextAtMm / markMm - 1e-9) * markMm;
  const toCorner = nextAtMm <= lengthMm / 2 ? below : above;
  const nearest = nextAtMm - below <= above - nextAtMm ? below : above;
  const readings = (at: number) => patternPlaces(lengthMm, pattern, [...taken, at]).length;
  const fits = (at: number) =>
    at > 0 &&
    at < lengthMm &&
    Math.abs(at - nextAtMm) < ONE_SPOT_MM / 2 &&
    !taken.includes(at) &&
    readings(at) <= readings(nextAtMm);
  return [toCorner, nearest].find(fits) ?? nextAtMm;
}
