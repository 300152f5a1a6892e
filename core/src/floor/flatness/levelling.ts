import type { PlanPoint } from '../../shower/geometry/point';
import { ownHeights, type Surface } from '../survey/surface';

/** A litre, mm³. */
const MM3_PER_L = 1e6;

/** A plane over the floor: height at x = y = 0 and its slopes, rise / run. */
export interface Plane {
  /** Height at the origin, mm. */
  zMm: number;
  /** Rise over run along x. */
  slopeX: number;
  /** Rise over run along y. */
  slopeY: number;
}

/** What it takes to make a floor level, or one plane. */
export interface Levelling {
  /** Highest less lowest of the floor, mm. */
  outOfLevelMm: number;
  /** Where the floor stands highest. */
  highest: PlanPoint & { zMm: number };
  /** And lowest. */
  lowest: PlanPoint & { zMm: number };
  /** Self-leveller that finds its own level over the highest place, L. */
  levelL: number;
  /** Least filling that makes the floor a plane without grinding, L, and that plane. */
  planeL: number;
  /** The plane that is aimed at. */
  plane: Plane;
  /** How far each shot lies over (+, grind) or under (-, fill) the plane of best fit, mm. */
  offPlaneMm: number[];
}

/** Height of a plane at a place, mm. */
const heightOf = (p: Plane, x: number, y: number): number => p.zMm + p.slopeX * x + p.slopeY * y;

/** Volume between a plane and the surface beneath it, L, over each triangle exactly. */
function volumeUnder(surface: Surface, z: ArrayLike<number>, plane: Plane): number {
  const { x, y } = surface;
  let mm3 = 0;
  for (const [a, b, c] of surface.triangles) {
    const area = Math.abs((x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!)) / 2;
    const over = [a, b, c].reduce((sum, v) => sum + heightOf(plane, x[v]!, y[v]!) - z[v]!, 0);
    mm3 += (area * over) / 3;
  }
  return mm3 / MM3_PER_L;
}

/** The middle of the surface's area. */
function middleOf({ x, y, triangles }: Surface): PlanPoint {
  let [area, mx, my] = [0, 0, 0];
  for (const [a, b, c] of triangles) {
    const part = Math.abs((x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!)) / 2;
    area += part;
    mx += (part * (x[a]! + x[b]! + x[c]!)) / 3;
    my += (part * (y[a]! + y[b]! + y[c]!)) / 3;
  }
  return { xMm: mx / area, yMm: my / area };
}

/**
 * The plane over all places with the least filling under it: it lies lowest over the area's middle, so that it is that
 * side of the upper hull which stands over it. Walked to from side to side, each time tilting over the highest place.
 */
function leastCover(surface: Surface, z: ArrayLike<number>, used: readonly number[]): Plane {
  const { x, y } = surface;
  const middle = middleOf(surface);
  let best: { plane: Plane; over: number } | null = null;
  const top = Math.max(...used.map((v) => z[v]!));
  const level: Plane = { zMm: top, slopeX: 0, slopeY: 0 };
  for (let i = 0; i < used.length; i += 1)
    for (let j = i + 1; j < used.length; j += 1)
      for (let k = j + 1; k < used.length; k += 1) {
        const [a, b, c] = [used[i]!, used[j]!, used[k]!];
        const det = (x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!);
        if (Math.abs(det) < 1) continue;
        const slopeX = ((z[b]! - z[a]!) * (y[c]! - y[a]!) - (z[c]! - z[a]!) * (y[b]! - y[a]!)) / det;
        const slopeY = ((x[b]! - x[a]!) * (z[c]! - z[a]!) - (x[c]! - x[a]!) * (z[b]! - z[a]!)) / det;
        const plane = { zMm: z[a]! - slopeX * x[a]! - slopeY * y[a]!, slopeX, slopeY };
        const over = heightOf(plane, middle.xMm, middle.yMm);
        if (best && over >= best.over - 1e-9) continue;
        if (used.every((v) => heightOf(plane, x[v]!, y[v]!) >= z[v]! - 1e-6)) best = { plane, over };
      }
  return best && best.over < top ? best.plane : level;
}

/** The plane of best fit through shots (least squares). */
function bestPlane(surface: Surface): Plane {
  const shots = surface.shots;
  const n = shots.length;
  const mean = (of: (s: (typeof shots)[number]) => number) => shots.reduce((t, s) => t + of(s), 0) / n;
  const [mx, my, mz] = [mean((s) => s.xMm), mean((s) => s.yMm), mean((s) => s.zMm)];
  const sum = (of: (dx: number, dy: number, dz: number) => number) =>
    shots.reduce((t, s) => t + of(s.xMm - mx, s.yMm - my, s.zMm - mz), 0);
  const [xx, xy, yy] = [sum((dx) => dx * dx), sum((dx, dy) => dx * dy), sum((_, dy) => dy * dy)];
  const [xz, yz] = [sum((dx, _, dz) => dx * dz), sum((_, dy, dz) => dy * dz)];
  const det = xx * yy - xy * xy;
  const [slopeX, slopeY] = [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det];
  return { zMm: mz - slopeX * mx - slopeY * my, slopeX, slopeY };
}

/** What levelling a subfloor, a surface without a drain's rim, takes: how far it is out, what to grind and fill, and how much self-leveller covers it. */
export function levelling(surface: Surface): Levelling {
  const z = ownHeights(surface, 0);
  const plane = bestPlane(surface);
  const used = [...z.keys()];
  const by = (a: number, b: number) => z[a]! - z[b]!;
  const [lowest, highest] = [[...used].sort(by)[0]!, [...used].sort(by).at(-1)!];
  const at = (v: number) => ({ xMm: surface.x[v]!, yMm: surface.y[v]!, zMm: z[v]! });
  const cover = leastCover(
    surface,
    z,
    used.length > 90 ? used.filter((_, k) => k % Math.ceil(used.length / 90) === 0) : used,
  );
  return {
    outOfLevelMm: z[highest]! - z[lowest]!,
    highest: at(highest),
    lowest: at(lowest),
    levelL: volumeUnder(surface, z, { zMm: z[highest]!, slopeX: 0, slopeY: 0 }),
    planeL: volumeUnder(surface, z, cover),
    plane: cover,
    offPlaneMm: surface.shots.map((s) => s.zMm - heightOf(plane, s.xMm, s.yMm)),
  };
}
