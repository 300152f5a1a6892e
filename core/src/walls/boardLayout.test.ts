import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type BoardLayoutInput, boardLayout } from './boardLayout';

const IN = 25.4;
const input = (more: Partial<BoardLayoutInput> = {}): BoardLayoutInput => ({
  wallLengthMm: 60 * IN,
  wallHeightMm: 96 * IN,
  sheetLongMm: 60 * IN,
  sheetShortMm: 36 * IN,
  run: 'level',
  offsetMm: 0,
  ...more,
});
const laid = (more: Partial<BoardLayoutInput> = {}) => {
  const found = boardLayout(input(more));
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};

describe('boards on a wall', () => {
  it('lays 36 x 60 in sheets level on a wall 60 x 96 in: three courses, the last ripped to 24 in', () => {
    const { joints, pieces, sheets, narrowestMm, jointMm } = laid();
    expect(joints.map((j) => Math.round(j.atMm / IN))).toEqual([36, 72]);
    expect(joints.every((j) => j.run === 'level')).toBe(true);
    expect([pieces, sheets]).toEqual([3, 3]);
    expect(narrowestMm).toBeCloseTo(24 * IN, 6);
    expect(jointMm).toBeCloseTo(120 * IN, 6);
  });
  it('stands 48 x 96 in sheets on a wall 60 in wide: one joint at 48 in; the 12 in strip takes a sheet', () => {
    const { joints, pieces, sheets } = laid({ sheetLongMm: 96 * IN, sheetShortMm: 48 * IN, run: 'upright' });
    expect(joints).toEqual([{ run: 'upright', atMm: 48 * IN, fromMm: 0, toMm: 96 * IN }]);
    expect([pieces, sheets]).toEqual([2, 2]);
  });
  it('staggers: on a wall 90 in long the second course begins with half a sheet', () => {
    const { joints } = laid({ wallLengthMm: 90 * IN, wallHeightMm: 72 * IN, offsetMm: 30 * IN });
    const upright = joints.filter((j) => j.run === 'upright').map((j) => Math.round(j.atMm / IN));
    expect(upright).toEqual([60, 30]);
  });
  it('never covers less than the wall, nor buys less than its area', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 4000 }),
        fc.integer({ min: 300, max: 3000 }),
        fc.integer({ min: 0, max: 1000 }),
        fc.constantFrom('level' as const, 'upright' as const),
        (wallLengthMm, wallHeightMm, offsetMm, run) => {
          const { pieces, sheets, joints } = laid({ wallLengthMm, wallHeightMm, offsetMm, run });
          expect(sheets * 60 * 36 * IN * IN).toBeGreaterThanOrEqual(wallLengthMm * wallHeightMm - 1);
          expect(sheets).toBeLessThanOrEqual(pieces);
          for (const j of joints) expect(j.toMm).toBeGreaterThan(j.fromMm);
        },
      ),
    );
  });
  it('refuses what can’t be laid and names the field', () => {
    expect(boardLayout(input({ sheetShortMm: 0 }))).toMatchObject({ ok: false, problem: { field: 'sheetShortMm' } });
    expect(boardLayout(input({ offsetMm: 9000 }))).toMatchObject({ ok: false, problem: { field: 'offsetMm' } });
  });
});
