import fc from 'fast-check';
import { jStat } from 'jstat';
import { describe, expect, it } from 'vitest';
import type { Outcome } from '../outcome/outcome';
import { numbers } from '../units/randomNumbers';
import { funnel, overdispersionOf } from './funnel';
import { whereToLook } from './whereToLook';

function must<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
}
const codeOf = (outcome: Outcome<unknown>) => (outcome.ok ? null : `${outcome.problem.field} ${outcome.problem.code}`);
const group = (name: string, count: number, exposure: number) => ({ name, count, exposure });

describe('a funnel', () => {
  it('names the crew that is three times worse, and not the one that only looks worse for little work', () => {
    const others = Array.from({ length: 10 }, (_, k) => group(`crew ${k}`, 18 + (k % 5), 400));
    const { groups, overall } = must(
      funnel({ groups: [...others, group('worse', 60, 400), group('little work', 4, 30)] }),
    );
    expect(groups.filter((g) => g.outside).map((g) => [g.name, g.side])).toEqual([['worse', 'above']]);
    expect(groups.find((g) => g.name === 'worse')!.discovery).toBe(true);
    const little = groups.at(-1)!;
    expect(little.rate! / overall).toBeGreaterThan(2);
    expect([little.outside, little.discovery]).toEqual([false, false]);
    // Little work draws its rate most of the way back.
    expect(little.shrunk - overall).toBeLessThan((little.rate! - overall) * 0.7);
  });
  it('has Poisson limits without clusters: each leaves no more than its tail, by an independent package', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.4, noNaN: true }),
        fc.integer({ min: 20, max: 2000 }),
        (rate, exposure) => {
          const rest = group('rest', Math.round(rate * 100_000), 100_000);
          const { groups, overall } = must(
            funnel({ groups: [group('one', Math.round(rate * exposure), exposure), rest] }),
          );
          const [{ high998, low998 }] = groups as [(typeof groups)[number]];
          const mean = overall * exposure;
          const atMost = (n: number) => (n < 0 ? 0 : 1 - jStat.lowRegGamma(n + 1, mean));
          const [high, low] = [Math.round(high998! * exposure), Math.round(low998! * exposure)];
          expect(1 - atMost(high)).toBeLessThanOrEqual(0.001 + 1e-9);
          expect(1 - atMost(high - 1)).toBeGreaterThan(0.001 - 1e-9);
          expect(atMost(low - 1)).toBeLessThan(0.001 + 1e-9);
        },
      ),
    );
  });
  it('widens where defects come in clusters: 30 in one shower are one bad shower and not a bad crew', () => {
    const spread = (count: number) => Array.from({ length: 20 }, () => ({ count: count / 20, exposure: 20 }));
    const clustered = Array.from({ length: 20 }, (_, k) => ({ count: k === 0 ? 40 : 0, exposure: 20 }));
    const calm = Array.from({ length: 6 }, (_, k) => ({ ...group(`crew ${k}`, 20, 400), byShower: spread(20) }));
    const apart = must(funnel({ groups: [...calm, { ...group('one', 40, 400), byShower: spread(40) }] }));
    const together = must(funnel({ groups: [...calm, { ...group('one', 40, 400), byShower: clustered }] }));
    expect(apart.overdispersion).toBe(1);
    expect(together.overdispersion).toBeGreaterThan(3);
    expect(apart.groups.at(-1)!.outside).toBe(true);
    expect(together.groups.at(-1)!.outside).toBe(false);
  });
  it('measures clusters round the own rate of each group, by hand', () => {
    // Two showers of 10 ft with 1 and 3: rate 0.2, expected 2 and 2, X² = 0.5 + 0.5, one degree of freedom.
    const byShower = [
      { count: 1, exposure: 10 },
      { count: 3, exposure: 10 },
    ];
    expect(overdispersionOf([{ byShower }])).toBe(1);
    const wild = [
      { count: 0, exposure: 10 },
      { count: 8, exposure: 10 },
    ];
    // Expected 4 and 4: X² = 4 + 4.
    expect(overdispersionOf([{ byShower: wild }])).toBe(8);
    // A group that is three times worse, evenly, hides nothing.
    const worse = byShower.map((s) => ({ count: s.count * 3, exposure: s.exposure }));
    expect(overdispersionOf([{ byShower }, { byShower: worse }])).toBe((1 + 3) / 2);
  });
  it('draws rates together by a gamma-Poisson, as worked by hand', () => {
    // 10 and 30 in 100 each: R = 0.2, scatter 100·0.01·2 = 2, less R, over 200 − 100 = 0.018 between.
    const { groups } = must(funnel({ groups: [group('a', 10, 100), group('b', 30, 100)] }));
    const weight = 0.018 / (0.018 + 0.2 / 100);
    expect(groups[0]!.shrunk).toBeCloseTo(0.2 - 0.1 * weight, 12);
    expect(groups[1]!.shrunk).toBeCloseTo(0.2 + 0.1 * weight, 12);
  });
  it('of equal crews names hardly anybody: one of a hundred firms at most, clusters and all', () => {
    const { uniform: next } = numbers(7);
    const poisson = (mean: number) => {
      let [n, p] = [0, next()];
      const end = Math.exp(-mean);
      while (p > end) {
        n += 1;
        p *= next();
      }
      return n;
    };
    // A gamma of shape 1 between showers: defects of a shower have twice to three times the variance of chance.
    const firm = () =>
      Array.from({ length: 12 }, (_, k) => {
        const byShower = Array.from({ length: 30 }, () => ({ count: poisson(-Math.log(next()) * 1.2), exposure: 15 }));
        return {
          ...group(
            `crew ${k}`,
            byShower.reduce((n, s) => n + s.count, 0),
            450,
          ),
          byShower,
        };
      });
    const named = Array.from({ length: 200 }, () =>
      must(funnel({ groups: firm() })).groups.some((g) => g.outside || g.discovery),
    );
    expect(named.filter(Boolean).length / named.length).toBeLessThan(0.06);
  });
  it('says nothing of who has made nothing, and refuses what can not be', () => {
    const { groups } = must(funnel({ groups: [group('a', 3, 10), group('new', 0, 0)] }));
    expect(groups[1]).toMatchObject({ rate: null, high998: null, outside: false, discovery: false });
    expect(codeOf(funnel({ groups: [group('a', 0, 0)] }))).toBe('groups no-exposure');
    expect(codeOf(funnel({ groups: [group('a', 1, 5), group('b', 2, 0)] }))).toBe('groups.1.exposure no-exposure');
    const byShower = [{ count: 1, exposure: 5 }];
    expect(codeOf(funnel({ groups: [{ ...group('a', 2, 5), byShower }] }))).toBe(
      'groups.0.byShower parts-do-not-add-up',
    );
  });
  it('with one group alone has nobody to differ from', () => {
    const { groups, overall } = must(funnel({ groups: [group('only', 7, 30)] }));
    expect(groups[0]).toMatchObject({ outside: false, shrunk: overall });
  });
});

