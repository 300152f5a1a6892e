import type { PlanPoint } from '../../shower/geometry/point';
import type { Surface } from '../survey/surface';

/** Where water from a place ends. */
export type FlowEnd = 'drain' | 'pond' | 'out';

/** The way that water takes from a place. */
export interface FlowLine {
  /** From where it falls to where it ends, mm. */
  points: PlanPoint[];
  /** The drain, a pond, or out of the shower. */
  end: FlowEnd;
}

/** A drop that is not there after as many triangles goes round in circles. */
const MOST_STEPS = 400;
/** A line that leaves a triangle this near to a corner, in shares of its side, leaves through the corner. */
const AT_CORNER = 1e-6;

/** How each triangle slopes. */
interface Slopes {
  /** Triangles on the far side of each side, by its two vertices. */
  across: Map<string, number[]>;
  /** Steepest way down of each. */
  down: { x: number; y: number }[];
  /** Triangles round each vertex. */
  around: number[][];
}

/** A side by its two corners, the same from both triangles. */
const sideKey = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

/** Slopes of all triangles. */
function slopesOf(surface: Surface, z: ArrayLike<number>): Slopes {
  const across = new Map<string, number[]>();
  const { x, y } = surface;
  const around: number[][] = Array.from({ length: x.length }, () => []);
  const down = surface.triangles.map(([a, b, c], t) => {
    for (const v of [a, b, c]) around[v]!.push(t);
    for (const key of [sideKey(a, b), sideKey(b, c), sideKey(c, a)]) across.set(key, [...(across.get(key) ?? []), t]);
    const det = (x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!);
    const gx = ((z[b]! - z[a]!) * (y[c]! - y[a]!) - (z[c]! - z[a]!) * (y[b]! - y[a]!)) / det;
    const gy = ((x[b]! - x[a]!) * (z[c]! - z[a]!) - (x[c]! - x[a]!) * (z[b]! - z[a]!)) / det;
    return { x: -gx, y: -gy };
  });
  return { across, down, around };
}

/** Where a line from a place inside a triangle leaves it: the side and the place on it. */
function exit(surface: Surface, t: number, from: PlanPoint, way: { x: number; y: number }) {
  const corners = surface.triangles[t]!;
  let best: { a: number; b: number; at: PlanPoint; s: number; u: number } | null = null;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % 3]!;
    const [ex, ey] = [surface.x[b]! - surface.x[a]!, surface.y[b]! - surface.y[a]!];
    const det = way.x * -ey + way.y * ex;
    if (Math.abs(det) < 1e-15) return;
    const [rx, ry] = [surface.x[a]! - from.xMm, surface.y[a]! - from.yMm];
    const s = (rx * -ey + ry * ex) / det;
    const u = (way.x * ry - way.y * rx) / det;
    if (s > 1e-7 && u >= -1e-9 && u <= 1 + 1e-9 && (!best || s < best.s))
      best = { a, b, s, u, at: { xMm: from.xMm + way.x * s, yMm: from.yMm + way.y * s } };
  });
  return best as { a: number; b: number; at: PlanPoint; s: number; u: number } | null;
}

/** Where water that stands on a vertex goes: into the triangle whose steepest slope begins there, or along a side. */
function fromVertex(
  surface: Surface,
  z: ArrayLike<number>,
  slopes: Slopes,
  v: number,
): { t: number } | { next: number } | null {
  const { x, y } = surface;
  for (const t of slopes.around[v]!) {
    const [p, q] = surface.triangles[t]!.filter((o) => o !== v) as [number, number];
    const way = slopes.down[t]!;
    const cross = (o: number) => way.x * (y[o]! - y[v]!) - way.y * (x[o]! - x[v]!);
    const ahead = way.x * ((x[p]! + x[q]!) / 2 - x[v]!) + way.y * ((y[p]! + y[q]!) / 2 - y[v]!);
    if (Math.hypot(way.x, way.y) > 1e-9 && ahead > 0 && cross(p) * cross(q) < 0) return { t };
  }
  let [next, steepest] = [-1, 0];
  for (const n of surface.neighbours[v]!) {
    const fall = (z[v]! - z[n]!) / Math.hypot(x[n]! - x[v]!, y[n]! - y[v]!);
    if (fall > steepest) [next, steepest] = [n, fall];
  }
  return next < 0 ? null : { next };
}

/**
 * The ways that water takes from places on the floor: down the steepest slope of each triangle, along a valley where two
 * meet, until the drain, a pond or an edge that stands open.
 */
