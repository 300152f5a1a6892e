import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlanPoint } from '../../shower/geometry/point';
import type { Shot } from '../survey/shots';
import { makeSurface, ownHeights } from '../survey/surface';
import { flowLines, flowShares } from './flow';
import { type PondingInput, ponding, pondsOn } from './ponding';
import { makeSpill, networkOf } from './spill';

const found = (input: PondingInput) => {
  const out = ponding(input);
  if (!out.ok) throw new Error(out.problem.code);
  return out.value;
};
const SQUARE: PlanPoint[] = [
  { xMm: 0, yMm: 0 },
  { xMm: 1000, yMm: 0 },
  { xMm: 1000, yMm: 1000 },
  { xMm: 0, yMm: 1000 },
];
const lattice = (n: number, height: (x: number, y: number) => number): Shot[] =>
  Array.from({ length: n * n }, (_, k) => {
    const [xMm, yMm] = [((k % n) * 1000) / (n - 1), (Math.floor(k / n) * 1000) / (n - 1)];
    return { xMm, yMm, zMm: height(xMm, yMm) };
  });

const AROUND = [-1, 0, 1].flatMap((dr) => [-1, 0, 1].map((dc) => [dr, dc] as const));

/** Fills place by place until nothing changes: slow, and sure. */
function bruteForce(
  z: readonly (readonly number[])[],
  outlets: readonly { row: number; column: number }[],
): number[][] {
  const w = z.map((r) => r.map(() => Infinity));
  for (const o of outlets) w[o.row]![o.column] = z[o.row]![o.column]!;
  for (let changed = true; changed; ) {
    changed = false;
    for (const [r, row] of z.entries())
      for (const [c, h] of row.entries())
        for (const [dr, dc] of AROUND) {
          const up = Math.max(h, w[r + dr]?.[c + dc] ?? Infinity);
          if (up >= w[r]![c]!) continue;
          w[r]![c] = up;
          changed = true;
        }
  }
  return w;
}

describe('ponds on a grid', () => {
  it('hold a spherical cap of 100 mm radius and 3 mm depth: 47.14 mL', () => {
    const [a, h, spacingMm, n] = [100, 3, 1, 261];
    const radius = (a * a + h * h) / (2 * h);
    const zMm = Array.from({ length: n }, (_, row) =>
      Array.from({ length: n }, (__, column) => {
        const away = Math.hypot(row - 130, column - 130);
        return away >= a ? 0 : radius - h - Math.sqrt(radius * radius - away * away);
      }),
    );
    const { ponds, deepestMm } = found({ grid: { spacingMm, zMm }, outlets: [{ row: 0, column: 0 }] });
    expect(ponds).toHaveLength(1);
    expect(deepestMm).toBeCloseTo(3, 6);
    expect(ponds[0]!.volumeL * 1000).toBeCloseTo((Math.PI * h * (3 * a * a + h * h)) / 6 / 1000, 1);
    expect(ponds[0]!.volumeL * 1000).toBeCloseTo(47.14, 1);
    expect(ponds[0]!.at).toEqual({ xMm: 130, yMm: 130 });
  });
  it('are filled as a slow and sure filling fills them', () => {
    const any = fc.tuple(fc.integer({ min: 2, max: 7 }), fc.integer({ min: 2, max: 7 })).chain(([rows, columns]) =>
      fc.record({
        z: fc.array(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: columns, maxLength: columns }), {
          minLength: rows,
          maxLength: rows,
        }),
        row: fc.integer({ min: 0, max: rows - 1 }),
        column: fc.integer({ min: 0, max: columns - 1 }),
      }),
    );
    fc.assert(
      fc.property(any, ({ z, row, column }) => {
        const w = bruteForce(z, [{ row, column }]);
        const depths = w.flatMap((r, i) => r.map((v, j) => v - z[i]![j]!));
        const { deepestMm, ponds } = found({ grid: { spacingMm: 10, zMm: z }, outlets: [{ row, column }] });
        expect(deepestMm).toBe(Math.max(...depths));
        const litres = (depths.reduce((s, v) => s + v, 0) * 100) / 1e6;
        expect(ponds.reduce((s, p) => s + p.volumeL, 0)).toBeCloseTo(litres, 12);
      }),
    );
  });
  it.each([
    ['grid.zMm', { grid: { spacingMm: 1, zMm: [[1, 2], [1]] }, outlets: [{ row: 0, column: 0 }] }],
    ['outlets', { grid: { spacingMm: 1, zMm: [[1, 2]] }, outlets: [] }],
    ['outlets.0', { grid: { spacingMm: 1, zMm: [[1, null]] }, outlets: [{ row: 0, column: 1 }] }],
    ['outlets', { grid: { spacingMm: 1, zMm: [[1, null, 2]] }, outlets: [{ row: 0, column: 0 }] }],
    ['grid', {}],
  ])('are refused at %s', (field, input) => {
    expect(ponding(input)).toMatchObject({ ok: false, problem: { field } });
  });
  it('are judged only where there is a limit', () => {
    const input = { grid: { spacingMm: 1, zMm: [[0, 3, 1]] }, outlets: [{ row: 0, column: 0 }] };
    expect(found(input)).not.toHaveProperty('verdict');
    expect(found({ ...input, limitMm: 2 }).verdict).toBe('pass');
    expect(found({ ...input, limitMm: 1.9 }).verdict).toBe('fail');
  });
});

