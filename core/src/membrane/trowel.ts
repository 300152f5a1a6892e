/** What is combed with a notched trowel. */
export const TROWEL_JOBS = [
  'sheet-and-bands',
  'tray-or-curb',
  'foam-pan',
  'foam-slope',
  'hard-curb',
  'bench-layers',
  'floor-tile',
  'wall-tile',
] as const;
/** What mortar is spread for. */
export type TrowelJob = (typeof TROWEL_JOBS)[number];

/** An inch, mm. */
const IN = 25.4;

/** Least and greatest depth of the notch for a job, mm [common practice, no source]; the product's label comes first. */
const NOTCH_MM: Record<TrowelJob, readonly [number, number]> = {
  'sheet-and-bands': [IN / 8, (3 * IN) / 16],
  'tray-or-curb': [IN / 4, (3 * IN) / 8],
  'foam-pan': [(3 * IN) / 8, IN / 2],
  'foam-slope': [(3 * IN) / 4, (3 * IN) / 4],
  'hard-curb': [(3 * IN) / 4, (3 * IN) / 4],
  'bench-layers': [IN / 4, IN / 4],
  'floor-tile': [(3 * IN) / 16, IN / 2],
  'wall-tile': [(3 * IN) / 16, IN / 2],
};
/** A tile whose longer side is over this wants a deeper notch, mm: 15 in, large format [ANSI A108.02, value from memory]. */
const LARGE_TILE_MM = 15 * IN;
/** What large tiles ask for, mm [common practice, no source]. */
const LARGE_NOTCH_MM = (3 * IN) / 8;

/** A notch as it is measured against what the job asks. */
export interface Trowel {
  /** Least depth of a notch, mm. */
  leastMm: number;
  /** Greatest, mm. */
  mostMm: number;
  /** Whether the trowel in hand is right. */
  verdict: 'pass' | 'fail';
}

/** The notch that a job asks for, and whether the one in hand is it. `tileMm` is the longer side of the tile, or 0. */
export function trowelFor(job: TrowelJob, notchMm: number, tileMm: number): Trowel {
  const [least, most] = NOTCH_MM[job];
  const large = job.endsWith('-tile') && tileMm > LARGE_TILE_MM;
  const leastMm = large ? LARGE_NOTCH_MM : least;
  return { leastMm, mostMm: most, verdict: notchMm >= leastMm - 0.05 && notchMm <= most + 0.05 ? 'pass' : 'fail' };
}
