import fc from 'fast-check';
import { jStat } from 'jstat';
import { describe, expect, it } from 'vitest';
import type { Outcome } from '../outcome/outcome';
import { escapeMatrix } from './escapeMatrix';
import { falseDiscovery } from './falseDiscovery';
import { kappa } from './kappa';
import { pareto } from './pareto';
import { rateInterval, shareInterval } from './rateInterval';
import { timeToFix } from './timeToFix';
import { beforeAfter, twoRates } from './twoRates';
import { uChart } from './uChart';

function must<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
}
const codeOf = (outcome: Outcome<unknown>) => (outcome.ok ? null : `${outcome.problem.field} ${outcome.problem.code}`);
/** Chance of at most so many, by the incomplete gamma of an independent package. */
const atMost = (count: number, mean: number): number => (count < 0 ? 0 : 1 - jStat.lowRegGamma(count + 1, mean));
const counted = fc.record({
  count: fc.integer({ min: 0, max: 400 }),
  exposure: fc.double({ min: 0.1, max: 5000, noNaN: true }),
});

describe('a rate', () => {
  // Garwood's table, as it stands in any handbook of epidemiology; values from memory.
  it.each([
    [0, 0, 3.689],
    [1, 0.0253, 5.572],
    [5, 1.6235, 11.668],
    [10, 4.795, 18.39],
  ])('of %i has the interval of the table', (count, low, high) => {
    const found = must(rateInterval({ count, exposure: 1, confidence: 0.95 }));
    expect(found.low).toBeCloseTo(low, 3);
    expect(found.high).toBeCloseTo(high, 2);
  });
  it('is held by its own Poisson: at each end a tail of 2.5 % is left, as an independent package has it', () => {
    fc.assert(
      fc.property(counted, ({ count, exposure }) => {
        const { low, high, rate } = must(rateInterval({ count, exposure, confidence: 0.95 }));
        expect(low).toBeLessThanOrEqual(rate);
        expect(rate).toBeLessThan(high);
        expect(atMost(count, high * exposure)).toBeCloseTo(0.025, 5);
        if (count > 0) expect(1 - atMost(count - 1, low * exposure)).toBeCloseTo(0.025, 5);
      }),
    );
  });
});

describe('a share', () => {
  // Clopper and Pearson's own charts, values from memory.
  it.each([
    [0, 10, 0, 0.3085],
    [5, 10, 0.1871, 0.8129],
    [10, 10, 0.6915, 1],
    [1, 20, 0.0013, 0.2487],
  ])('%i of %i has the interval of the chart', (count, of, low, high) => {
    const found = must(shareInterval({ count, of, confidence: 0.95 }));
    expect([found.low, found.high].map((x) => Math.round(x * 1e4) / 1e4)).toEqual([low, high]);
  });
  it('of more than all is refused by its count', () => {
    expect(codeOf(shareInterval({ count: 4, of: 3, confidence: 0.95 }))).toBe('count more-than-all');
  });
});

describe('two rates', () => {
  it('are compared as the textbook does: 11 in 800 against 21 in 3,011', () => {
    // The example of the exact test in a widely used statistics program; values from memory.
    const found = must(
      twoRates({ a: { count: 11, exposure: 800 }, b: { count: 21, exposure: 3011 }, confidence: 0.95 }),
    );
    expect(found.ratio).toBeCloseTo(1.9715, 3);
    expect(found.low).toBeCloseTo(0.858, 2);
    expect(found.high).toBeCloseTo(4.277, 2);
    expect(found.p).toBeCloseTo(0.0797, 3);
  });
  it('turned round are turned round: the ratio and its ends are one over the others, the chance stays', () => {
    fc.assert(
      fc.property(counted, counted, (a, b) => {
        const [one, other] = [
          must(twoRates({ a, b, confidence: 0.9 })),
          must(twoRates({ a: b, b: a, confidence: 0.9 })),
        ];
        expect(one.p).toBeCloseTo(other.p, 8);
        if (one.high !== null) expect(other.low * one.high).toBeCloseTo(one.high === 0 ? 0 : 1, 6);
        if (one.ratio !== null && other.ratio !== null) expect(one.ratio * other.ratio).toBeCloseTo(1, 8);
      }),
    );
  });
  it('with nothing on one side leave an end open, and with nothing at all say nothing', () => {
    const none = { count: 0, exposure: 10 };
    expect(must(twoRates({ a: { count: 9, exposure: 10 }, b: none, confidence: 0.95 }))).toMatchObject({
      ratio: null,
      high: null,
    });
    expect(must(twoRates({ a: none, b: none, confidence: 0.95 }))).toEqual({ ratio: null, low: 0, high: null, p: 1 });
  });
  it('of a hundred thousand counts are compared in a moment, and as the normal shape has them', () => {
    const found = must(
      twoRates({ a: { count: 300_500, exposure: 1000 }, b: { count: 300_000, exposure: 1000 }, confidence: 0.95 }),
    );
    const z = 500 / Math.sqrt(600_500);
    expect(found.p).toBeCloseTo(2 * (1 - jStat.normal.cdf(z, 0, 1)), 2);
  });
  it('before and after a change warn that bad months are followed by usual ones, and of few counts first', () => {
    const sides = (before: number, after: number) => ({
      before: { count: before, exposure: 100 },
      after: { count: after, exposure: 100 },
      confidence: 0.95,
    });
    expect(must(beforeAfter(sides(40, 20)))).toMatchObject({ ratio: 0.5, warning: 'regression-to-the-mean' });
    expect(must(beforeAfter(sides(20, 40)))).toMatchObject({ ratio: 2, warning: null });
    expect(must(beforeAfter(sides(4, 2))).warning).toBe('too-little');
  });
});

