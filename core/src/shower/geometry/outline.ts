import type { PlanPoint, Point3 } from './point';
import type { Edge, ShowerGeometry } from './showerGeometry';

/** A place in plan at a height, as a point in space. */
export const at = (p: PlanPoint, zMm: number): Point3 => [p.xMm, p.yMm, zMm];

/** Height of the floor's perimeter over the drain rim, mm. */
export const riseOf = (g: ShowerGeometry): number => g.perimeterRiseMm ?? 0;

const around = (g: ShowerGeometry, i: number): number => (i + g.footprint.length * 2) % g.footprint.length;

/** The edge with that number, counted round and round. */
export const edgeAt = (g: ShowerGeometry, i: number): Edge => g.edges[around(g, i)]!;

/** The corner with that number, counted round and round; edge i begins there. */
export const cornerAt = (g: ShowerGeometry, i: number): PlanPoint => g.footprint[around(g, i)]!;

/** Unit direction of edge i in plan, from corner i to corner i+1, and its length in mm. */
export function direction(g: ShowerGeometry, i: number): { dx: number; dy: number; lengthMm: number } {
  const a = cornerAt(g, i);
  const b = cornerAt(g, i + 1);
  const lengthMm = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  return { dx: (b.xMm - a.xMm) / lengthMm, dy: (b.yMm - a.yMm) / lengthMm, lengthMm };
}

/** How far an edge's body stands out from the footprint, mm: a curb's width, a half wall's thickness. */
export function bodyMm(edge: Edge): number {
  if (edge.kind === 'curb') return edge.widthMm;
  return edge.kind === 'half-wall' ? edge.thicknessMm : 0;
}

/** Sine of the turn at corner i: above zero where the room's angle is under 180 degrees. */
export function turnAt(g: ShowerGeometry, i: number): number {
  const before = direction(g, i - 1);
  const after = direction(g, i);
  return before.dx * after.dy - before.dy * after.dx;
}

/** Edges that run on in one line (within about 3 degrees). */
export function isStraight(g: ShowerGeometry, i: number): boolean {
  return Math.abs(turnAt(g, i)) < 0.05;
}

/** Where two lines meet that run beside the edges before and after corner i, that many mm outside them. */
export function offsetCorner(g: ShowerGeometry, i: number, beforeMm: number, afterMm: number): PlanPoint {
  const p = cornerAt(g, i);
  const a = direction(g, i - 1);
  const b = direction(g, i);
  const det = a.dx * b.dy - a.dy * b.dx;
  const before = { x: p.xMm + a.dy * beforeMm, y: p.yMm - a.dx * beforeMm };
  const after = { x: p.xMm + b.dy * afterMm, y: p.yMm - b.dx * afterMm };
  if (Math.abs(det) < 1e-9) return { xMm: after.x, yMm: after.y };
  const t = ((after.x - before.x) * b.dy - (after.y - before.y) * b.dx) / det;
  return { xMm: before.x + t * a.dx, yMm: before.y + t * a.dy };
}

/** Bodies that run on in one line and differ by less than this are taken as flush outside, mm. */
const FLUSH_MM = 12;

/** The outer corner of edge i's body at one of its ends: on the mitre where two meet, square where they run on. */
export function outerEnd(g: ShowerGeometry, i: number, end: 'start' | 'stop', extraMm = 0): PlanPoint {
  const corner = end === 'start' ? i : i + 1;
  const other = edgeAt(g, end === 'start' ? i - 1 : i + 1);
  const own = bodyMm(edgeAt(g, i)) + extraMm;
  const theirs = bodyMm(other) + (extraMm > 0 && 'outsideMm' in other ? (other.outsideMm ?? 0) : 0);
  if (isStraight(g, corner)) {
    const { dx, dy } = direction(g, i);
    const p = cornerAt(g, corner);
    const flush = own > 0 && theirs > 0 && Math.abs(own - theirs) < FLUSH_MM ? Math.max(own, theirs) : own;
    return { xMm: p.xMm + dy * flush, yMm: p.yMm - dx * flush };
  }
  return end === 'start' ? offsetCorner(g, corner, theirs, own) : offsetCorner(g, corner, own, theirs);
}

/** Thickness of a full wall where its end stands free in the opening, mm, when nobody gave it. */
export const WALL_THICKNESS_MM = 114;

/** Height over the drain rim at which an edge's body ends, mm; 0 for an opening. */
export function bodyTopMm(g: ShowerGeometry, edge: Edge): number {
  if (edge.kind === 'curb') return edge.heightMm;
  return edge.kind === 'open' ? 0 : riseOf(g) + edge.heightMm;
}
