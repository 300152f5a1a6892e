import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fastenerGrid, studsAt } from './fastenerGrid';

const IN = 25.4;

test('a wall of 36 x 96 in with studs at 16 in, first row at 12 in, then every 12 in: 8 rows on 4 studs', () => {
  const studs = studsAt(36 * IN, 16 * IN);
  expect(studs.map((x) => x / IN)).toEqual([0, 16, 32, 36]);
  const grid = fastenerGrid({
    widthMm: 36 * IN,
    heightMm: 96 * IN,
    studsAtMm: studs,
    firstRowMm: 12 * IN,
    spacingMm: 12 * IN,
  });
  expect(grid.ok && grid.value.count).toBe(32);
  expect(grid.ok && grid.value.rowsAtMm.map((z) => Math.round(z / IN))).toEqual([12, 24, 36, 48, 60, 72, 84, 96]);
});

test('rows never stand further apart than the spacing, and the top is never further than one from the last row', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 300, max: 4000, noNaN: true }),
      fc.double({ min: 50, max: 600, noNaN: true }),
      (heightMm, spacingMm) => {
        const grid = fastenerGrid({ widthMm: 900, heightMm, studsAtMm: [0, 400, 800], firstRowMm: 100, spacingMm });
        if (!grid.ok) throw new Error(grid.problem.code);
        const { rowsAtMm, count } = grid.value;
        expect(count).toBe(rowsAtMm.length * 3);
        expect(heightMm - rowsAtMm.at(-1)!).toBeLessThan(spacingMm + 1e-6);
      },
    ),
  );
});

test('a first row above the wall and a stud beside it are named', () => {
  const wall = { widthMm: 900, heightMm: 1000, studsAtMm: [0], firstRowMm: 300, spacingMm: 300 };
  const high = fastenerGrid({ ...wall, firstRowMm: 1200 });
  expect(!high.ok && high.problem.field).toBe('firstRowMm');
  const beside = fastenerGrid({ ...wall, studsAtMm: [0, 950] });
  expect(!beside.ok && beside.problem.field).toBe('studsAtMm.1');
});
