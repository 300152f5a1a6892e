import Delaunator from 'delaunator';
import { done, type Outcome } from '../../outcome/outcome';
import type { PlanPoint } from '../../shower/geometry/point';
import { distanceToOutlineMm, insidePolygon } from '../../shower/geometry/polygon';
import { type Shot, type SurveyedFloor, usableShots } from './shots';
import { heightWeights, NEAR_MM, type Weights } from './weights';

/** Corners that the drain's rim is drawn with. */
const RIM_CORNERS = 16;
/** Corners of a channel's rim stand this close at least, mm. */
const CHANNEL_EVERY_MM = 60;
/** Shots within this of a wall say how high its foot stands beside them, mm. */
const BESIDE_WALL_MM = 150;
/** Floor as wide as this between a drain and its wall is told of only by shots that stand there, mm. */
const BEHIND_DRAIN_MM = 203.2;
/** A vertex of the edge and a shot on it are one within this, mm. */
const ON_EDGE_MM = 1;
const FLAT_MM2 = 1e-3;
const MOST_ROUNDS = 12;

/** A vertex that stands on an edge of the footprint. */
export interface EdgeVertex {
  vertex: number;
  edge: number;
  /** mm from the edge's first corner. */
  alongMm: number;
}

/**
 * A floor as triangles between its shots, the drain's rim and its outline. Places are fixed; the heights of all vertices
 * are sums of the shots' heights, so that the same surface serves every guess at them.
 */
export interface Surface {
  floor: SurveyedFloor;
  shots: Shot[];
  /** Vertices: first the shots, then the rim, then the outline. */
  x: Float64Array;
  y: Float64Array;
  rim: { from: number; count: number };
  /** From the first of these vertices on, heights are sums of shots and rim. */
  derived: { from: number; weights: Weights[] };
  triangles: [number, number, number][];
  /** Vertices joined by a side of a triangle, for each vertex. */
  neighbours: number[][];
  /** Vertices of the outline in order along each edge; corners stand in both of theirs. */
  outline: EdgeVertex[];
}

interface Vertices {
  points: PlanPoint[];
  rimFrom: number;
  derivedFrom: number;
}

const between = (a: PlanPoint, b: PlanPoint, t: number): PlanPoint => ({
  xMm: a.xMm + (b.xMm - a.xMm) * t,
  yMm: a.yMm + (b.yMm - a.yMm) * t,
});

/** Where a point stands along an edge, and how far beside it, mm. */
function alongEdge(p: PlanPoint, a: PlanPoint, b: PlanPoint): { alongMm: number; besideMm: number; lengthMm: number } {
  const lengthMm = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  const alongMm = ((p.xMm - a.xMm) * (b.xMm - a.xMm) + (p.yMm - a.yMm) * (b.yMm - a.yMm)) / lengthMm;
  const besideMm = Math.abs((b.xMm - a.xMm) * (p.yMm - a.yMm) - (b.yMm - a.yMm) * (p.xMm - a.xMm)) / lengthMm;
  return { alongMm, besideMm, lengthMm };
}

/** Places along every edge where a vertex stands: its corners, shots on it, and the feet of shots and of a drain beside it. */
function edgeStops(footprint: readonly PlanPoint[], known: readonly PlanPoint[]): number[][] {
  return footprint.map((a, i) => {
    const b = footprint[(i + 1) % footprint.length]!;
    const { lengthMm } = alongEdge(a, a, b);
    const stops = [0, lengthMm];
    for (const p of known) {
      const at = alongEdge(p, a, b);
      if (at.besideMm > BESIDE_WALL_MM || at.alongMm < 0 || at.alongMm > lengthMm) continue;
      if (stops.every((stop) => Math.abs(stop - at.alongMm) > 2 * ON_EDGE_MM)) stops.push(at.alongMm);
    }
    return stops.sort((p, q) => p - q);
  });
}

