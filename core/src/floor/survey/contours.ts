import type { PlanPoint } from '../../shower/geometry/point';
import type { Surface } from './surface';

/** Pieces of the line on which a surface has one height. */
export function contourAt(surface: Surface, z: ArrayLike<number>, heightMm: number): [PlanPoint, PlanPoint][] {
  const { x, y } = surface;
  return surface.triangles.flatMap((t) => {
    const crossings: PlanPoint[] = [];
    t.forEach((a, i) => {
      const b = t[(i + 1) % 3]!;
      const [da, db] = [z[a]! - heightMm, z[b]! - heightMm];
      if (da >= 0 === db >= 0) return;
      const s = da / (da - db);
      crossings.push({ xMm: x[a]! + (x[b]! - x[a]!) * s, yMm: y[a]! + (y[b]! - y[a]!) * s });
    });
    return crossings.length === 2 ? [[crossings[0]!, crossings[1]!]] : [];
  });
}

/** Heights between the lowest and the highest of a surface at equal steps from zero, forty at most. */
export function contourHeights(z: ArrayLike<number>, stepMm: number): number[] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < z.length; i += 1) {
    low = Math.min(low, z[i]!);
    high = Math.max(high, z[i]!);
  }
  const first = Math.ceil(low / stepMm);
  const count = Math.min(40, Math.floor(high / stepMm) - first + 1);
  return Array.from({ length: Math.max(0, count) }, (_, k) => (first + k) * stepMm);
}
