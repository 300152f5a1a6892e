import { describe, expect, it } from 'vitest';
import { requirementsOf } from '../checks/requirements';
import { showerModel } from '../shower/geometry/showerModel';
import { sampleShower } from '../tests/sampleShower';
import { defaultRuleBook } from './defaultRuleBook';
import { findCheck, findMethod, findStage, RuleBook } from './ruleBook';

const BOOK = defaultRuleBook();
const method = findMethod(BOOK, 'bonded-sheet')!;
const checks = method.stages.flatMap((s) => s.checks);

describe('the rule book that ships', () => {
  it('gives each check a reason and a source: published from memory, or common practice', () => {
    for (const check of checks) {
      expect(check.source).toMatch(
        /^common practice, no source|value from memory|local (code|law|standard)|the product’s label/,
      );
      expect(check.why.length).toBeGreaterThan(check.kind === 'position' ? 3 : 15);
    }
  });
  it('has each check once, and stages that rise', () => {
    expect(new Set(checks.map((c) => c.id)).size).toBe(checks.length);
    const orders = method.stages.map((s) => s.order);
    expect(orders).toEqual([...orders].sort((a, b) => a - b));
    expect(findStage(method, 'membrane')!.holdPoint).toBe(true);
    expect(findStage(method, 'nowhere')).toBeNull();
  });
  it('asks for laps of 2 in with the pinned pattern', () => {
    const lap = findCheck(findStage(method, 'membrane')!, 'lap')!;
    expect(lap).toMatchObject({
      kind: 'measured',
      limit: { atLeastMm: 50.8 },
      pattern: { readingsAtLeast: 3, speaksForMm: 150, endWithinMm: 150, gapAtMostMm: 600, lookOnWhole: true },
    });
  });
  it('asks something of every seam, corner, opening and the drain of an alcove', () => {
    const model = showerModel(sampleShower());
    if (!model.ok) throw new Error(model.problem.code);
    const asked = new Set(requirementsOf(model.value, method).map((r) => r.element));
    const { seams, corners, penetrations, drain } = model.value;
    for (const e of [...seams, ...corners, ...penetrations, drain]) expect(asked).toContain(e.id);
  });
  it('refuses a measured check without a limit, and a limit without a number', () => {
    const broken = structuredClone(BOOK) as unknown as {
      methods: { stages: { checks: Record<string, unknown>[] }[] }[];
    };
    const lap = broken.methods[0]!.stages.flatMap((s) => s.checks).find((c) => c.id === 'lap')!;
    lap.limit = {};
    expect(RuleBook.safeParse(broken).success).toBe(false);
    delete lap.limit;
    expect(RuleBook.safeParse(broken).success).toBe(false);
  });
});
