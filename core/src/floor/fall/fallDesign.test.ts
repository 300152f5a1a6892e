import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleShower } from '../../tests/sampleShower';
import { fallDesign, MAX_FALL, MIN_FALL } from './fallDesign';

const IN = 25.4;
const design = (xIn: number, yIn: number, reserveMm = 3.175) => {
  const outcome = fallDesign({
    footprint: sampleShower().footprint,
    drain: { xMm: xIn * IN, yMm: yIn * IN },
    minFall: MIN_FALL,
    maxFall: MAX_FALL,
    reserveMm,
  });
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
};

// Worked examples of the trade's notes; the limits are those of IRC P2709.1, values from memory.
describe('fall of a level perimeter', () => {
  it('36 x 60 in, drain in the middle: 34.986 in, rise 0.729 in, steepest 0.486 in per ft', () => {
    const d = design(30, 18);
    expect(d.longestMm / IN).toBeCloseTo(34.986, 3);
    expect(d.riseMm / IN).toBeCloseTo(0.729, 3);
    expect(d.steepestFall * 12).toBeCloseTo(0.486, 3);
    expect(d.verdict).toBe('pass');
    expect(d.reserveThatFitsMm / IN).toBeCloseTo(0.75 - 0.7289, 3);
  });

  it('36 x 60 in, drain 12 in from one end: 51.264 in, rise 1.068 in, 1.068 in per ft: not with a level perimeter', () => {
    const d = design(12, 18);
    expect(d.longestMm / IN).toBeCloseTo(51.264, 3);
    expect(d.riseMm / IN).toBeCloseTo(1.068, 3);
    expect(d.steepestFall * 12).toBeCloseTo(1.068, 3);
    expect(d.verdict).toBe('fail');
    expect(d.reserveThatFitsMm).toBe(0);
  });

  it('never proposes a reserve that breaks the greatest fall', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 59 }),
        fc.integer({ min: 1, max: 35 }),
        fc.integer({ min: 0, max: 20 }),
        (x, y, reserve) => {
          const d = design(x, y, reserve);
          expect(d.reserveThatFitsMm).toBeLessThanOrEqual(reserve);
          if (d.verdict === 'pass')
            expect((d.riseMm + d.reserveThatFitsMm) / d.shortestMm).toBeLessThanOrEqual(MAX_FALL + 1e-12);
        },
      ),
    );
  });

  it('names a drain outside the floor', () => {
    const outcome = fallDesign({
      footprint: sampleShower().footprint,
      drain: { xMm: -1, yMm: 0 },
      minFall: MIN_FALL,
      maxFall: MAX_FALL,
      reserveMm: 0,
    });
    expect(outcome).toMatchObject({ ok: false, problem: { code: 'drain-outside', field: 'drain' } });
  });
});
