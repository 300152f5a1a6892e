import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Box, type LengthLabel, lengthLabels, type Measured } from './lengthLabels';

const SHEET: Box = { minX: 0, minY: 0, maxX: 800, maxY: 660 };
const line = (seam: string, a: [number, number], b: [number, number], text = '60 in'): Measured => ({
  seam,
  points: [a, b],
  text,
  on: SHEET,
});
const boxOf = ({ at, text, isUpright }: LengthLabel): Box => {
  const [w, h] = isUpright ? [12, text.length * 6.2] : [text.length * 6.2, 12];
  return { minX: at[0] - w / 2, minY: at[1] - h / 2, maxX: at[0] + w / 2, maxY: at[1] + h / 2 };
};

describe('lengths on the map', () => {
  it('stand beside the middle of their lines, upright beside one that stands', () => {
    const [lying, standing] = lengthLabels(
      [line('foot', [100, 300], [400, 300]), line('corner', [600, 100], [600, 320])],
      [],
    );
    expect(lying).toMatchObject({ seam: 'foot', at: [250, 317], isUpright: false });
    expect(standing).toMatchObject({ seam: 'corner', isUpright: true });
    expect(standing!.at[1]).toBe(210);
  });

  it('leave out a line that is shorter than its length is long, and tell one that is drawn twice once', () => {
    const found = lengthLabels(
      [line('short', [10, 10], [40, 10]), line('twice', [100, 300], [400, 300]), line('twice', [100, 500], [350, 500])],
      [],
    );
    expect(found.map((l) => l.seam)).toEqual(['twice']);
    expect(found[0]!.at[1]).toBeCloseTo(317);
  });

  it('go to the other side or towards an end where something stands already', () => {
    const foot = line('foot', [100, 300], [400, 300]);
    const title = { minX: 215, minY: 304, maxX: 285, maxY: 330 };
    expect(lengthLabels([foot], [title])[0]!.at[1]).toBe(283);
    const both = [title, { minX: 215, minY: 270, maxX: 285, maxY: 296 }];
    expect(lengthLabels([foot], both)[0]!.at[0]).toBe(190);
    expect(lengthLabels([foot], [SHEET])).toEqual([]);
    // On the part that it is drawn on: here that lies above it.
    const above = { minX: 90, minY: 100, maxX: 410, maxY: 300 };
    expect(lengthLabels([{ ...foot, on: above }], [])[0]!.at[1]).toBe(283);
  });

  it('never stand on each other, on a line or beyond the sheet, whatever is drawn', () => {
    const point = fc.tuple(fc.integer({ min: 0, max: 800 }), fc.integer({ min: 0, max: 660 }));
    fc.assert(
      fc.property(fc.array(fc.tuple(point, point), { maxLength: 40 }), (ends) => {
        const lines = ends.map(([a, b], k) => line(`s${k}`, a, b, `${k} 13/16 in`));
        const found = lengthLabels(lines, []);
        const boxes = found.map(boxOf);
        for (const [i, a] of boxes.entries()) {
          expect(a.minX).toBeGreaterThanOrEqual(0);
          expect(a.maxY).toBeLessThanOrEqual(660);
          for (const b of boxes.slice(i + 1))
            expect(a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY).toBe(false);
          // Points along every line, as a second way of telling whether one runs through.
          for (const { points } of lines)
            for (let s = 0; s <= 1; s += 0.01) {
              const [x, y] = [0, 1].map((d) => points[0]![d]! + (points[1]![d]! - points[0]![d]!) * s) as [
                number,
                number,
              ];
              expect(x > a.minX && x < a.maxX && y > a.minY && y < a.maxY).toBe(false);
            }
        }
      }),
      { numRuns: 60 },
    );
  });
});
