import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { describe, expect, it } from 'vitest';
import { markRate } from './markRate';
import { quantile } from './rate';
import type { Segment } from './series';

/** The plain way: every rate and every start on a fine grid, each mark within half a step of the line, or missed by an eye. */
function plainQuantiles(
  segments: readonly Segment[],
  half: number,
  eyeMm: number,
  [from, to]: readonly [number, number],
  shares: readonly number[],
): number[] {
  const like = (away: number) =>
    eyeMm > 0
      ? normalCdf((away + half) / eyeMm, 0, 1) - normalCdf((away - half) / eyeMm, 0, 1)
      : Math.abs(away) <= half
        ? 1
        : 0;
  const rates = Array.from({ length: 241 }, (_, k) => from + ((to - from) * k) / 240);
  const density = rates.map((rate) =>
    segments.reduce((product, { hours, levelMm }) => {
      const starts = levelMm.map((l, i) => l + rate * hours[i]!);
      const low = Math.min(...starts) - half - 8 * eyeMm;
      const high = Math.max(...starts) + half + 8 * eyeMm;
      let sum = 0;
      for (let k = 0; k < 150; k += 1) {
        const start = low + ((k + 0.5) / 150) * (high - low);
        sum += starts.reduce((p, s) => p * like(s - start), 1);
      }
      return (product * sum * (high - low)) / 150;
    }, 1),
  );
  const total = density.reduce((sum, d) => sum + d, 0);
  return shares.map((p) => {
    let [sum, k] = [0, 0];
    for (; sum + density[k]! < p * total; k += 1) sum += density[k]!;
    return rates[k]! + ((p * total - sum) / density[k]! - 0.5) * (rates[1]! - rates[0]!);
  });
}

const SHARES = [0.025, 0.25, 0.5, 0.75, 0.975];
const marks = (...rows: [hours: number, levelMm: number][]): Segment => ({
  hours: rows.map(([t]) => t),
  levelMm: rows.map(([, l]) => l),
});

describe('the rate of marks against every rate and every start on a grid', () => {
  it.each<[string, Segment[], number, number, [number, number]]>([
    ['two marks of an eye', [marks([0, 76], [24, 73])], 1.6, 0.5, [-0.2, 0.5]],
    ['four marks of an eye', [marks([0, 76], [6, 75], [15, 74.5], [24, 73])], 1.6, 0.5, [-0.2, 0.5]],
    ['four marks that no eye missed', [marks([0, 76], [6, 75], [15, 74.5], [24, 73])], 1.6, 0, [-0.05, 0.3]],
    [
      'two runs of marks',
      [marks([0, 76], [10, 74.4]), marks([11, 77], [24, 75.4], [30, 75.4]), marks([33, 70])],
      1.6,
      0.5,
      [-0.3, 0.6],
    ],
    ['a coarse rule', [marks([0, 75], [12, 75], [24, 70])], 5, 0.3, [-0.4, 0.8]],
  ])('%s', (_name, segments, stepMm, eyeMm, range) => {
    const found = markRate(segments, stepMm, eyeMm)!;
    expect(found.widened).toBe(false);
    const plain = plainQuantiles(
      segments.filter((s) => s.hours.length > 1),
      stepMm / 2,
      eyeMm,
      range,
      SHARES,
    );
    const width = plain[4]! - plain[0]!;
    SHARES.forEach((p, i) => {
      expect(Math.abs(quantile(found.rate, p) - plain[i]!)).toBeLessThan(0.012 * width);
    });
  });
  it('marks off every line widen their step to half of what the best line leaves, and half a step more', () => {
    // 0, -4, 0 within 24 h: the best line leaves 2 mm to each side.
    const bent = marks([0, 76], [12, 72], [24, 76]);
    const found = markRate([bent], 1, 0)!;
    expect(found.widened).toBe(true);
    const plain = plainQuantiles([bent], 2.5, 0, [-0.3, 0.3], SHARES);
    SHARES.forEach((p, i) => {
      expect(Math.abs(quantile(found.rate, p) - plain[i]!)).toBeLessThan(0.02 * (plain[4]! - plain[0]!));
    });
    // An eye may miss a line by two and a half of its deviations before anybody speaks of it.
    expect(markRate([bent], 1, 0.61)!.widened).toBe(false);
    expect(markRate([bent], 1, 0.59)!.widened).toBe(true);
  });
  it('more than forty marks are thinned to forty over the same hours', () => {
    const many = (count: number) => {
      const hours = Array.from({ length: count }, (_, k) => (24 * k) / (count - 1));
      return { hours, levelMm: hours.map((t, k) => 76 - 0.1 * t + 0.5 * Math.sin(k * 2.4)) };
    };
    const all = many(400);
    const kept = Array.from({ length: 40 }, (_, k) => Math.round((k * 399) / 39));
    const few = { hours: kept.map((k) => all.hours[k]!), levelMm: kept.map((k) => all.levelMm[k]!) };
    for (const p of SHARES)
      expect(quantile(markRate([all], 1.6, 0.5)!.rate, p)).toBe(quantile(markRate([few], 1.6, 0.5)!.rate, p));
  });
  it('one mark says nothing', () => {
    expect(markRate([], 1, 0)).toBeNull();
    expect(markRate([marks([3, 70])], 1, 0.5)).toBeNull();
  });
});