function makeOutline(
  floor: SurveyedFloor,
  shots: readonly Shot[],
  stops: readonly number[][],
  points: PlanPoint[],
): EdgeVertex[] {
  const { footprint } = floor;
  const outline: EdgeVertex[] = [];
  const known = new Map<number, number>();
  stops.forEach((list, edge) => {
    const [a, b] = [footprint[edge]!, footprint[(edge + 1) % footprint.length]!];
    const length = list.at(-1)!;
    for (const alongMm of list) {
      const corner = alongMm === 0 ? edge : alongMm === length ? (edge + 1) % footprint.length : -1;
      const at = between(a, b, alongMm / length);
      const shot = shots.findIndex((s) => Math.hypot(s.xMm - at.xMm, s.yMm - at.yMm) <= ON_EDGE_MM);
      let vertex = shot >= 0 ? shot : corner >= 0 ? (known.get(corner) ?? -1) : -1;
      if (vertex < 0) {
        vertex = points.length;
        points.push(at);
        if (corner >= 0) known.set(corner, vertex);
      }
      outline.push({ vertex, edge, alongMm });
    }
  });
  return outline;
}

function triangulate(points: PlanPoint[], floor: SurveyedFloor): [number, number, number][] {
  const { triangles } = Delaunator.from(
    points,
    (p) => p.xMm,
    (p) => p.yMm,
  );
  const kept: [number, number, number][] = [];
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
    const [p, q, r] = [points[a]!, points[b]!, points[c]!];
    const twice = Math.abs((q.xMm - p.xMm) * (r.yMm - p.yMm) - (q.yMm - p.yMm) * (r.xMm - p.xMm));
    const middle = { xMm: (p.xMm + q.xMm + r.xMm) / 3, yMm: (p.yMm + q.yMm + r.yMm) / 3 };
    if (twice / 2 > FLAT_MM2 && insidePolygon(middle, floor.footprint)) kept.push([a, b, c]);
  }
  return kept;
}

function neighboursOf(count: number, triangles: readonly [number, number, number][]): number[][] {
  const sets = Array.from({ length: count }, () => new Set<number>());
  for (const [a, b, c] of triangles) {
    sets[a]!.add(b).add(c);
    sets[b]!.add(a).add(c);
    sets[c]!.add(a).add(b);
  }
  return sets.map((s) => [...s]);
}

/** The middle of the first stretch of the outline that is no side of any triangle, or null. */
function missingStretch(
  outline: readonly EdgeVertex[],
  neighbours: readonly number[][],
): { edge: number; atMm: number } | null {
  for (const [k, v] of outline.entries()) {
    const next = outline[k + 1];
    if (!next || next.edge !== v.edge || neighbours[v.vertex]!.includes(next.vertex)) continue;
    return { edge: v.edge, atMm: (v.alongMm + next.alongMm) / 2 };
  }
  return null;
}

/** Whether the straight way between two places goes through the drain, more than along its rim. */
function crosses(a: PlanPoint, b: PlanPoint, rim: readonly PlanPoint[]): boolean {
  const side = (p: PlanPoint, q: PlanPoint, r: PlanPoint) =>
    (q.xMm - p.xMm) * (r.yMm - p.yMm) - (q.yMm - p.yMm) * (r.xMm - p.xMm);
  // A rim is convex: a line that touches it only in a corner or along a side leaves all its corners on one side.
  let [left, right] = [false, false];
  let [before, behind] = [Infinity, -Infinity];
  const length2 = (b.xMm - a.xMm) ** 2 + (b.yMm - a.yMm) ** 2;
  if (length2 === 0) return false;
  const slack = 1e-6 * Math.sqrt(length2);
  for (let i = 0; i < rim.length; i += 1) {
    const [p, q] = [rim[i]!, rim[(i + 1) % rim.length]!];
    const [sp, sq] = [side(a, b, p), side(a, b, q)];
    if (sp > slack) left = true;
    if (sp < -slack) right = true;
    if (sp === sq || sp > slack === sq > slack) continue;
    const t = sp / (sp - sq);
    const [x, y] = [p.xMm + (q.xMm - p.xMm) * t, p.yMm + (q.yMm - p.yMm) * t];
    const along = ((x - a.xMm) * (b.xMm - a.xMm) + (y - a.yMm) * (b.yMm - a.yMm)) / length2;
    before = Math.min(before, along);
    behind = Math.max(behind, along);
  }
  // Of the line's part within the rim, some must lie between the two places.
  return left && right && Math.min(behind, 1) - Math.max(before, 0) > 1e-6;
}