describe('many comparisons', () => {
  it('name four of the fifteen of Benjamini and Hochberg (1995, values from memory)', () => {
    const p = [
      0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528, 0.759, 1,
    ];
    const { found, adjusted } = must(falseDiscovery({ p, level: 0.05 }));
    expect(found.filter(Boolean)).toHaveLength(4);
    expect(adjusted[3]).toBeCloseTo((0.0095 * 15) / 4, 10);
  });
  it('in any order name the same, and never one that is less odd than one they leave', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 40 }), (p) => {
        const { found } = must(falseDiscovery({ p, level: 0.1 }));
        const back = must(falseDiscovery({ p: [...p].reverse(), level: 0.1 })).found.reverse();
        expect(back).toEqual(found);
        const named = p.filter((_, i) => found[i]);
        const left = p.filter((_, i) => !found[i]);
        expect(Math.max(-1, ...named)).toBeLessThanOrEqual(Math.min(2, ...left));
      }),
    );
  });
});

describe('a chart of months', () => {
  it('has the limits of the handbook: wafers with 16 defects on average lie between 4 and 28', () => {
    // NIST/SEMATECH e-Handbook 6.3.3.1, counts chart; values from memory.
    const months = Array.from({ length: 25 }, () => ({ count: 16, exposure: 1 }));
    const { centre, points } = must(uChart({ months }));
    expect([centre, points[0]!.low, points[0]!.high]).toEqual([16, 4, 28]);
    expect(points.every((p) => p.signal === null)).toBe(true);
  });
  it('widens for little work and for clusters, and marks what lies beyond', () => {
    const months = [...Array.from({ length: 11 }, () => ({ count: 10, exposure: 100 })), { count: 40, exposure: 100 }];
    expect(must(uChart({ months })).points.at(-1)!.signal).toBe('beyond');
    expect(must(uChart({ months, overdispersion: 9 })).points.at(-1)!.signal).toBeNull();
    const thin = must(uChart({ months: [...months, { count: 1, exposure: 5 }] })).points.at(-1)!;
    expect([thin.signal, thin.high! > 0.4]).toEqual([null, true]);
  });
  it('marks the eighth month in a row on one side; a month without work neither counts nor breaks it', () => {
    const side = (n: number, count: number) => Array.from({ length: n }, () => ({ count, exposure: 100 }));
    const months = [...side(8, 90), ...side(4, 110), { count: 0, exposure: 0 }, ...side(4, 110)];
    const { points } = must(uChart({ months }));
    expect(points[7]!.signal).toBe('run');
    expect(points.slice(0, 7).every((p) => p.signal === null)).toBe(true);
    expect(points[12]).toEqual({ rate: null, low: null, high: null, signal: null });
    expect(points.at(-1)!.signal).toBe('run');
  });
  it('without any work, or with counts in a month without, is refused', () => {
    expect(codeOf(uChart({ months: [{ count: 0, exposure: 0 }] }))).toBe('months no-exposure');
    expect(
      codeOf(
        uChart({
          months: [
            { count: 1, exposure: 1 },
            { count: 3, exposure: 0 },
          ],
        }),
      ),
    ).toBe('months.1.exposure no-exposure');
  });
});

describe('the few that make the most', () => {
  const items = [
    { name: 'laps', count: 30, cost: 900 },
    { name: 'niche', count: 10, cost: 4000 },
    { name: 'curb', count: 10 },
  ];
  it('come by count or by cost, equals as they came', () => {
    expect(must(pareto({ items, by: 'count' })).items.map((i) => [i.name, i.value])).toEqual([
      ['laps', 30],
      ['niche', 10],
      ['curb', 10],
    ]);
    const cost = must(pareto({ items, by: 'cost' })).items;
    expect(cost.map((i) => i.name)).toEqual(['niche', 'laps', 'curb']);
    expect(cost[1]!.cumulative).toBeCloseTo(1, 12);
  });
  it('of nothing are nothing', () => {
    expect(must(pareto({ items: [{ name: 'a', count: 0 }], by: 'count' })).items[0]).toMatchObject({
      share: 0,
      cumulative: 0,
    });
  });
});

