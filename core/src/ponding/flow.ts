import type { PlanPoint } from '../geometry/point';
import type { Surface } from '../survey/surface';
import { makeSpill, networkOf } from './spill';

/** Where water from a place ends. */
export type FlowEnd = 'drain' | 'pond' | 'out';

export interface FlowLine {
  points: PlanPoint[];
  end: FlowEnd;
}

const MOST_STEPS = 400;
/** A line that leaves a triangle this near to a corner, in shares of its side, leaves through the corner. */
const AT_CORNER = 1e-6;
/** Shallower than this is no pond, mm. */
const DRY_MM = 0.05;

interface Slopes {
  /** Triangles on the far side of each side, by its two vertices. */
  across: Map<string, number[]>;
  down: { x: number; y: number }[];
}

const sideKey = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

function slopesOf(surface: Surface, z: ArrayLike<number>): Slopes {
  const across = new Map<string, number[]>();
  const { x, y } = surface;
  const down = surface.triangles.map(([a, b, c], t) => {
    for (const key of [sideKey(a, b), sideKey(b, c), sideKey(c, a)]) across.set(key, [...(across.get(key) ?? []), t]);
    const det = (x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!);
    const gx = ((z[b]! - z[a]!) * (y[c]! - y[a]!) - (z[c]! - z[a]!) * (y[b]! - y[a]!)) / det;
    const gy = ((x[b]! - x[a]!) * (z[c]! - z[a]!) - (x[c]! - x[a]!) * (z[b]! - z[a]!)) / det;
    return { x: -gx, y: -gy };
  });
  return { across, down };
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

/** Down the network of vertices, each time to the neighbour that the water would run to first, and over the lip of a pond. */
function downNetwork(
  surface: Surface,
  level: ArrayLike<number>,
  z: ArrayLike<number>,
  ends: ReadonlyMap<number, FlowEnd>,
  start: number,
) {
  const points: PlanPoint[] = [];
  let [at, end] = [start, ends.get(start) ?? null];
  for (let step = 0; end === null && step < MOST_STEPS; step += 1) {
    if (level[at]! - z[at]! > DRY_MM) return { points, end: 'pond' as const };
    let next = -1;
    let steepest = 0;
    for (const n of surface.neighbours[at]!) {
      const run = Math.hypot(surface.x[n]! - surface.x[at]!, surface.y[n]! - surface.y[at]!);
      const fall = (z[at]! - z[n]!) / run;
      if (fall > steepest) [next, steepest] = [n, fall];
    }
    if (next < 0) return { points, end: 'pond' as const };
    at = next;
    points.push({ xMm: surface.x[at]!, yMm: surface.y[at]! });
    end = ends.get(at) ?? null;
  }
  return { points, end: end ?? ('pond' as const) };
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
  const level = makeSpill(networkOf(surface.neighbours))(z, [...ends.keys()]);
  const slopes = slopesOf(surface, z);
  const inside = (p: PlanPoint): number =>
    surface.triangles.findIndex(([a, b, c]) => {
      const side = (i: number, j: number) =>
        (surface.x[j]! - surface.x[i]!) * (p.yMm - surface.y[i]!) -
        (surface.y[j]! - surface.y[i]!) * (p.xMm - surface.x[i]!);
      return [side(a, b), side(b, c), side(c, a)].every((s, _, all) => s * all[0]! >= 0);
    });
  return starts.map((start) => trace(surface, z, level, slopes, ends, start, inside(start)));
}

function trace(
  surface: Surface,
  z: ArrayLike<number>,
  level: ArrayLike<number>,
  slopes: Slopes,
  ends: ReadonlyMap<number, FlowEnd>,
  start: PlanPoint,
  first: number,
): FlowLine {
  const points = [start];
  let [at, t] = [start, first];
  for (let step = 0; t >= 0 && step < MOST_STEPS; step += 1) {
    const [a, b, c] = surface.triangles[t]!;
    if ([a, b, c].every((v) => ends.get(v) === 'drain')) return { points, end: 'drain' };
    const way = slopes.down[t]!;
    const left = Math.hypot(way.x, way.y) < 1e-9 ? null : exit(surface, t, at, way);
    if (!left || left.u < AT_CORNER || left.u > 1 - AT_CORNER) {
      // Through a corner, or out of a triangle that the place only touches: on from the lowest corner by the network.
      const corner = left ? (left.u < 0.5 ? left.a : left.b) : [a, b, c].reduce((p, q) => (z[q]! < z[p]! ? q : p));
      points.push({ xMm: surface.x[corner]!, yMm: surface.y[corner]! });
      const rest = downNetwork(surface, level, z, ends, corner);
      return { points: [...points, ...rest.points], end: rest.end };
    }
    points.push(left.at);
    at = left.at;
    const beyond = slopes.across.get(sideKey(left.a, left.b))!.find((o) => o !== t);
    const onward = beyond === undefined ? null : slopes.down[beyond]!;
    const [ex, ey] = [surface.x[left.b]! - surface.x[left.a]!, surface.y[left.b]! - surface.y[left.a]!];
    const cross = (w: { x: number; y: number }) => ex * w.y - ey * w.x;
    if (onward && cross(onward) * cross(way) > 0) {
      t = beyond!;
      continue;
    }
    // A valley or the border: along the side to its lower end, and on from there by the network.
    const lower = z[left.a]! < z[left.b]! ? left.a : left.b;
    if (ends.get(left.a) === 'out' && ends.get(left.b) === 'out') return { points, end: 'out' };
    points.push({ xMm: surface.x[lower]!, yMm: surface.y[lower]! });
    const rest = downNetwork(surface, level, z, ends, lower);
    return { points: [...points, ...rest.points], end: rest.end };
  }
  return { points, end: t < 0 ? 'out' : 'pond' };
}

/** Shares of the floor whose water ends in the drain, in a pond, and out of the shower. */
export function flowShares(lines: readonly FlowLine[]): Record<FlowEnd, number> {
  const count = (end: FlowEnd) => lines.filter((l) => l.end === end).length / Math.max(1, lines.length);
  return { drain: count('drain'), pond: count('pond'), out: count('out') };
}
