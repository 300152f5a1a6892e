import { FLOOD_MARGIN_MM, outsideWater, stretchBelow } from '../../checks/waterProof';
import type { ShowerModel } from '../../shower/geometry/showerModel';

/** After an edit the basin is another one where a wetted seam changed by as much, or the drain moved as far, mm. */
export const SAME_BASIN_MM = 25;

/** What holds the water below a line: wetted length of each seam, heights, the drain, openings in the water. */
interface Basin {
  seams: Map<string, { wetMm: number; lowMm: number }>;
  /** Middle of the drain, mm. */
  drain: readonly number[];
  openings: Set<string>;
  floorMm2: number;
}

function basinOf(model: ShowerModel, lineMm: number): Basin {
  const seams: Basin['seams'] = new Map();
  for (const seam of model.seams) {
    const below = outsideWater(seam) ? null : stretchBelow(seam, lineMm);
    if (below) seams.set(seam.id, { wetMm: below.toMm - below.fromMm, lowMm: seam.lowMm });
  }
  const openings = new Set(model.penetrations.filter((p) => p.point[2] <= lineMm).map((p) => p.id));
  return { seams, drain: model.drain.point, openings, floorMm2: model.totals.floorMm2 };
}

/**
 * True when the basin below a water line is another one on the second drawing: seams under water came, went, changed by
 * 25 mm or moved in height by the margin of a flood's proof; the drain moved; an opening came under water; the floor's area
 * changed by what 25 mm on its side would. What changed above the line is nothing to it.
 */
export function basinChanged(before: ShowerModel, after: ShowerModel, lineMm: number): boolean {
  const [a, b] = [basinOf(before, lineMm), basinOf(after, lineMm)];
  if (a.seams.size !== b.seams.size || a.openings.size !== b.openings.size) return true;
  for (const [id, was] of a.seams) {
    const is = b.seams.get(id);
    if (!is || Math.abs(is.wetMm - was.wetMm) >= SAME_BASIN_MM) return true;
    if (Math.abs(is.lowMm - was.lowMm) >= FLOOD_MARGIN_MM) return true;
  }
  for (const id of a.openings) if (!b.openings.has(id)) return true;
  if (Math.hypot(...a.drain.map((x, i) => x - b.drain[i]!)) >= SAME_BASIN_MM) return true;
  return Math.abs(a.floorMm2 - b.floorMm2) >= SAME_BASIN_MM * Math.sqrt(a.floorMm2);
}