describe('ponds on the surface through shots', () => {
  const floor = { footprint: SQUARE, drain: { xMm: 500, yMm: 500 }, drainRimMm: 50 };
  const cone = (x: number, y: number) => 0.02 * (Math.hypot(x - 500, y - 500) - 50);
  it('are none where all runs to the drain', () => {
    expect(found({ ...floor, shots: lattice(9, cone), drainZMm: 0 }).ponds).toEqual([]);
  });
  it('of one low shot are a pyramid upside down, as deep as it lies under its lowest neighbour', () => {
    const shots = lattice(9, () => 10).map((s) => ({ ...s, zMm: s.xMm === 250 && s.yMm === 250 ? 7 : s.zMm }));
    const { ponds } = found({ ...floor, shots, drainZMm: 0 });
    expect(ponds).toHaveLength(1);
    expect(ponds[0]!.deepestMm).toBeCloseTo(3, 9);
    expect(ponds[0]!.volumeL).toBeCloseTo((ponds[0]!.areaMm2 * 3) / 3 / 1e6, 9);
  });
  it('agree with a fine grid of the same triangles', () => {
    const bumps = fc.array(fc.double({ min: -6, max: 6, noNaN: true }), { minLength: 36, maxLength: 36 });
    fc.assert(
      fc.property(bumps, (noise) => {
        const shots = lattice(6, cone).map((s, k) => ({ ...s, zMm: s.zMm + noise[k]! }));
        const made = makeSurface(floor, shots);
        if (!made.ok) throw new Error(made.problem.code);
        const surface = made.value;
        const z = ownHeights(surface, -20);
        const exact = pondsOn(surface, z, [surface.rim.from]).reduce((m, p) => Math.max(m, p.deepestMm), 0);
        // The same surface cut finer: every side halved again and again keeps its shape, so that its ponds stay.
        const fine = halved(surface, z);
        const level = makeSpill(networkOf(fine.neighbours))(fine.z, [surface.rim.from]);
        // Less than a millionth of a millimetre is dry, not a pond.
        expect(Math.max(...level.map((l, i) => l - fine.z[i]!))).toBeCloseTo(exact, 5);
      }),
      { numRuns: 30 },
    );
  });
});

/** Every triangle cut into four by the middles of its sides. */
function halved(surface: { x: Float64Array; triangles: [number, number, number][] }, z: Float64Array) {
  const heights = [...z];
  const middles = new Map<string, number>();
  const near: Set<number>[] = heights.map(() => new Set<number>());
  const middle = (a: number, b: number): number => {
    const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
    const known = middles.get(key) ?? heights.length;
    if (!middles.has(key)) {
      heights.push((z[a]! + z[b]!) / 2);
      near.push(new Set());
      middles.set(key, known);
    }
    return known;
  };
  for (const [a, b, c] of surface.triangles) {
    const [ab, bc, ca] = [middle(a, b), middle(b, c), middle(c, a)];
    for (const t of [
      [a, ab, ca],
      [ab, b, bc],
      [ca, bc, c],
      [ab, bc, ca],
    ])
      for (const v of t) for (const w of t) if (v !== w) near[v]!.add(w);
  }
  return { z: Float64Array.from(heights), neighbours: near.map((s) => [...s]) };
}

describe('the ways of water', () => {
  const floor = { footprint: SQUARE, drain: { xMm: 500, yMm: 500 }, drainRimMm: 50 };
  const starts = lattice(5, () => 0).map((s) => ({ xMm: 60 + s.xMm * 0.88, yMm: 60 + s.yMm * 0.88 }));
  const lines = (height: (x: number, y: number) => number, open: number[] = [], drainZ = 0) => {
    const made = makeSurface(floor, lattice(9, height));
    if (!made.ok) throw new Error(made.problem.code);
    return flowLines(made.value, ownHeights(made.value, drainZ), open, starts);
  };
  it('all end in the drain of a cone, falling all the way', () => {
    const cone = (x: number, y: number) => 0.02 * (Math.hypot(x - 500, y - 500) - 50);
    const all = lines(cone);
    for (const l of all)
      for (const [i, p] of l.points.slice(1).entries())
        expect(Math.hypot(p.xMm - l.points[i]!.xMm, p.yMm - l.points[i]!.yMm)).toBeLessThan(200);
    expect(flowShares(all.filter((l) => Math.hypot(l.points[0]!.xMm - 500, l.points[0]!.yMm - 500) > 60)).drain).toBe(
      1,
    );
    for (const l of all)
      l.points.slice(1).forEach((p, i) => {
        expect(cone(p.xMm, p.yMm)).toBeLessThanOrEqual(cone(l.points[i]!.xMm, l.points[i]!.yMm) + 0.35);
      });
  });
  it('run out where a floor falls to an edge that stands open, and stand where it is closed', () => {
    const tilted = (_: number, y: number) => 0.02 * y;
    expect(flowShares(lines(tilted, [0], 20)).out).toBeGreaterThan(0.6);
    expect(flowShares(lines(tilted, [], 20)).out).toBe(0);
    expect(flowShares(lines(tilted, [], 20)).pond).toBeGreaterThan(0.6);
  });
});
