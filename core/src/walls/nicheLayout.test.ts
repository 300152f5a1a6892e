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
  if (!found.ok) throw new Error(found.problem.code);
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
  it('keeps the height of a bought niche, and says what tile is left over its head', () => {
    const bought = laid({ heightMm: 14 * IN, fixedSize: true });
    expect(bought.sillMm / IN).toBeCloseTo(48, 9);
    expect(bought.heightMm / IN).toBe(14);
    expect(bought.openingHeightMm / IN).toBeCloseTo(14.25, 9);
    // Over the joint at 60 in the next course runs to 71 7/8; the head stands at 62.
    expect(bought.headTileMm! / IN).toBeCloseTo(9.875, 9);
    expect(laid().headTileMm).toBeNull();
    expect(laid({ heightMm: 23.875 * IN, fixedSize: true }).headTileMm).toBeNull();
  });
  it('proposes the nearest place with even cuts at both sides, whatever was wanted', () => {
    const lengths = fc.record({
      alongMm: fc.double({ min: 50, max: 1500, noNaN: true }),
      widthMm: fc.double({ min: 150, max: 900, noNaN: true }),
      uprightJointMm: fc.double({ min: 0, max: 600, noNaN: true }),
    });
    fc.assert(
      fc.property(lengths, (more) => {
        const wanted = laid(more);
        const moved = laid({ ...more, alongMm: more.alongMm + wanted.evenShiftMm });
        expect(moved.leftTileMm).toBeCloseTo(wanted.evenCutMm, 5);
        const whole = 23.875 * IN;
        // A cut within half a millimetre of a joint is a whole tile: there both sides may differ by that reading.
        const near = [moved.leftTileMm, moved.rightTileMm].some((c) => c > whole - 1 || c < 1);
        if (!near) expect(moved.rightTileMm).toBeCloseTo(moved.leftTileMm, 5);
        expect(Math.abs(wanted.evenShiftMm)).toBeLessThanOrEqual(12 * IN + 1e-6);
      }),
    );
    expect(laid({ alongMm: 26 * IN }).sliver).toBe(true);
    expect(laid({ alongMm: 18 * IN }).sliver).toBe(false);
  });
  it('puts a shelf on the joint nearest to where it is wanted, and tells of a pipe in the opening', () => {
    const two = laid({ heightMm: 24 * IN, shelfMm: 10 * IN });
    expect(two.courses).toBe(2);
    expect(two.shelfAtMm! / IN).toBeCloseTo(11.875, 9);
    expect(laid({ shelfMm: 6 * IN }).shelfAtMm).toBeNull();
    expect(laid({ heightMm: 24 * IN }).shelfAtMm).toBeNull();
    expect([laid({ pipesAtMm: [24 * IN] }).pipeInTheWay, laid({ pipesAtMm: [14 * IN] }).pipeInTheWay]).toEqual([
      true,
      false,
    ]);
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
