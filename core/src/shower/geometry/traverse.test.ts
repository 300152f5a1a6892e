import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { roomShape } from './roomShapes';
import { diagonalErrorMm, outOfSquareMm, spreadClosing, type TapedSide, traverse } from './traverse';

const taped = (...sides: [number, number][]): TapedSide[] =>
  sides.map(([lengthMm, angleDeg]) => ({ lengthMm, angleDeg }));
const run = (sides: TapedSide[]) => {
  const found = traverse(sides);
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};

describe('a room taken corner by corner', () => {
  it('closes a room of square corners', () => {
    const room = run(taped([1500, 90], [900, 90], [1500, 90], [900, 90]));
    expect(room.closingMm).toBeCloseTo(0, 9);
    expect(room.angleErrorDeg).toBe(0);
    expect(room.points[2]!.xMm).toBeCloseTo(1500, 9);
    expect(room.points[2]!.yMm).toBeCloseTo(900, 9);
  });
  it('tells by how much a wrong tape misses the start, and spreads it only when asked', () => {
    const sides = taped([1500, 90], [900, 90], [1510, 90], [900, 90]);
    const room = run(sides);
    expect(room.closingMm).toBeCloseTo(10, 9);
    const closed = spreadClosing(room, sides);
    const length = (i: number) =>
      Math.hypot(closed[(i + 1) % 4]!.xMm - closed[i]!.xMm, closed[(i + 1) % 4]!.yMm - closed[i]!.yMm);
    expect(length(0)).toBeCloseTo(1500 + (10 * 1500) / 4810, 1);
    expect(length(2)).toBeLessThan(1510);
    for (const i of [0, 1, 2, 3]) expect(Math.abs(length(i) - sides[i]!.lengthMm)).toBeLessThan(10);
  });
  it('gives any room back from its own lengths and angles', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 3000 }),
        fc.integer({ min: 1000, max: 3000 }),
        fc.constantFrom('alcove' as const, 'neo-angle' as const, 'l-shape' as const),
        (widthMm, depthMm, shape) => {
          const { footprint } = roomShape(shape, {
            widthMm,
            depthMm,
            firstMm: widthMm * 0.4,
            secondMm: depthMm * 0.45,
          });
          const n = footprint.length;
          const at = (i: number) => footprint[(i + n) % n]!;
          const heading = (i: number) => Math.atan2(at(i + 1).yMm - at(i).yMm, at(i + 1).xMm - at(i).xMm);
          const sides = footprint.map((p, i) => {
            let turn = heading(i + 1) - heading(i);
            while (turn <= -Math.PI) turn += 2 * Math.PI;
            while (turn > Math.PI) turn -= 2 * Math.PI;
            return {
              lengthMm: Math.hypot(at(i + 1).xMm - p.xMm, at(i + 1).yMm - p.yMm),
              angleDeg: 180 - (turn * 180) / Math.PI,
            };
          });
          const room = run(sides);
          expect(room.closingMm).toBeLessThan(1e-6);
          expect(Math.abs(room.angleErrorDeg)).toBeLessThan(1e-6);
          room.points.forEach((p, i) => {
            expect(Math.hypot(p.xMm - footprint[i]!.xMm, p.yMm - footprint[i]!.yMm)).toBeLessThan(1e-6);
          });
        },
      ),
    );
  });
  it('tells out of square by diagonals', () => {
    const leaning = [
      { xMm: 0, yMm: 0 },
      { xMm: 1000, yMm: 0 },
      { xMm: 1010, yMm: 800 },
      { xMm: 10, yMm: 800 },
    ];
    expect(outOfSquareMm(leaning)).toBeCloseTo(Math.hypot(1010, 800) - Math.hypot(990, 800), 9);
    expect(diagonalErrorMm(leaning, 0, 2, Math.hypot(1010, 800) + 6)).toBeCloseTo(6, 9);
  });
  it.each([
    [taped([1500, 90], [900, 90]), 'sides'],
    [taped([1500, 90], [0, 90], [1500, 90]), 'sides.1.lengthMm'],
    [taped([1500, 90], [900, 400], [1500, 90]), 'sides.1.angleDeg'],
  ])('refuses %j', (sides, field) => {
    expect(traverse(sides)).toMatchObject({ ok: false, problem: { field } });
  });
});
