import { done, type Outcome } from '../../outcome/outcome';
import type { PlanPoint } from '../../shower/geometry/point';
import { distanceToOutlineMm } from '../../shower/geometry/polygon';
import { type Shot, type SurveyedFloor, usableShots } from './shots';
import { crosses, edgeStops, makeOutline, missingStretch, neighboursOf, triangulate } from './triangulation';
import { heightWeights, NEAR_MM, type Weights } from './weights';

/** Corners that the drain's rim is drawn with. */
const RIM_CORNERS = 16;
/** Corners of a channel's rim stand this close at least, mm. */
const CHANNEL_EVERY_MM = 60;
/** Shots within this of a wall say how high its foot stands beside them, mm. */
export const BESIDE_WALL_MM = 150;
/** Floor as wide as this between a drain and its wall is told of only by shots that stand there, mm. */
const BEHIND_DRAIN_MM = 203.2;
/** A vertex of the edge and a shot on it are one within this, mm. */
export const ON_EDGE_MM = 1;
/** A triangle smaller than this is a line, mm². */
export const FLAT_MM2 = 1e-3;
/** Triangles are turned round at most so often until none wants it. */
const MOST_ROUNDS = 12;

/** A vertex that stands on an edge of the footprint. */
export interface EdgeVertex {
  /** Which vertex. */
  vertex: number;
  /** Which side of the outline. */
  edge: number;
  /** mm from the edge's first corner. */
  alongMm: number;
}

/**
 * A floor as triangles between its shots, the drain's rim and its outline. Places are fixed; the heights of all vertices
 * are sums of the shots' heights, so that the same surface serves every guess at them.
 */
export interface Surface {
  /** The floor that is shot. */
  floor: SurveyedFloor;
  /** The shots that count. */
  shots: Shot[];
  /** Vertices: first the shots, then the rim, then the outline. */
  x: Float64Array;
  /** Place of each vertex, mm. */
  y: Float64Array;
  /** Vertices on the rim of the drain. */
  rim: { from: number; count: number };
  /** From the first of these vertices on, heights are sums of shots and rim. */
  derived: { from: number; weights: Weights[] };
  /** Corners of each, by their vertices. */
  triangles: [number, number, number][];
  /** Vertices joined by a side of a triangle, for each vertex. */
  neighbours: number[][];
  /** Vertices of the outline in order along each edge; corners stand in both of theirs. */
  outline: EdgeVertex[];
}

/** What the triangles stand on. */
interface Vertices {
  /** Places, mm. */
  points: PlanPoint[];
  /** The first on the rim. */
  rimFrom: number;
  /** The first whose height comes from others. */
  derivedFrom: number;
}

/** A point between two others; `t` 0 is the first, 1 the second. */
export const between = (a: PlanPoint, b: PlanPoint, t: number): PlanPoint => ({
  xMm: a.xMm + (b.xMm - a.xMm) * t,
  yMm: a.yMm + (b.yMm - a.yMm) * t,
});

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
  /** The floor that is shot. */
  floor: SurveyedFloor;
  /** The shots that count. */
  shots: readonly Shot[];
  /** Vertices on the rim of the drain. */
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