/** The drain's rim as corners: a channel's outline with places between, a ring, or nothing where there is no drain yet. */
function rimOf({ drain, drainRimMm, rim }: SurveyedFloor): PlanPoint[] {
  if (rim)
    return rim.flatMap((a, i) => {
      const b = rim[(i + 1) % rim.length]!;
      const steps = Math.max(1, Math.ceil(Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm) / CHANNEL_EVERY_MM));
      return Array.from({ length: steps }, (_, k) => between(a, b, k / steps));
    });
  return Array.from({ length: drainRimMm > 0 ? RIM_CORNERS : 0 }, (_, k) => {
    const turn = (2 * Math.PI * (k + 0.5)) / RIM_CORNERS;
    return { xMm: drain.xMm + drainRimMm * Math.cos(turn), yMm: drain.yMm + drainRimMm * Math.sin(turn) };
  });
}

/** How far a place lies from the drain's rim, mm; below zero within a round one. */
export function toRimMm({ drain, drainRimMm, rim }: SurveyedFloor, p: PlanPoint): number {
  return rim ? distanceToOutlineMm(p, rim) : Math.hypot(p.xMm - drain.xMm, p.yMm - drain.yMm) - drainRimMm;
}

/** A floor with what stands on it, for the heights of its outline. */
export interface Shots {
  floor: SurveyedFloor;
  shots: readonly Shot[];
  rim: readonly PlanPoint[];
}

/**
 * The shots that tell of a place of the outline: each stands beside it, or no farther from it than the drain; the drain
 * does not lie between; and it is not much nearer to the drain than the place. What lies beyond a drain or round its corner
 * says nothing of the floor behind it.
 */
function tellers({ floor, shots, rim }: Shots, at: PlanPoint): { shot: number; awayMm: number; fromRimMm: number }[] {
  const rimMm = toRimMm(floor, at);
  const reach = Math.max(BESIDE_WALL_MM, rimMm);
  return shots.flatMap((s, shot) => {
    const awayMm = Math.hypot(s.xMm - at.xMm, s.yMm - at.yMm);
    if (awayMm > reach) return [];
    const fromRimMm = toRimMm(floor, s);
    return fromRimMm < rimMm / 2 || crosses(at, s, rim) ? [] : [{ shot, awayMm, fromRimMm }];
  });
}

/**
 * Whether any shot tells of a place of the outline. Farther from the drain than 8 in the outline is what the shots along
 * it make it [common practice, no source]; and all of it is while there is no drain.
 */
export const isTold = (known: Shots, at: PlanPoint): boolean =>
  known.rim.length === 0 || toRimMm(known.floor, at) > BEHIND_DRAIN_MM || tellers(known, at).length > 0;

/**
 * The height of a place of the outline. Beside a drain, where no shot is nearer than its rim, the floor is taken to fall
 * to the rim as evenly as at the shots that tell of the place, and to be level with it where none does; everywhere else it
 * is that of the plane through the shots round the place.
 */
function heightFrom(known: Shots, at: PlanPoint): Weights {
  const { floor, shots, rim } = known;
  const rimMm = toRimMm(floor, at);
  const beside = tellers(known, at);
  const nearestMm = Math.min(...beside.map((t) => t.awayMm));
  if (rim.length === 0 || rimMm > BEHIND_DRAIN_MM || nearestMm <= rimMm)
    return heightWeights(
      at,
      [...shots.entries()].filter(([, s]) => !crosses(at, s, rim)),
    );
  const near = beside.map((t) => ({ ...t, weight: 1 / (t.awayMm ** 2 + NEAR_MM ** 2) }));
  const total = near.reduce((sum, t) => sum + t.weight, 0);
  const own = near.map((t): [number, number] => [t.shot, ((t.weight / total) * rimMm) / t.fromRimMm]);
  return [...own, [shots.length, 1 - own.reduce((sum, [, w]) => sum + w, 0)]];
}

