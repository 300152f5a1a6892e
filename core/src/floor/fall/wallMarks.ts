import type { PlanPoint } from '../../shower/geometry/point';

/** A mark on a wall that a sloped bed is screeded to. */
export interface WallMark {
  /** mm from the edge's left end as seen from inside. */
  alongMm: number;
  /** Height of the finished slope over the drain's rim there, mm. */
  aboveDrainMm: number;
  /** It stands in a corner, where two edges meet. */
  corner: boolean;
}

/** The marks along one edge. */
export interface MarkedEdge {
  /** Index in the footprint. */
  edge: number;
  /** Length of the wall, mm. */
  lengthMm: number;
  /** Marks along it, from its left end. */
  marks: WallMark[];
}

/** A floor whose walls are to be marked. */
export interface MarksInput {
  /** Outline of the floor, mm. */
  footprint: readonly PlanPoint[];
  /** Middle of the drain, mm. */
  drain: PlanPoint;
  /** rise / run that every path gets at least. */
  minFall: number;
  /** Put on top of it, mm. */
  reserveMm: number;
  /** One height all round, or each place its own. */
  level: boolean;
  /** Distance between marks at most, mm. */
  everyMm: number;
}

/**
 * Marks for a sloped bed on each edge: one height all round, that of the longest path, or for each place its own, where
 * a level edge would be too steep. Seen from inside, an edge of a counter-clockwise footprint runs from right to left.
 */
export function wallMarks({ footprint, drain, minFall, reserveMm, level, everyMm }: MarksInput): MarkedEdge[] {
  const away = (p: PlanPoint) => Math.hypot(p.xMm - drain.xMm, p.yMm - drain.yMm);
  const highest = Math.max(...footprint.map(away)) * minFall + reserveMm;
  return footprint.map((b, edge) => {
    const a = footprint[(edge + 1) % footprint.length]!;
    const lengthMm = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
    const steps = Math.max(1, Math.ceil(lengthMm / everyMm));
    const marks = Array.from({ length: steps + 1 }, (_, k) => {
      const t = k / steps;
      const at = { xMm: a.xMm + (b.xMm - a.xMm) * t, yMm: a.yMm + (b.yMm - a.yMm) * t };
      return {
        alongMm: lengthMm * t,
        aboveDrainMm: level ? highest : away(at) * minFall + reserveMm,
        corner: k === 0 || k === steps,
      };
    });
    return { edge, lengthMm, marks };
  });
}
