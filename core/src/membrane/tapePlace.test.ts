import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patternPlaces } from './laps';
import { tapePlace } from './tapePlace';

const INCH = 25.4;
const LAP = { readingsAtLeast: 3, speaksForMm: 300, endWithinMm: 75, gapAtMostMm: 610 };

describe('where a hand sets the tape', () => {
  it('rounds towards the nearer corner: 2 15/16 in to 2 in, and as far from the other end', () => {
    const lengthMm = 60 * INCH;
    const at = (nextAtMm: number, taken: number[]) =>
      tapePlace({ lengthMm, pattern: LAP, taken, nextAtMm, markMm: INCH }) / INCH;
    expect(at(75, [])).toBeCloseTo(2, 9);
    expect(at(lengthMm - 75, [2 * INCH])).toBeCloseTo(58, 9);
  });
  it('keeps the exact place where every whole inch would ask for one reading more', () => {
    // Ends and steps of the pattern fill this seam without an inch to spare.
    const lengthMm = 75 + 610 + 75;
    const place = tapePlace({ lengthMm, pattern: LAP, taken: [75], nextAtMm: lengthMm - 75, markMm: INCH });
    expect(patternPlaces(lengthMm, LAP, [75, place]).length).toBe(
      patternPlaces(lengthMm, LAP, [75, lengthMm - 75]).length,
    );
  });
  it('never asks for more readings than exact places do, and lies on the seam', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 4000, noNaN: true }),
        fc.constantFrom(INCH, 10),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 6 }),
        (lengthMm, markMm, shares) => {
          const start = shares.map((share) => share * lengthMm);
          const exact = patternPlaces(lengthMm, LAP, start).length;
          const taken = [...start];
          for (let k = 0; k <= exact; k += 1) {
            const [nextAtMm] = patternPlaces(lengthMm, LAP, taken);
            if (nextAtMm === undefined) break;
            const at = tapePlace({ lengthMm, pattern: LAP, taken, nextAtMm, markMm });
            expect(at).toBeGreaterThanOrEqual(0);
            expect(at).toBeLessThanOrEqual(lengthMm);
            taken.push(at);
          }
          expect(patternPlaces(lengthMm, LAP, taken)).toEqual([]);
          expect(taken.length - start.length).toBeLessThanOrEqual(exact);
        },
      ),
    );
  });
});
