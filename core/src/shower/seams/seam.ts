import { distance3, type Point3 } from '../geometry/point';

/** Which two surfaces meet. */
export const SEAM_KINDS = [
  'floor-wall',
  'wall-wall-inside',
  'wall-wall-outside',
  'curb-floor',
  'curb-wall',
  'curb-curb',
  'curb-top-edge',
  'curb-outside-floor',
  'curb-end-edge',
  'cap-edge',
  'cap-wall',
  'niche-mouth',
  'niche-edge',
  'niche-shelf',
  'niche-shelf-edge',
  'bench-wall',
  'bench-floor',
  'bench-edge',
  'wall-ceiling',
  'ceiling-edge',
  'top-termination',
  'side-termination',
  'transition',
  'open-edge',
  'outside-floor-edge',
  'board-joint',
  'sheet-lap',
] as const;
/** One of them. */
export type SeamKind = (typeof SEAM_KINDS)[number];

/**
 * A line where two faces meet, or a joint within one. `points` run from the seam's start: the left end as seen from
 * inside the shower, the lower end of an upright one. `faces` are sorted; a joint within a face names it once.
 */
export interface Seam {
  id: string;
  kind: SeamKind;
  faces: string[];
  points: Point3[];
  lengthMm: number;
  lowMm: number;
  highMm: number;
  /** Names the start without its coordinates: the faces that meet there. Tells a reversed seam from an edited one. */
  startKey: string;
}

/** A seam with its length and heights worked out from its points. */
export function makeSeam(id: string, kind: SeamKind, faces: string[], points: Point3[], startKey: string): Seam {
  const heights = points.map((p) => p[2]);
  const lengthMm = points.slice(1).reduce((sum, p, i) => sum + distance3(points[i]!, p), 0);
  return { id, kind, faces, points, lengthMm, lowMm: Math.min(...heights), highMm: Math.max(...heights), startKey };
}

/** Whether the surfaces of a corner turn inwards, outwards or both. */
export const CORNER_KINDS = ['inside', 'outside', 'mixed'] as const;
/** One of them. */
export type CornerKind = (typeof CORNER_KINDS)[number];

/** A point where three or more built faces meet. */
export interface Corner {
  id: string;
  kind: CornerKind;
  faces: string[];
  point: Point3;
}

/** The point `atMm` along a seam from its start, clamped to its ends. */
export function pointOnSeam(points: readonly Point3[], atMm: number): Point3 {
  let left = Math.max(0, atMm);
  for (let i = 0; i + 1 < points.length; i += 1) {
    const [a, b] = [points[i]!, points[i + 1]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
    if (left <= length) {
      const t = length === 0 ? 0 : left / length;
      return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
    }
    left -= length;
  }
  return points.at(-1)!;
}
