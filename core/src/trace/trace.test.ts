import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleShower } from '../tests/sampleShower';
import { entropyBits, type TraceRankInput, traceRank } from './bayes';
import { traceNext } from './nextTest';
import { traceWets } from './traceWets';

const value = <T>(outcome: { ok: boolean; value?: T }): T => {
  if (!outcome.ok) throw new Error(JSON.stringify(outcome));
  return outcome.value as T;
};

describe('trace-rank', () => {
  it('is Bayes’ rule: a stain eight times of ten under one cause, one of ten under another', () => {
    const input: TraceRankInput = {
      causes: [
        { name: 'drain', prior: 1, given: { stain: 0.8, smell: 0.5 } },
        { name: 'door', prior: 3, given: { stain: 0.1, smell: 0.2 } },
      ],
      seen: { stain: true, smell: false },
    };
    // By hand: 1 · 0.8 · 0.5 = 0.4 against 3 · 0.1 · 0.8 = 0.24.
    expect(value(traceRank(input)).causes).toEqual([
      { name: 'drain', probability: expect.closeTo(0.4 / 0.64, 12) },
      { name: 'door', probability: expect.closeTo(0.24 / 0.64, 12) },
    ]);
  });

  it('refuses what no cause explains, what a cause says nothing of, two of one name, and causes of which none is possible', () => {
    const cause = (name: string, p: number, prior = 1) => ({ name, prior, given: { stain: p } });
    const code = (causes: TraceRankInput['causes'], seen: Record<string, boolean> = { stain: true }) =>
      traceRank({ causes, seen });
    expect(code([cause('a', 0), cause('b', 0)])).toMatchObject({ ok: false, problem: { code: 'trace-unexplained' } });
    expect(code([cause('a', 1)], { smell: true })).toMatchObject({ problem: { code: 'trace-given-missing' } });
    expect(code([cause('a', 1), cause('a', 1)])).toMatchObject({ problem: { code: 'trace-cause-twice' } });
    expect(code([cause('a', 1, 0)])).toMatchObject({ problem: { code: 'trace-no-prior' } });
    // A name that every object has is no evidence that it knows.
    expect(code([cause('a', 1)], { constructor: true })).toMatchObject({ problem: { code: 'trace-given-missing' } });
  });
});

const share = fc.double({ min: 0.01, max: 0.99, noNaN: true });
const anyCase = fc.integer({ min: 2, max: 6 }).chain((n) =>
  fc.record({
    priors: fc.array(fc.double({ min: 0.01, max: 10, noNaN: true }), { minLength: n, maxLength: n }),
    stain: fc.array(share, { minLength: n, maxLength: n }),
    water: fc.array(share, { minLength: n, maxLength: n }),
    told: fc.constantFrom(true, false, null),
  }),
);

describe('trace-next', () => {
  it('is the drop of entropy that enumeration over all causes and both outcomes gives', () => {
    fc.assert(
      fc.property(anyCase, ({ priors, stain, water, told }) => {
        const causes = priors.map((prior, k) => ({ name: `c${k}`, prior, given: { stain: stain[k]! } }));
        const seen: Record<string, boolean> = told === null ? {} : { stain: told };
        const given = Object.fromEntries(water.map((p, k) => [`c${k}`, p]));
        const [test] = value(traceNext({ causes, seen, tests: [{ name: 't', minutes: 20, given }] })).tests;
        // Enumerated: the joint table of cause and outcome, its mutual information.
        const weight = priors.map((p, k) => p * (told === null ? 1 : told ? stain[k]! : 1 - stain[k]!));
        const all = weight.reduce((a, b) => a + b, 0);
        let information = 0;
        for (const shows of [true, false]) {
          const p = (k: number) => (shows ? water[k]! : 1 - water[k]!);
          const chance = weight.reduce((sum, w, k) => sum + (w / all) * p(k), 0);
          for (const [k, w] of weight.entries()) information += (w / all) * p(k) * Math.log2(p(k) / chance);
        }
        expect(test!.informationBits).toBeCloseTo(information, 9);
        expect(test!.bitsPerMinute).toBeCloseTo(information / 20, 9);
        expect(test!.informationBits).toBeLessThanOrEqual(Math.min(1, entropyBits(weight.map((w) => w / all))) + 1e-9);
      }),
    );
  });

  it('a test that shows the same under all causes tells nothing, one that parts two equal causes a bit', () => {
    const causes = ['a', 'b'].map((name) => ({ name, prior: 1, given: {} }));
    const test = (name: string, a: number, b: number) => ({ name, minutes: 10, given: { a, b } });
    const { tests } = value(traceNext({ causes, seen: {}, tests: [test('none', 0.3, 0.3), test('all', 1, 0)] }));
    expect(tests).toEqual([
      { name: 'all', informationBits: 1, bitsPerMinute: 0.1 },
      { name: 'none', informationBits: 0, bitsPerMinute: 0 },
    ]);
    expect(traceNext({ causes, seen: {}, tests: [{ name: 't', minutes: 1, given: { a: 1 } }] })).toMatchObject({
      problem: { code: 'trace-test-given-missing' },
    });
  });
});

