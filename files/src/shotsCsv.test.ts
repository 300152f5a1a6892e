import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readShotsCsv, writeShotsCsv } from './shotsCsv';

describe('shots as CSV', () => {
  it('come in as they went out', () => {
    const mm = fc.integer({ min: -100_000, max: 200_000 }).map((v) => v / 100);
    fc.assert(
      fc.property(fc.array(fc.record({ xMm: mm, yMm: mm, zMm: mm }), { minLength: 1, maxLength: 30 }), (shots) => {
        expect(readShotsCsv(writeShotsCsv(shots))).toEqual({ ok: true, value: shots });
      }),
    );
  });
  it('may stand in another order, with semicolons and decimal commas', () => {
    expect(readShotsCsv('\uFEFFZ_mm;note;x_mm;y_mm\n1,5;a;10;20\n')).toEqual({
      ok: true,
      value: [{ xMm: 10, yMm: 20, zMm: 1.5 }],
    });
  });
  it.each([
    ['x_mm,y_mm\n1,2\n', 'shots-column-missing'],
    ['x_mm,y_mm,z_mm\n1,2,3\n1,,3\n', 'shots-line-unreadable'],
    ['x_mm,y_mm,z_mm\n', 'shots-file-empty'],
  ])('are refused when they can’t be read: %j', (text, code) => {
    const read = readShotsCsv(text);
    expect(!read.ok && read.problem.code).toBe(code);
  });
});
