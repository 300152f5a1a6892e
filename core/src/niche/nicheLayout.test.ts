import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type NicheLayoutInput, nicheLayout } from './nicheLayout';

const IN = 25.4;
const input = (more: Partial<NicheLayoutInput> = {}): NicheLayoutInput => ({
  tileHeightMm: 11.875 * IN,
  tileWidthMm: 23.875 * IN,
  jointMm: 0.125 * IN,
  levelJointMm: 0,
  uprightJointMm: 0,
  sillMm: 47 * IN,
  heightMm: 14 * IN,
  widthMm: 12 * IN,
  alongMm: 18 * IN,
  studsAtMm: [0.75 * IN, 16 * IN, 32 * IN],
  studMm: 1.5 * IN,
  ...more,
});
const laid = (more: Partial<NicheLayoutInput> = {}) => {
  const found = nicheLayout(input(more));
  if (!found.ok) throw new Error(found.problem.message);
  return found.value;
};

describe('a niche laid out to the tile', () => {
  it('moves the sill from 47 to 48 in and makes it one course of 12 in high, for a 14 in wish', () => {
    const { sillMm, heightMm, courses, openingWidthMm, openingHeightMm } = laid();
    expect(sillMm / IN).toBeCloseTo(48, 9);
    expect([courses, heightMm / IN]).toEqual([1, 11.875]);
    expect(openingWidthMm / IN).toBeCloseTo(12.25, 9);
    expect(openingHeightMm / IN).toBeCloseTo(12.125, 9);
  });
  it('tells the cuts at its sides and whether a stud is in the way', () => {
    const { leftTileMm, rightTileMm, fitsBetweenStuds } = laid();
    expect(leftTileMm / IN).toBeCloseTo(18, 6);
    expect(rightTileMm / IN).toBeCloseTo(48 - 0.125 - 30, 6);
    expect(fitsBetweenStuds).toBe(true);
    expect(laid({ alongMm: 10 * IN }).fitsBetweenStuds).toBe(false);
    expect(laid({ alongMm: 24 * IN }).leftTileMm / IN).toBeCloseTo(23.875, 6);
  });
  it('always ends on joints, and never cuts wider than a tile', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 600 }),
        fc.integer({ min: 0, max: 10 }),
        fc.integer({ min: 300, max: 1800 }),
        fc.integer({ min: 0, max: 900 }),
        (tileHeightMm, jointMm, sillMm, alongMm) => {
          const found = laid({ tileHeightMm, jointMm, sillMm, alongMm });
          const course = tileHeightMm + jointMm;
          expect(Math.abs(found.sillMm / course - Math.round(found.sillMm / course))).toBeLessThan(1e-9);
          expect(Math.abs(found.sillMm - sillMm)).toBeLessThanOrEqual(course / 2 + 1e-9);
          expect((found.heightMm + jointMm) / course).toBeCloseTo(found.courses, 9);
          for (const cut of [found.leftTileMm, found.rightTileMm]) {
            expect(cut).toBeGreaterThan(0);
            expect(cut).toBeLessThanOrEqual(23.875 * IN + 1e-9);
          }
        },
      ),
    );
  });
  it('refuses a tile without a size', () => {
    expect(nicheLayout(input({ tileHeightMm: 0 }))).toMatchObject({ ok: false, problem: { field: 'tileHeightMm' } });
  });
});