/**
 * The surface through shots (Delaunay triangles), with the drain's rim as a ring of its own height and the outline as
 * its border. Where no shot stands at the outline, its height is that of the plane through the shots beside it.
 */
export function makeSurface(floor: SurveyedFloor, given: readonly Shot[]): Outcome<Surface> {
  const usable = usableShots(floor, given);
  if (!usable.ok) return usable;
  const shots = usable.value;
  const rim = rimOf(floor);
  const stops = edgeStops(floor.footprint, [...shots, ...rim]);
  const made = (): Vertices & { outline: EdgeVertex[] } => {
    const points: PlanPoint[] = [...shots, ...rim].map(({ xMm, yMm }) => ({ xMm, yMm }));
    const derivedFrom = points.length;
    return { points, rimFrom: shots.length, derivedFrom, outline: makeOutline(floor, shots, stops, points) };
  };
  let vertices = made();
  let triangles = triangulate(vertices.points, floor);
  let neighbours = neighboursOf(vertices.points.length, triangles);
  for (let round = 0; round < MOST_ROUNDS * floor.footprint.length; round += 1) {
    const missing = missingStretch(vertices.outline, neighbours);
    if (!missing) break;
    stops[missing.edge]!.push(missing.atMm);
    stops[missing.edge]!.sort((p, q) => p - q);
    vertices = made();
    triangles = triangulate(vertices.points, floor);
    neighbours = neighboursOf(vertices.points.length, triangles);
  }
  const { points, rimFrom, derivedFrom, outline } = vertices;
  return done({
    floor,
    shots,
    x: Float64Array.from(points, (p) => p.xMm),
    y: Float64Array.from(points, (p) => p.yMm),
    rim: { from: rimFrom, count: rim.length },
    derived: { from: derivedFrom, weights: points.slice(derivedFrom).map((p) => heightFrom({ floor, shots, rim }, p)) },
    triangles,
    neighbours,
    outline,
  });
}

/** Heights of all vertices, mm, from the shots' heights and the rim's; written into `out` where one is given. */
export function heightsOf(
  surface: Surface,
  shotZ: ArrayLike<number>,
  drainZMm: number,
  out?: Float64Array,
): Float64Array {
  const z = out ?? new Float64Array(surface.x.length);
  const { rim, derived } = surface;
  for (let i = 0; i < rim.from; i += 1) z[i] = shotZ[i]!;
  for (let i = 0; i < rim.count; i += 1) z[rim.from + i] = drainZMm;
  for (let k = 0; k < derived.weights.length; k += 1) {
    let sum = 0;
    for (const [vertex, weight] of derived.weights[k]!) sum += z[vertex]! * weight;
    z[derived.from + k] = sum;
  }
  return z;
}

/** Heights of the surface as it was shot. */
export const ownHeights = (surface: Surface, drainZMm: number): Float64Array =>
  heightsOf(
    surface,
    Float64Array.from(surface.shots, (s) => s.zMm),
    drainZMm,
  );

/** Height at a place, mm, or null outside the surface. */
export function heightAt(surface: Surface, z: ArrayLike<number>, at: PlanPoint): number | null {
  const { x, y } = surface;
  for (const [a, b, c] of surface.triangles) {
    const det = (y[b]! - y[c]!) * (x[a]! - x[c]!) + (x[c]! - x[b]!) * (y[a]! - y[c]!);
    const u = ((y[b]! - y[c]!) * (at.xMm - x[c]!) + (x[c]! - x[b]!) * (at.yMm - y[c]!)) / det;
    const v = ((y[c]! - y[a]!) * (at.xMm - x[c]!) + (x[a]! - x[c]!) * (at.yMm - y[c]!)) / det;
    if (u >= -1e-9 && v >= -1e-9 && u + v <= 1 + 1e-9) return u * z[a]! + v * z[b]! + (1 - u - v) * z[c]!;
  }
  return null;
}
