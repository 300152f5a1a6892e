import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { describe, expect, it } from 'vitest';
import { atLeastZero, equalShares, less, quantile, type Rate, tabulated, thinOut } from './rate';

const normal = (mean: number, sd: number): Rate => ({
  cdf: (x) => normalCdf(x, mean, sd),
  span: [mean - 8 * sd, mean + 8 * sd],
});

describe('an uncertain rate', () => {
  it('has the quantiles of its distribution', () => {
    const rate = normal(2, 0.5);
    expect(quantile(rate, 0.5)).toBeCloseTo(2, 9);
    expect(quantile(rate, 0.975)).toBeCloseTo(2 + 0.5 * 1.959964, 5);
    expect(quantile(rate, 0.025)).toBeCloseTo(2 - 0.5 * 1.959964, 5);
    const shares = equalShares(rate, 4);
    expect(shares.map((x) => normalCdf(x, 2, 0.5))).toEqual(
      [0.125, 0.375, 0.625, 0.875].map((p) => expect.closeTo(p, 6)),
    );
  });
  it('as a table says the same, and nothing beyond it', () => {
    const table = tabulated(normal(2, 0.5).cdf, [-10, 20]);
    for (const x of [0.5, 1.5, 1.999, 2.3, 3.5]) expect(table.cdf(x)).toBeCloseTo(normalCdf(x, 2, 0.5), 4);
    expect(table.cdf(-5)).toBe(0);
    expect(table.cdf(9)).toBe(1);
    expect(table.span[0]).toBeCloseTo(2 - 0.5 * 4.107, 1);
    expect(table.span[1]).toBeCloseTo(2 + 0.5 * 4.107, 1);
    const sure = tabulated((x) => (x >= 1 ? 1 : 0), [0, 3]);
    expect([sure.cdf(0.99), sure.cdf(1.01)]).toEqual([0, 1]);
  });
  it('less another one is their difference: means subtract, variances add', () => {
    const rest = less(normal(5, 0.3), equalShares(normal(2, 0.4), 400));
    expect(quantile(rest, 0.5)).toBeCloseTo(3, 3);
    expect(quantile(rest, 0.975)).toBeCloseTo(3 + 1.959964 * 0.5, 1);
    expect(quantile(rest, 0.025)).toBeCloseTo(3 - 1.959964 * 0.5, 1);
    expect(quantile(less(normal(5, 0.3), [2]), 0.5)).toBeCloseTo(3, 4);
  });
  it('known to be at least zero shares out what lay below', () => {
    const rate = atLeastZero(normal(0, 1));
    expect(rate.cdf(-0.01)).toBe(0);
    expect(rate.cdf(0)).toBe(0);
    expect(rate.cdf(1)).toBeCloseTo((normalCdf(1, 0, 1) - 0.5) / 0.5, 9);
    expect(rate.span[0]).toBe(0);
    expect(rate.span[1]).toBe(8);
    const high = { cdf: (x: number) => (x < 1 ? 0 : 1), span: [1, 2] as const };
    expect(atLeastZero(high)).toBe(high);
    const low = atLeastZero({ cdf: (x) => (x < -2 ? 0 : 1), span: [-3, -1] });
    expect(low.cdf(0)).toBeGreaterThanOrEqual(0);
    expect(low.span[1]).toBeGreaterThan(0);
    expect(low.cdf(5)).toBeLessThanOrEqual(1);
  });
  it('thinned out keeps its mean and its order', () => {
    const values = Array.from({ length: 100 }, (_, k) => (k * 37) % 100);
    const few = thinOut(values, 10);
    expect(few).toHaveLength(10);
    expect(few[0]).toBeCloseTo(4.5, 9);
    expect(few[9]).toBeCloseTo(94.5, 9);
    expect(few.reduce((a, b) => a + b, 0) / 10).toBeCloseTo(49.5, 9);
    expect(thinOut([3, 1, 2], 5)).toEqual([1, 2, 3]);
    expect(thinOut([3, 1, 2], 3)).toEqual([1, 2, 3]);
  });
});
