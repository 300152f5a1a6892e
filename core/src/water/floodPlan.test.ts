import { describe, expect, it } from 'vitest';
import { type FloodPlanInput, floodPlan, USUAL_CLIMATE } from './floodPlan';
import { floodVerdict } from './floodVerdict';
import { simulateFlood } from './simulateFlood';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const from = (start: number, count: number, every: number) =>
  Array.from({ length: count }, (_, k) => start + k * every);

describe('a plan against the tests that it stands for', () => {
  const usual = (input: FloodPlanInput, hours: number, leakMmPerDay: number, seed: number) =>
    simulateFlood({
      method: input.method,
      leakMmPerDay,
      evaporationMmPerDay: 2.5,
      hours,
      everyHours: input.method === 'marks' ? hours : (input.everyMinutes ?? 10) / 60,
      marksBetween: (input.marks ?? 2) - 2,
      resolutionMm: input.resolutionMm,
      panResolutionMm: input.panResolutionMm ?? input.resolutionMm,
      scatterMm: 0.15,
      eyeSdMm: 0.5,
      correlationHours: 1,
      smallestLeakMmPerDay: input.smallestLeakMmPerDay ?? 1,
      noPan: input.panResolutionMm === null,
      ...(input.climate ? { climate: input.climate } : {}),
      seed,
    });
  function plainPlan(input: FloodPlanInput) {
    const tight = (hours: number) =>
      from(1, 12, 1).map((seed) =>
        value(floodVerdict({ ...usual(input, hours, 0, seed), plannedHours: Math.min(hours, input.plannedHours) })),
      );
    const passing = (hours: number) => tight(hours).filter((v) => v.verdict === 'pass').length;
    const widths = from(1, 5, 1)
      .map((seed) => value(floodVerdict(usual(input, input.plannedHours, 6, seed))))
      .filter((v) => v.lowMmPerDay !== null)
      .map((v) => (v.highMmPerDay! - v.lowMmPerDay!) / 2)
      .sort((a, b) => a - b);
    const now = input.smallestLeakMmPerDay === null ? 0 : passing(input.plannedHours);
    const highs = tight(input.plannedHours)
      .map((v) => v.highMmPerDay!)
      .sort((a, b) => a - b);
    const longer = [24, 36, 48, 72, 96, 144, 216, 336].filter((h) => h > input.plannedHours);
    return {
      halfWidthMmPerDay: widths[2],
      excludesMmPerDay: highs[10],
      verdict: now >= 11 ? 'can-pass' : now >= 3 ? 'may-pass' : 'can-not-pass',
      hoursNeeded:
        input.smallestLeakMmPerDay === null
          ? null
          : now >= 11
            ? input.plannedHours
            : (longer.find((h) => passing(h) >= 11) ?? null),
    };
  }
  const marks: FloodPlanInput = {
    method: 'marks',
    plannedHours: 24,
    resolutionMm: 25.4 / 16,
    panResolutionMm: 25.4 / 16,
    climate: null,
    smallestLeakMmPerDay: 2,
  };
  it.each<[string, FloodPlanInput]>([
    ['two marks that want to exclude little', { ...marks, smallestLeakMmPerDay: 3.2 }],
    ['two marks that a longer test would help', { ...marks, smallestLeakMmPerDay: 2.9 }],
    ['four marks over 18 h', { ...marks, marks: 4, plannedHours: 18, smallestLeakMmPerDay: 3.5 }],
    [
      'a leak that nobody named, a finer rule for the pan',
      { ...marks, panResolutionMm: 0.5, smallestLeakMmPerDay: null },
    ],
    ['the air alone', { ...marks, panResolutionMm: null, climate: USUAL_CLIMATE, smallestLeakMmPerDay: 6 }],
    [
      'a logger each hour for 18 h',
      {
        ...marks,
        method: 'logger',
        resolutionMm: 0.1,
        panResolutionMm: 0.1,
        everyMinutes: 60,
        plannedHours: 18,
        smallestLeakMmPerDay: 2,
      },
    ],
  ])('%s', (_name, input) => {
    expect(value(floodPlan(input))).toEqual(plainPlan(input));
  });
  it('goes by how many of twelve tight showers pass: three of them may, eleven can and need no longer', () => {
    // A rule so fine that no two verdicts are alike.
    const fine = { ...marks, marks: 3, resolutionMm: 0.2, panResolutionMm: 0.2 };
    const upTo = (hours: number) =>
      from(1, 12, 1)
        .map((seed) => value(floodVerdict(usual(fine, hours, 0, seed))).highMmPerDay!)
        .sort((a, b) => a - b);
    const [now, later] = [upTo(24), upTo(36)];
    /** A leak that the verdicts of so many exclude. */
    const excludedBy = (highs: readonly number[], count: number) => (highs[count - 1]! + highs[count]!) / 2;
    const plan = (smallestLeakMmPerDay: number) => value(floodPlan({ ...fine, smallestLeakMmPerDay }));
    expect(plan(excludedBy(now, 2)).verdict).toBe('can-not-pass');
    expect(plan(excludedBy(now, 3)).verdict).toBe('may-pass');
    expect(plan(excludedBy(now, 10)).verdict).toBe('may-pass');
    expect(plan(excludedBy(now, 11)).verdict).toBe('can-pass');
    expect(plan(excludedBy(now, 10)).hoursNeeded).toBe(36);
    expect(plan(excludedBy(now, 11)).hoursNeeded).toBe(24);
    expect(plan(excludedBy(later, 11)).hoursNeeded).toBe(36);
    expect(plan(excludedBy(later, 10)).hoursNeeded).toBeGreaterThan(36);
    // What it says is needed can pass: one tap takes it.
    const longer = { ...fine, smallestLeakMmPerDay: excludedBy(later, 10) };
    const { hoursNeeded } = value(floodPlan(longer));
    expect(value(floodPlan({ ...longer, plannedHours: hoursNeeded! })).verdict).toBe('can-pass');
    // Of a test planned for 36 h the next longer one is of 48.
    expect(
      value(floodPlan({ ...fine, plannedHours: 36, smallestLeakMmPerDay: excludedBy(later, 10) })).hoursNeeded,
    ).toBe(48);
  });
  it('nothing is promised where evaporation would not be known', () => {
    expect(value(floodPlan({ ...marks, panResolutionMm: null }))).toEqual({
      halfWidthMmPerDay: null,
      excludesMmPerDay: null,
      verdict: 'can-not-pass',
      hoursNeeded: null,
    });
  });
});