describe('where it slipped through', () => {
  const stages = ['base', 'membrane', 'flood-test', 'tile'];
  it('is told by stage: caught where it was made, or so many stages later', () => {
    const { rows, escaped, total } = must(
      escapeMatrix({
        stages,
        defects: [
          { made: 'membrane', found: 'membrane', count: 6 },
          { made: 'membrane', found: 'flood-test', count: 3 },
          { made: 'membrane', found: 'tile', count: 1 },
          { made: 'base', found: 'base', count: 2 },
        ],
      }),
    );
    expect(rows[1]).toEqual({
      made: 'membrane',
      found: [0, 6, 3, 1],
      total: 10,
      caught: 6,
      escaped: 0.4,
      stagesLate: 0.5,
    });
    expect(rows[3]).toMatchObject({ total: 0, escaped: null, stagesLate: null });
    expect([total, escaped]).toEqual([12, 4 / 12]);
  });
  it('refuses what was found before it was made, and stages that nobody knows', () => {
    const one = (made: string, found: string) => escapeMatrix({ stages, defects: [{ made, found, count: 1 }] });
    expect(codeOf(one('tile', 'base'))).toBe('defects.0.found found-before-made');
    expect(codeOf(one('roof', 'tile'))).toBe('defects.0.made stage-not-listed');
    expect(codeOf(one('base', 'roof'))).toBe('defects.0.found stage-not-listed');
  });
});

describe('how long a hold stands', () => {
  it('is as in the example that every handbook has: weeks in remission under 6-MP (Freireich 1963, values from memory)', () => {
    const ended = [6, 6, 6, 7, 10, 13, 16, 22, 23];
    const going = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35];
    const spells = [
      ...ended.map((days) => ({ days, closed: true })),
      ...going.map((days) => ({ days, closed: false })),
    ];
    const { medianDays, steps } = must(timeToFix({ spells }));
    expect(medianDays).toBe(23);
    expect(steps.map((s) => [s.days, Math.round(s.open * 1000) / 1000])).toEqual([
      [6, 0.857],
      [7, 0.807],
      [10, 0.753],
      [13, 0.69],
      [16, 0.627],
      [22, 0.538],
      [23, 0.448],
    ]);
    expect(steps[0]!.low).toBeCloseTo(0.6197, 3);
    expect(steps[0]!.high).toBeCloseTo(0.9516, 3);
  });
  it('has no median while more than half still stand, and one for all that are closed', () => {
    expect(must(timeToFix({ spells: [{ days: 3, closed: false }] }))).toEqual({ medianDays: null, steps: [] });
    const all = must(timeToFix({ spells: [1, 2, 3, 4].map((days) => ({ days, closed: true })) }));
    expect(all.medianDays).toBe(2);
    expect(all.steps.at(-1)).toEqual({ days: 4, open: 0, low: 0, high: 0 });
  });
  it('never says that fewer stand later, and holds its share within its interval', () => {
    const spell = fc.record({ days: fc.integer({ min: 0, max: 60 }), closed: fc.boolean() });
    fc.assert(
      fc.property(fc.array(spell, { minLength: 1, maxLength: 80 }), (spells) => {
        const { steps } = must(timeToFix({ spells }));
        steps.forEach((s, i) => {
          expect(s.low).toBeLessThanOrEqual(s.open + 1e-12);
          expect(s.open).toBeLessThanOrEqual(s.high + 1e-12);
          if (i > 0) expect(s.open).toBeLessThan(steps[i - 1]!.open);
        });
      }),
    );
  });
});

describe('whether two inspectors see the same', () => {
  it('is 0.4 in the example of the textbook', () => {
    const found = must(
      kappa({
        table: [
          [20, 5],
          [10, 15],
        ],
      }),
    );
    expect(found.kappa).toBeCloseTo(0.4, 10);
    // Fleiss, Cohen and Everitt worked out by hand: a standard error of 0.1267.
    expect(found.high! - found.kappa!).toBeCloseTo(1.96 * 0.1267, 2);
  });
  it('is one for always, below zero for never, and nothing where there was one answer alone', () => {
    const of = (table: number[][]) => must(kappa({ table }));
    expect(
      of([
        [7, 0],
        [0, 9],
      ]),
    ).toEqual({ kappa: 1, low: 1, high: 1 });
    expect(
      of([
        [0, 5],
        [5, 0],
      ]).kappa,
    ).toBe(-1);
    expect(
      of([
        [12, 0],
        [0, 0],
      ]),
    ).toEqual({ kappa: null, low: null, high: null });
  });
  it('of a table that is crooked or empty is refused', () => {
    expect(
      codeOf(
        kappa({
          table: [
            [1, 2],
            [3, 4, 5],
          ],
        }),
      ),
    ).toBe('table.1 table-not-square');
    expect(
      codeOf(
        kappa({
          table: [
            [0, 0],
            [0, 0],
          ],
        }),
      ),
    ).toBe('table table-empty');
  });
  it('lies within its interval, whatever the table', () => {
    const cell = fc.integer({ min: 0, max: 50 });
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 3, maxLength: 3 }), (table) => {
        const found = kappa({ table });
        if (!found.ok || found.value.kappa === null) return;
        expect(found.value.low!).toBeLessThanOrEqual(found.value.kappa);
        expect(found.value.kappa).toBeLessThanOrEqual(found.value.high!);
      }),
    );
  });
});
