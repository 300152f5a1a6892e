import type { PlanPoint } from '../../shower/geometry/point';
import type { Surface } from '../survey/surface';
import { worstGap } from './flatness';

/** Turns of the straightedge that are tried through every vertex, beside those through every two of them. */
const TURNS = 12;
/** Profiles have no two places nearer than this, mm. */
const SAME_MM = 0.01;

/** A line across the floor. */
interface Line {
  /** A point on it, mm. */
  at: PlanPoint;
  /** Unit direction. */
  ux: number;
  /** Its direction. */
  uy: number;
}

/** Heights along a line, where it crosses the sides of triangles; empty where it misses the floor. */
function profileAlong(surface: Surface, z: ArrayLike<number>, { at, ux, uy }: Line): { x: number; z: number }[] {
  const { x, y } = surface;
  const found: { x: number; z: number }[] = [];
  const beside = (v: number) => (x[v]! - at.xMm) * uy - (y[v]! - at.yMm) * ux;
  const along = (v: number) => (x[v]! - at.xMm) * ux + (y[v]! - at.yMm) * uy;
  surface.neighbours.forEach((list, a) => {
    const da = beside(a);
    if (Math.abs(da) < SAME_MM) found.push({ x: along(a), z: z[a]! });
    for (const b of list) {
      const db = beside(b);
      if (b < a || da * db >= 0 || Math.abs(da) < SAME_MM || Math.abs(db) < SAME_MM) continue;
      const t = da / (da - db);
      found.push({ x: along(a) + (along(b) - along(a)) * t, z: z[a]! + (z[b]! - z[a]!) * t });
    }
  });
  found.sort((p, q) => p.x - q.x);
  return found.filter((p, i) => i === 0 || p.x - found[i - 1]!.x > SAME_MM);
}

/** The worst gap under a straightedge laid anywhere on a floor. */
export interface FloorGap {
  /** Its depth, mm. */
  gapMm: number;
  /** Ends of the straightedge where the gap is worst. */
  from: PlanPoint;
  /** The other end of the gap, mm. */
  to: PlanPoint;
}

/**
 * The worst gap under a straightedge laid anywhere on a surface in any direction: along every line through two of its
 * shots and in twelve directions through each. Null when no line over the floor is as long as the straightedge.
 */
export function floorGap(surface: Surface, z: ArrayLike<number>, straightedgeMm: number): FloorGap | null {
  const points = surface.shots;
  const lines: Line[] = [];
  points.forEach((a, i) => {
    for (const b of points.slice(i + 1)) {
      const away = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
      if (away >= straightedgeMm / 4) lines.push({ at: a, ux: (b.xMm - a.xMm) / away, uy: (b.yMm - a.yMm) / away });
    }
    for (let k = 0; k < TURNS; k += 1) {
      const turn = (Math.PI * k) / TURNS;
      lines.push({ at: a, ux: Math.cos(turn), uy: Math.sin(turn) });
    }
  });
  let worst: FloorGap | null = null;
  for (const line of lines) {
    const profile = profileAlong(surface, z, line);
    if (profile.length < 2) continue;
    const gap = worstGap({ x: profile.map((p) => p.x), z: profile.map((p) => p.z) }, straightedgeMm);
    if (!gap || (worst && gap.gapMm <= worst.gapMm)) continue;
    const place = (along: number): PlanPoint => ({
      xMm: line.at.xMm + line.ux * along,
      yMm: line.at.yMm + line.uy * along,
    });
    worst = { gapMm: gap.gapMm, from: place(gap.fromMm), to: place(gap.fromMm + straightedgeMm) };
  }
  return worst;
}
