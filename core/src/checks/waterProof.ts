import type { ShowerModel } from '../shower/geometry/showerModel';
import type { Stretch } from '../shower/seams/intervals';
import type { Seam } from '../shower/seams/seam';

/** The part of a seam that lies below a height, mm from its start; null when all of it lies above. */
export function stretchBelow(seam: Seam, heightMm: number): Stretch | null {
  if (seam.lowMm > heightMm) return null;
  const [start, end] = [seam.points[0]![2], seam.points.at(-1)![2]];
  const share = seam.highMm <= heightMm ? 1 : (heightMm - seam.lowMm) / (seam.highMm - seam.lowMm);
  return start <= end
    ? { fromMm: 0, toMm: seam.lengthMm * share }
    : { fromMm: seam.lengthMm * (1 - share), toMm: seam.lengthMm };
}

/** A flood proves what lies at least this far below its lowest water line, mm: waves and the meniscus reach no further [common practice, no source]. */
export const FLOOD_MARGIN_MM = 5;

/** What a water line reaches: which seams lie under it, and which stay dry. */
export interface WaterProof {
  /** Seams wholly or partly under water, with the mm that are. */
  under: { seam: Seam; wetMm: number }[];
  /** Seams that stay dry, wholly or in part, with the mm that do. */
  above: { seam: Seam; dryMm: number }[];
  /** Seam under water in all, mm. */
  wetMm: number;
}

/** Less of a seam under water than this proves nothing, mm. */
const LEAST_MM = 0.5;

/** Outer edges of the curb and the ends of the shower never stand in its water, however low they lie. */
export const outsideWater = (seam: Seam): boolean =>
  seam.kind === 'curb-outside-floor' || seam.kind === 'curb-end-edge' || seam.faces.some((f) => f.endsWith(':outer'));

/** The same of what lies on some faces: a corner on the outside of a curb or at its free end, however low. */
export const outsideFaces = (faces: readonly string[]): boolean =>
  faces.some((f) => f.endsWith(':outer') || f.includes(':end-'));

/** Which seams, and how many mm of each, a water line proves: what lies below it. */
export function waterProof(model: ShowerModel, heightMm: number): WaterProof {
  const found: WaterProof = { under: [], above: [], wetMm: 0 };
  for (const seam of model.seams) {
    const below = outsideWater(seam) ? null : stretchBelow(seam, heightMm);
    const wetMm = below ? below.toMm - below.fromMm : 0;
    if (wetMm > LEAST_MM) found.under.push({ seam, wetMm });
    if (seam.lengthMm - wetMm > LEAST_MM) found.above.push({ seam, dryMm: seam.lengthMm - wetMm });
    found.wetMm += wetMm;
  }
  return found;
}

/** Height of the lowest curb over the drain rim, mm; null without a curb. */
export function lowestCurbMm(model: ShowerModel): number | null {
  const heights = model.geometry.edges.flatMap((e) => (e.kind === 'curb' ? [e.heightMm] : []));
  return heights.length > 0 ? Math.min(...heights) : null;
}