describe('trace-wets', () => {
  const model = sampleShower({ niche: true });
  const ids = (test: Parameters<typeof traceWets>[0]['test']) =>
    value(traceWets({ model, test })).elements.map((e) => e.id);

  it('a flood wets what lies under its level: not the curb’s top, not its outside, not the niche', () => {
    const wet = value(traceWets({ model, test: { kind: 'flood', levelMm: 76.2 } }));
    const lengths = new Map(wet.elements.map((e) => [e.id, e.lengthMm]));
    // All four sides at the floor: 60 + 36 + 60 + 36 in.
    const foot = wet.elements.filter((e) => e.id.startsWith('floor-wall') || e.id.startsWith('curb-floor'));
    expect(foot.reduce((sum, e) => sum + e.lengthMm, 0)).toBeCloseTo(192 * 25.4, 6);
    // Of an upright corner, what lies between the floor’s edge and the water.
    expect(lengths.get('wall-wall-inside|wall:back|wall:left')).toBeCloseTo(76.2 - 19.05, 6);
    expect(wet.elements.some((e) => /niche|:top|:outer|penetration/.test(e.id))).toBe(false);
    expect(lengths.get('drain:d')).toBe(0);
    expect(wet.totalMm).toBeCloseTo(
      [...lengths.values()].reduce((a, b) => a + b, 0),
      9,
    );
  });

  it('a spray on a wall wets it, its openings, its niche and what drains from it; water down the drain the drain line alone', () => {
    const back = ids({ kind: 'spray', wall: 'back' });
    expect(back).toContain('floor-wall|floor|wall:back');
    expect(back.some((id) => id.startsWith('niche-'))).toBe(model.niches?.some((n) => n.edge === 2) ?? false);
    expect(back).not.toContain('floor-wall|floor|wall:left');
    expect(back).toEqual(expect.arrayContaining(['drain:d', 'drain-line']));
    expect(ids({ kind: 'spray', wall: 2 })).toEqual(back);
    expect(ids({ kind: 'drain-line' })).toEqual(['drain-line']);
    expect(ids({ kind: 'supply' })).toEqual(['supply']);
  });

  it('the door wets the curb with its ends and outside, and nothing of the walls opposite', () => {
    const door = ids({ kind: 'door' });
    expect(door).toContain('door');
    expect(door.some((id) => id.includes(':outer'))).toBe(true);
    expect(door.some((id) => id === 'floor-wall|floor|wall:back')).toBe(false);
  });

  it('refuses a flood without its level, and a spray on a curb or on nothing', () => {
    const code = (test: Parameters<typeof traceWets>[0]['test']) => traceWets({ model, test });
    expect(code({ kind: 'flood' })).toMatchObject({ problem: { code: 'trace-level-missing' } });
    expect(code({ kind: 'spray', wall: 'front' })).toMatchObject({ problem: { code: 'trace-no-wall' } });
    expect(code({ kind: 'spray' })).toMatchObject({ problem: { code: 'trace-no-wall' } });
    expect(code({ kind: 'spray', wall: 77 })).toMatchObject({ problem: { code: 'trace-no-wall' } });
  });

  it('a higher flood wets all that a lower one does, and no less of it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 140 }), fc.integer({ min: 0, max: 140 }), (a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)].map((levelMm) =>
          value(traceWets({ model, test: { kind: 'flood', levelMm } })),
        );
        const more = new Map(high!.elements.map((e) => [e.id, e.lengthMm]));
        for (const e of low!.elements) expect(more.get(e.id) ?? -1).toBeGreaterThanOrEqual(e.lengthMm);
      }),
    );
  });
});
