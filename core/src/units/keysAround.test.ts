import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figureStep, gaugeStepMm, keysAround } from './keysAround';

const INCH = 25.4;
/** Keys of a length in inches, with its step. */
const inches = (limit: { atLeast?: number; atMost?: number }) => {
  const mm = Object.fromEntries(Object.entries(limit).map(([k, v]) => [k, v * INCH]));
  return keysAround(mm, gaugeStepMm(mm, 'in')).map((v) => Math.round((v / INCH) * 1e6) / 1e6);
};

describe('the keys around a limit', () => {
  it('of a lap of at least 2 in go by eighths from one that fails', () => {
    expect(inches({ atLeast: 2 })).toEqual([1.875, 2, 2.125, 2.25, 2.375, 2.5]);
  });
  it('of a gap of at most 1/8 in go by 1/32 from nothing to one that fails', () => {
    expect(inches({ atMost: 1 / 8 })).toEqual(
      [0, 1 / 32, 1 / 16, 3 / 32, 1 / 8, 5 / 32].map((v) => Math.round(v * 1e6) / 1e6),
    );
  });
  it('of a limit with two ends hold both ends and one beyond each', () => {
    expect(inches({ atLeast: 3 / 16, atMost: 1 / 4 })).toEqual([0.15625, 0.1875, 0.21875, 0.25, 0.28125]);
    expect(keysAround({ atLeast: 1, atMost: 20 }, 1)).toEqual([0, 1, 7, 14, 20, 21]);
  });
  it('of heights in millimetres go by centimetres', () => {
    expect(keysAround({ atLeast: 1830 }, gaugeStepMm({ atLeast: 1830 }, 'mm'))).toEqual([
      1820, 1830, 1840, 1850, 1860, 1870,
    ]);
  });
  it('of a limit that is no mark of the gauge hold it, and marks beside it', () => {
    expect(keysAround({ atLeast: 51 }, 5)).toEqual([50, 51, 55, 60, 65, 70]);
  });
  it('of a figure between two ends below and above nothing hold what fails on both', () => {
    const limit = { atLeast: -INCH / 16, atMost: INCH / 16 };
    expect(keysAround(limit, gaugeStepMm(limit, 'in')).map((v) => Math.round((v / INCH) * 32))).toEqual([
      -3, -2, -1, 0, 1, 2, 3,
    ]);
  });
  it('of plain figures go by what they are told in', () => {
    const keys = (limit: { atLeast?: number; atMost?: number }, of: 'deg' | 'percent' | 'count') =>
      keysAround(limit, figureStep(limit, of, 'in'));
    expect(keys({ atLeast: 95 }, 'percent')).toEqual([94, 95, 96, 97, 98, 99]);
    expect(keys({ atLeast: 0.6 }, 'deg')).toEqual([0.5, 0.6, 0.7, 0.8, 0.9, 1]);
    expect(keys({ atLeast: 1 }, 'count')).toEqual([0, 1, 2, 3, 4, 5]);
  });
  it('are none without a limit', () => expect(keysAround({}, 1)).toEqual([]));
  it('always hold the limit, one that fails where there can be one, stand in order and are few', () => {
    const number = fc.integer({ min: 0, max: 4000 });
    fc.assert(
      fc.property(
        number,
        number,
        fc.constantFrom('least', 'most', 'both'),
        fc.constantFrom<'in' | 'mm'>('in', 'mm'),
        (a, b, ends, unit) => {
          const [low, high] = [Math.min(a, b), Math.max(a, b)];
          const limit =
            ends === 'least' ? { atLeast: low } : ends === 'most' ? { atMost: high } : { atLeast: low, atMost: high };
          const step = gaugeStepMm(limit, unit);
          const keys = keysAround(limit, step);
          const near = (v: number) => keys.some((k) => Math.abs(k - v) < 1e-6);
          if (limit.atLeast !== undefined) expect(near(limit.atLeast)).toBe(true);
          if (limit.atMost !== undefined) expect(near(limit.atMost)).toBe(true);
          const fails = keys.filter((k) => k < (limit.atLeast ?? 0) - 1e-6 || k > (limit.atMost ?? Infinity) + 1e-6);
          if (limit.atMost !== undefined || low >= step) expect(fails.length).toBeGreaterThan(0);
          expect(keys).toEqual([...keys].sort((x, y) => x - y));
          expect(keys.length).toBeLessThanOrEqual(7);
          expect(keys.every((k) => k >= 0)).toBe(true);
        },
      ),
    );
  });
});