describe('where to look', () => {
  const cell = (crew: string, kind: string, count: number, exposure: number, lengthMm: number) => ({
    crew,
    kind,
    count,
    exposure,
    lengthMm,
  });
  it('puts more readings where more is found, and some everywhere', () => {
    const cells = [
      cell('a', 'niche', 90, 300, 6000),
      cell('a', 'floor', 12, 300, 6000),
      cell('b', 'niche', 15, 300, 6000),
      cell('b', 'floor', 12, 300, 6000),
      cell('b', 'curb', 0, 300, 200),
    ];
    const found = must(whereToLook({ cells, readings: 60, speaksForMm: 305 }));
    const readings = found.cells.map((c) => c.readings);
    expect(readings.reduce((a, b) => a + b, 0)).toBe(60);
    expect(Math.min(...readings)).toBeGreaterThanOrEqual(1);
    expect(readings[0]).toBeGreaterThan(2 * readings[1]!);
    expect(found.riskLeft).toBeGreaterThan(0);
    expect(found.riskLeft).toBeLessThan(1);
  });
  it('leaves less the more is read, and no other way to spread them leaves less', () => {
    const some = fc.record({ count: fc.integer({ min: 0, max: 60 }), lengthMm: fc.integer({ min: 300, max: 20_000 }) });
    fc.assert(
      fc.property(
        fc.array(some, { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 20, max: 300 }),
        (list, readings) => {
          const cells = list.map((c, i) => cell(`${i}`, 'seam', c.count, 500, c.lengthMm));
          const found = must(whereToLook({ cells, readings, speaksForMm: 305 }));
          const left = (n: readonly number[]) => {
            const worth = found.cells.every((c) => c.rate === 0) ? list.map(() => 1) : found.cells.map((c) => c.rate);
            const of = list.map((c, i) => worth[i]! * c.lengthMm);
            const all = of.reduce((a, b) => a + b, 0);
            return all === 0
              ? 0
              : list.reduce((s, c, i) => s + of[i]! * Math.exp((-n[i]! * 305) / c.lengthMm), 0) / all;
          };
          const own = found.cells.map((c) => c.readings);
          expect(left(own)).toBeCloseTo(found.riskLeft, 10);
          const more = must(whereToLook({ cells, readings: readings + 20, speaksForMm: 305 }));
          expect(more.riskLeft).toBeLessThanOrEqual(found.riskLeft + 1e-12);
          // One reading moved from anywhere to anywhere else finds hardly more: they are whole.
          own.forEach((_, from) => {
            own.forEach((__, to) => {
              if (from === to || own[from]! < 2) return;
              const moved = own.map((n, i) => (i === from ? n - 1 : i === to ? n + 1 : n));
              expect(left(own)).toBeLessThanOrEqual(left(moved) + 0.02);
            });
          });
        },
      ),
      { numRuns: 60 },
    );
  });
  it('with too few readings, or counts without work, is refused; where nothing was ever found all lengths are alike', () => {
    const cells = [cell('a', 'x', 0, 100, 4000), cell('b', 'x', 0, 100, 4000)];
    expect(codeOf(whereToLook({ cells, readings: 1, speaksForMm: 305 }))).toBe('readings readings-fewer-than-cells');
    expect(codeOf(whereToLook({ cells: [cell('a', 'x', 2, 0, 10)], readings: 5, speaksForMm: 305 }))).toBe(
      'cells.0.exposure no-exposure',
    );
    expect(must(whereToLook({ cells, readings: 20, speaksForMm: 305 })).cells.map((c) => c.readings)).toEqual([10, 10]);
  });
});
