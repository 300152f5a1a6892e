import { at, cornerAt, direction, edgeAt, isStraight, outerEnd, riseOf } from './outline';
import type { Point3 } from './point';
import type { Edge, ShowerGeometry } from './showerGeometry';

/** A wall's own frame: `left` is its left end at the foot as seen from inside; `right` a unit vector along it. */
export interface WallFrame {
  edge: number;
  left: Point3;
  right: Point3;
  outward: Point3;
  lengthMm: number;
  /** How far the wall runs on beside a curb or a half wall, past its footprint end. */
  beyondLeftMm: number;
  beyondRightMm: number;
  heightMm: number;
}

/** True for full and half walls. */
export function isWall(edge: Edge): edge is Extract<Edge, { kind: 'wall' | 'half-wall' }> {
  return edge.kind === 'wall' || edge.kind === 'half-wall';
}

/** True for what a full wall runs on beside: curbs and half walls. */
export const isLow = (edge: Edge): boolean => edge.kind === 'curb' || edge.kind === 'half-wall';

/** The frame of the wall or half wall on edge i, mm. Throws when the edge is no wall. */
export function wallFrame(g: ShowerGeometry, i: number): WallFrame {
  const edge = g.edges[i]!;
  if (!isWall(edge)) throw new Error(`edge ${i} is not a wall`);
  const { dx, dy, lengthMm } = direction(g, i);
  const beyond = (end: 'start' | 'stop') => {
    const corner = end === 'start' ? i : i + 1;
    const other = edgeAt(g, end === 'start' ? i - 1 : i + 1);
    if (edge.kind !== 'wall' || !isLow(other) || isStraight(g, corner)) return 0;
    const foot = cornerAt(g, corner);
    const o = outerEnd(g, i, end);
    return Math.hypot(o.xMm - foot.xMm, o.yMm - foot.yMm);
  };
  return {
    edge: i,
    left: at(cornerAt(g, i + 1), riseOf(g)),
    right: [-dx, -dy, 0],
    outward: [dy, -dx, 0],
    lengthMm,
    beyondLeftMm: beyond('stop'),
    beyondRightMm: beyond('start'),
    heightMm: edge.heightMm,
  };
}

/** A point of a wall: u mm to the right of its left end, v mm above its foot, d mm behind its face. */
export function onWall(f: WallFrame, u: number, v: number, d = 0): Point3 {
  return [f.left[0] + f.right[0] * u + f.outward[0] * d, f.left[1] + f.right[1] * u + f.outward[1] * d, f.left[2] + v];
}

/** A rectangle on a wall, running as its face does: u and v in mm from its left end and its foot. */
export function wallRect(f: WallFrame, u0: number, u1: number, v0: number, v1: number): Point3[] {
  return [onWall(f, u0, v0), onWall(f, u1, v0), onWall(f, u1, v1), onWall(f, u0, v1)];
}