export function flowLines(
  surface: Surface,
  z: ArrayLike<number>,
  openEdges: readonly number[],
  starts: readonly PlanPoint[],
): FlowLine[] {
  const ends = new Map<number, FlowEnd>();
  for (const v of surface.outline) if (openEdges.includes(v.edge)) ends.set(v.vertex, 'out');
  for (let k = 0; k < surface.rim.count; k += 1) ends.set(surface.rim.from + k, 'drain');
  const slopes = slopesOf(surface, z);
  const inside = (p: PlanPoint): number =>
    surface.triangles.findIndex(([a, b, c]) => {
      const side = (i: number, j: number) =>
        (surface.x[j]! - surface.x[i]!) * (p.yMm - surface.y[i]!) -
        (surface.y[j]! - surface.y[i]!) * (p.xMm - surface.x[i]!);
      const sides = [side(a, b), side(b, c), side(c, a)];
      return sides.every((s) => s >= -1e-6) || sides.every((s) => s <= 1e-6);
    });
  return starts.map((start) => trace(surface, z, slopes, ends, start, inside(start)));
}

/** Where a line has come to: within a triangle, or on a vertex. */
type Stand = { at: PlanPoint; t: number } | { vertex: number };

/** The way of a drop through one triangle. */
function step(
  surface: Surface,
  z: ArrayLike<number>,
  slopes: Slopes,
  ends: ReadonlyMap<number, FlowEnd>,
  stand: Stand,
): Stand | FlowEnd {
  if ('vertex' in stand) {
    const end = ends.get(stand.vertex);
    if (end) return end;
    const onward = fromVertex(surface, z, slopes, stand.vertex);
    if (!onward) return 'pond';
    const at = { xMm: surface.x[stand.vertex]!, yMm: surface.y[stand.vertex]! };
    return 'next' in onward ? { vertex: onward.next } : { at, t: onward.t };
  }
  const corners = surface.triangles[stand.t]!;
  if (corners.every((v) => ends.get(v) === 'drain')) return 'drain';
  const way = slopes.down[stand.t]!;
  const left = Math.hypot(way.x, way.y) < 1e-9 ? null : exit(surface, stand.t, stand.at, way);
  // Out of a triangle that the place only touches: on from its lowest corner.
  if (!left) return { vertex: corners.reduce((p, q) => (z[q]! < z[p]! ? q : p)) };
  if (left.u < AT_CORNER || left.u > 1 - AT_CORNER) return { vertex: left.u < 0.5 ? left.a : left.b };
  const beyond = slopes.across.get(sideKey(left.a, left.b))!.find((o) => o !== stand.t);
  const onward = beyond === undefined ? null : slopes.down[beyond]!;
  const [ex, ey] = [surface.x[left.b]! - surface.x[left.a]!, surface.y[left.b]! - surface.y[left.a]!];
  const cross = (w: { x: number; y: number }) => ex * w.y - ey * w.x;
  if (onward && cross(onward) * cross(way) > 0) return { at: left.at, t: beyond! };
  if (ends.get(left.a) === 'out' && ends.get(left.b) === 'out') return 'out';
  // A valley, or the wall: along the side to its lower end.
  return { vertex: z[left.a]! < z[left.b]! ? left.a : left.b };
}

/** The way of a drop to where it ends. */
function trace(
  surface: Surface,
  z: ArrayLike<number>,
  slopes: Slopes,
  ends: ReadonlyMap<number, FlowEnd>,
  start: PlanPoint,
  first: number,
): FlowLine {
  const points = [start];
  if (first < 0) return { points, end: 'out' };
  let stand: Stand = { at: start, t: first };
  for (let n = 0; n < MOST_STEPS; n += 1) {
    const next: Stand | FlowEnd = step(surface, z, slopes, ends, stand);
    if (typeof next === 'string') return { points, end: next };
    points.push('vertex' in next ? { xMm: surface.x[next.vertex]!, yMm: surface.y[next.vertex]! } : next.at);
    stand = next;
  }
  return { points, end: 'pond' };
}

/** Shares of the floor whose water ends in the drain, in a pond, and out of the shower. */
export function flowShares(lines: readonly FlowLine[]): Record<FlowEnd, number> {
  const count = (end: FlowEnd) => lines.filter((l) => l.end === end).length / Math.max(1, lines.length);
  return { drain: count('drain'), pond: count('pond'), out: count('out') };
}
