import Delaunator from 'delaunator';
import type { PlanPoint } from '../../shower/geometry/point';
import { insidePolygon } from '../../shower/geometry/polygon';
import type { Shot, SurveyedFloor } from './shots';
import { BESIDE_WALL_MM, between, type EdgeVertex, FLAT_MM2, ON_EDGE_MM } from './surface';

/** Where a point stands along an edge, and how far beside it, mm. */
function alongEdge(p: PlanPoint, a: PlanPoint, b: PlanPoint): { alongMm: number; besideMm: number; lengthMm: number } {
  const lengthMm = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  const alongMm = ((p.xMm - a.xMm) * (b.xMm - a.xMm) + (p.yMm - a.yMm) * (b.yMm - a.yMm)) / lengthMm;
  const besideMm = Math.abs((b.xMm - a.xMm) * (p.yMm - a.yMm) - (b.yMm - a.yMm) * (p.xMm - a.xMm)) / lengthMm;
  return { alongMm, besideMm, lengthMm };
}
/** Places along every edge where a vertex stands: its corners, shots on it, and the feet of shots and of a drain beside it. */
export function edgeStops(footprint: readonly PlanPoint[], known: readonly PlanPoint[]): number[][] {
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
/** The vertices of the edge, in order, added to `points`; a shot that stands on the edge is one of them. */
export function makeOutline(
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
/** The net over the floor: triangles of vertices, none across the drain or outside the footprint. */
export function triangulate(points: PlanPoint[], floor: SurveyedFloor): [number, number, number][] {
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
/** The vertices that each vertex shares a triangle with. */
export function neighboursOf(count: number, triangles: readonly [number, number, number][]): number[][] {
  const sets = Array.from({ length: count }, () => new Set<number>());
  for (const [a, b, c] of triangles) {
    sets[a]!.add(b).add(c);
    sets[b]!.add(a).add(c);
    sets[c]!.add(a).add(b);
  }
  return sets.map((s) => [...s]);
}
/** The middle of the first stretch of the outline that is no side of any triangle, or null. */
export function missingStretch(
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
export function crosses(a: PlanPoint, b: PlanPoint, rim: readonly PlanPoint[]): boolean {
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
