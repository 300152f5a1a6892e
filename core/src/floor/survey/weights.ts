import type { PlanPoint } from '../../shower/geometry/point';

/** A height as a sum of heights of shots and of the rim: index of the vertex → its weight. */
export type Weights = readonly (readonly [vertex: number, weight: number])[];

/** A height between shots rests on as many at least. */
const FEWEST = 4;
/** Shots this near weigh alike, mm: what is under the rod's foot has no finer place. */
export const NEAR_MM = 20;

/** Solves a symmetric 3 x 3 system for its first unit vector; null when it is (nearly) singular. */
function firstRow([a, b, c, d, e, f]: readonly [number, number, number, number, number, number]): number[] | null {
  const [A, B, C] = [d * f - e * e, c * e - b * f, b * e - c * d];
  const det = a * A + b * B + c * C;
  const spread = d * f - e * e;
  if (spread < 1e-3 * (d + f) * (d + f) || Math.abs(det) < 1e-12) return null;
  return [A / det, B / det, C / det];
}

/** Points with a height, by the number of their vertex. */
export type Known = readonly (readonly [vertex: number, at: PlanPoint])[];

/**
 * The height of a place that no shot stands at, from the plane that fits the points round it best: nearer ones weigh
 * more, and as many are taken as it needs that they don't stand on a line. Exact on any plane; null where all of them
 * stand on one.
 */
export function planeWeights(at: PlanPoint, known: Known): Weights | null {
  if (known.length === 0) return null;
  const near = known
    .map(([i, s]) => ({ i, dx: s.xMm - at.xMm, dy: s.yMm - at.yMm }))
    .map((s) => ({ ...s, away: Math.hypot(s.dx, s.dy) }))
    .sort((p, q) => p.away - q.away);
  const scale = near[Math.min(near.length, FEWEST) - 1]!.away + NEAR_MM;
  for (let count = Math.min(FEWEST, near.length); count <= near.length; count += 1) {
    const used = near.slice(0, count).map((s) => ({
      i: s.i,
      x: s.dx / scale,
      y: s.dy / scale,
      w: 1 / (s.away * s.away + NEAR_MM * NEAR_MM),
    }));
    const sum = (of: (s: (typeof used)[number]) => number) => used.reduce((t, s) => t + s.w * of(s), 0);
    const total = sum(() => 1);
    const [mx, my] = [sum((s) => s.x) / total, sum((s) => s.y) / total];
    const row = firstRow([
      1,
      mx,
      my,
      sum((s) => s.x * s.x) / total,
      sum((s) => s.x * s.y) / total,
      sum((s) => s.y * s.y) / total,
    ]);
    const centred = used.map((s) => ({ x: s.x - mx, y: s.y - my }));
    const [xx, xy, yy] = [
      centred.reduce((t, c, k) => t + used[k]!.w * c.x * c.x, 0) / total,
      centred.reduce((t, c, k) => t + used[k]!.w * c.x * c.y, 0) / total,
      centred.reduce((t, c, k) => t + used[k]!.w * c.y * c.y, 0) / total,
    ];
    const flat = xx * yy - xy * xy < 0.01 * (xx + yy) * (xx + yy);
    if (row && !flat) return used.map((s) => [s.i, (s.w / total) * (row[0]! + row[1]! * s.x + row[2]! * s.y)] as const);
  }
  return null;
}

/** The same, of the nearest point where all of them stand on one line; nothing where there is none. */
export function heightWeights(at: PlanPoint, known: Known): Weights {
  const away = ([, p]: Known[number]) => Math.hypot(p.xMm - at.xMm, p.yMm - at.yMm);
  const plane = planeWeights(at, known);
  if (plane || known.length === 0) return plane ?? [];
  return [[known.reduce((best, s) => (away(s) < away(best) ? s : best))[0], 1]];
}
