import { cross, dot, minus, type Point3 } from './point';

/** What a face of the shower is. */
export const FACE_KINDS = [
  'floor',
  'wall',
  'wall-cap',
  'wall-end',
  'curb-inner',
  'curb-top',
  'curb-outer',
  'curb-end',
  'niche',
  'niche-shelf',
  'bench-top',
  'bench-side',
  'bench-under',
  'ceiling',
  'outside-floor',
  'outside',
] as const;
/** One of them. */
export type FaceKind = (typeof FACE_KINDS)[number];

/**
 * A face of the shower's surface. `loop` runs counter-clockwise as seen from inside the shower; `rings` are openings
 * in it (niche mouths), clockwise. `circles` counts drains and pipes, each closed by a cap.
 * `outside` faces are not built: they close what stands open, so that the surface bounds one body.
 */
export interface Face {
  id: string;
  kind: FaceKind;
  /** Index of the footprint edge it stands on, or null for floor, ceiling and closing faces. */
  edge: number | null;
  loop: Point3[];
  rings: Point3[][];
  circles: number;
}

/** A face without openings. */
export function plainFace(id: string, kind: FaceKind, edge: number | null, loop: Point3[]): Face {
  return { id, kind, edge, loop, rings: [], circles: 0 };
}

/** One directed side of a face's outline. */
export interface HalfEdge {
  face: string;
  from: Point3;
  to: Point3;
}

/** Corner points within a hundredth of a millimetre are the same point. */
export function pointKey(p: Point3): string {
  return `${Math.round(p[0] * 100)},${Math.round(p[1] * 100)},${Math.round(p[2] * 100)}`;
}

/** The sides of a face in the direction of its outline, those of its rings after. */
export function halfEdges(face: Face): HalfEdge[] {
  return [face.loop, ...face.rings].flatMap((loop) =>
    loop.map((from, i) => ({ face: face.id, from, to: loop[(i + 1) % loop.length]! })),
  );
}

/** Names a directed side by its two ends, to a hundredth of a millimetre. */
export const sideKey = (from: Point3, to: Point3): string => `${pointKey(from)}>${pointKey(to)}`;

/** Twice the area of a loop as a vector along its normal (Newell's method), mm². */
export function loopVector(loop: readonly Point3[]): Point3 {
  let n: Point3 = [0, 0, 0];
  const origin = loop[0]!;
  loop.forEach((a, i) => {
    const c = cross(minus(a, origin), minus(loop[(i + 1) % loop.length]!, origin));
    n = [n[0] + c[0], n[1] + c[1], n[2] + c[2]];
  });
  return n;
}

/** Unit normal of a face, pointing into the shower. The floor's is straight up. */
export function faceNormal(face: Pick<Face, 'loop'>): Point3 {
  const n = loopVector(face.loop);
  const length = Math.sqrt(dot(n, n));
  return [n[0] / length, n[1] / length, n[2] / length];
}

function loopAreaMm2(loop: readonly Point3[]): number {
  const n = loopVector(loop);
  return Math.sqrt(dot(n, n)) / 2;
}

/** Area in mm² less niche mouths; pipes and the drain are not taken off; the floor is measured in plan. */
export function faceAreaMm2(face: Face): number {
  return loopAreaMm2(face.loop) - face.rings.reduce((sum, ring) => sum + loopAreaMm2(ring), 0);
}
