import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeSurface, ownHeights } from '../survey/surface';
import { flatness } from './flatness';
import { floorGap } from './floorFlatness';
import { levelling } from './levelling';

const L = 609.6;
const gap = (xMm: number[], zMm: number[], straightedgeMm = L) => {
  const found = flatness({ profile: { xMm, zMm }, straightedgeMm, limitMm: 25.4 / 16 });
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};
const range = (n: number, to: number): number[] => Array.from({ length: n }, (_, k) => (k * to) / (n - 1));

describe('flatness under a rigid straightedge', () => {
  it('is nothing on a plane, however steep', () => {
    expect(gap([0, 500, 1500], [0, 10, 30]).gapMm).toBeCloseTo(0, 9);
  });
  it('in a valley of two planes is s L / 2 in the middle', () => {
    const s = 0.01;
    const { gapMm, fromMm, toMm, verdict } = gap([0, 1000, 2000], [1000 * s, 0, 1000 * s]);
    expect(gapMm).toBeCloseTo((s * L) / 2, 9);
    expect((fromMm + toMm) / 2).toBeCloseTo(1000, 6);
    expect(verdict).toBe('fail');
  });
  it('on a ridge is s L: it rocks onto one side', () => {
    const s = 0.01;
    expect(gap([0, 1000, 2000], [-1000 * s, 0, -1000 * s]).gapMm).toBeCloseTo(s * L, 9);
  });
  it('does not call every hump flat, as the hull alone would', () => {
    expect(gap([0, 900, 1000, 1100, 2000], [0, 0, 3, 0, 0]).gapMm).toBeGreaterThan(3);
  });
  it('passes at its limit and fails over it', () => {
    const dip = (d: number) => gap([0, 600, 900, 1200, 1800], [0, 0, -d, 0, 0]).verdict;
    expect([dip(1.5), dip(1.7)]).toEqual(['pass', 'fail']);
  });
  it('is the same when the floor is tilted as a whole, turned round, or raised', () => {
    const heights = fc.array(fc.double({ min: -8, max: 8, noNaN: true }), { minLength: 6, maxLength: 14 });
    fc.assert(
      fc.property(heights, fc.double({ min: -0.05, max: 0.05, noNaN: true }), (z, tilt) => {
        const x = range(z.length, 2000);
        const flat = gap(x, z).gapMm;
        expect(
          gap(
            x,
            z.map((v, k) => v + tilt * x[k]! + 7),
          ).gapMm,
        ).toBeCloseTo(flat, 6);
        expect(gap(x, [...z].reverse()).gapMm).toBeCloseTo(flat, 6);
      }),
    );
  });
  it('is never less than a fine search over every place finds', () => {
    const heights = fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 4, maxLength: 9 });
    fc.assert(
      fc.property(heights, (z) => {
        const x = range(z.length, 1800);
        const at = (p: number) => {
          const k = Math.min(z.length - 2, Math.floor((p / 1800) * (z.length - 1)));
          return z[k]! + ((z[k + 1]! - z[k]!) * (p - x[k]!)) / (x[k + 1]! - x[k]!);
        };
        let worst = 0;
        for (let from = 0; from <= 1800 - L; from += 7) {
          // The rule lies on two points either side of its middle: of all pairs that nothing pierces, brute force.
          const places = range(62, L).map((o) => [from + o, at(from + o)] as const);
          const rests = places.flatMap((a, i) =>
            places.slice(i + 1).flatMap((b) => {
              if (a[0] > from + L / 2 || b[0] < from + L / 2) return [];
              const m = (b[1] - a[1]) / (b[0] - a[0]);
              return places.every((p) => a[1] + m * (p[0] - a[0]) >= p[1] - 1e-9) ? [[a, m] as const] : [];
            }),
          );
          for (const [a, m] of rests) for (const p of places) worst = Math.max(worst, a[1] + m * (p[0] - a[0]) - p[1]);
        }
        expect(gap(x, z).gapMm).toBeGreaterThanOrEqual(worst - 0.35);
      }),
      { numRuns: 25 },
    );
  });
  it.each([
    ['straightedgeMm', [0, 300], [0, 0], 'profile-too-short'],
    ['profile.xMm.2', [0, 900, 900], [0, 0, 0], 'profile-not-growing'],
    ['profile.zMm', [0, 900, 1900], [0, 0], 'profile-heights-missing'],
  ])('is refused at %s', (field, xMm, zMm, code) => {
    const found = flatness({ profile: { xMm, zMm }, straightedgeMm: L, limitMm: 1 });
    expect(found).toMatchObject({ ok: false, problem: { field, code } });
  });
});

const FLOOR = [
  { xMm: 0, yMm: 0 },
  { xMm: 1500, yMm: 0 },
  { xMm: 1500, yMm: 900 },
  { xMm: 0, yMm: 900 },
];
const surfaceOf = (height: (x: number, y: number) => number) => {
  const shots = Array.from({ length: 42 }, (_, k) => {
    const [xMm, yMm] = [(k % 7) * 250, Math.floor(k / 7) * 180];
    return { xMm, yMm, zMm: height(xMm, yMm) };
  });
  const made = makeSurface({ footprint: FLOOR, drain: { xMm: 700, yMm: 400 }, drainRimMm: 0 }, shots);
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};

describe('a floor', () => {
  it('that is a plane has no gap in any direction and no filling under its own plane', () => {
    const tilted = surfaceOf((x, y) => 3 + 0.004 * x - 0.002 * y);
    expect(floorGap(tilted, ownHeights(tilted, 0), L)!.gapMm).toBeCloseTo(0, 6);
    const { planeL, levelL, outOfLevelMm, offPlaneMm, plane } = levelling(tilted);
    expect(planeL).toBeCloseTo(0, 6);
    expect(plane.slopeX).toBeCloseTo(0.004, 9);
    expect(outOfLevelMm).toBeCloseTo(0.004 * 1500 + 0.002 * 900, 9);
    // Between a plane and the level of its highest corner lies half of the box.
    expect(levelL).toBeCloseTo((1500 * 900 * outOfLevelMm) / 2 / 1e6, 6);
    for (const off of offPlaneMm) expect(off).toBeCloseTo(0, 9);
  });
  it('with one hump tells where the straightedge rocks, and what to grind', () => {
    const humped = surfaceOf((x, y) => (x === 750 && y === 360 ? 4 : 0));
    const worst = floorGap(humped, ownHeights(humped, 0), L)!;
    expect(worst.gapMm).toBeGreaterThan(4);
    const { offPlaneMm, highest, levelL, planeL } = levelling(humped);
    expect(highest).toMatchObject({ xMm: 750, yMm: 360 });
    expect(Math.max(...offPlaneMm)).toBeGreaterThan(3.5);
    expect(planeL).toBeLessThanOrEqual(levelL + 1e-9);
  });
});
