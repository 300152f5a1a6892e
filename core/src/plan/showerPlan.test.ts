import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { leastDays } from './leastDays';
import { type PlanStage, showerPlan } from './showerPlan';
import { WorkCalendar } from './workCalendar';

const ALWAYS = WorkCalendar.parse({ workdays: [1, 2, 3, 4, 5, 6, 7], fromHour: 0, toHour: 24 });
const WEEK = WorkCalendar.parse({ fromHour: 7, toHour: 15.5 });
const MONDAY = Date.UTC(2026, 10, 30);
const HOUR = 3_600_000;
const stage = (key: string, workHours: number, needs?: string[], more: Partial<PlanStage> = {}): PlanStage => ({
  key,
  workHours,
  lookMinutes: 0,
  ...(needs ? { needs } : {}),
  ...more,
});
const value = <T>(outcome: { ok: true; value: T } | { ok: false; problem: unknown }): T => {
  if (!outcome.ok) throw new Error(JSON.stringify(outcome.problem));
  return outcome.value;
};

describe('the plan of a shower', () => {
  it('finds the critical path of the textbook case', () => {
    // A network of seven activities as handbooks of operations research have it; value from memory.
    const stages = [
      stage('A', 3, []),
      stage('B', 4, ['A']),
      stage('C', 2, ['A']),
      stage('D', 5, ['B']),
      stage('E', 1, ['C']),
      stage('F', 2, ['C']),
      stage('G', 4, ['D', 'E']),
      stage('H', 3, ['F', 'G']),
    ];
    const plan = value(showerPlan({ stages, calendar: ALWAYS, startMs: MONDAY }));
    expect((plan.readyMs - MONDAY) / HOUR).toBe(19);
    expect(plan.stages.filter((s) => s.critical).map((s) => s.key)).toEqual(['A', 'B', 'D', 'G', 'H']);
    expect(Object.fromEntries(plan.stages.map((s) => [s.key, s.slackHours]))).toEqual({
      A: 0,
      B: 0,
      C: 6,
      D: 0,
      E: 6,
      F: 9,
      G: 0,
      H: 0,
    });
    expect(plan.stages.map((s) => (s.earliestMs - MONDAY) / HOUR)).toEqual([0, 3, 3, 7, 5, 5, 12, 16]);
    expect(plan.stages.map((s) => (s.latestMs - MONDAY) / HOUR)).toEqual([0, 3, 9, 7, 11, 14, 12, 16]);
  });

  it('lets waits run by night and work rest', () => {
    const stages = [stage('bed', 4, undefined, { waitHours: 14, lookMinutes: 30 }), stage('coat', 2)];
    const plan = value(showerPlan({ stages, calendar: WEEK, startMs: MONDAY }));
    const told = (ms: number) => DateTime.fromMillis(ms, { zone: 'utc' }).toFormat('ccc HH:mm');
    expect(told(plan.stages[0]!.lookMs)).toBe('Tue 07:00');
    expect(told(plan.stages[1]!.likelyMs)).toBe('Tue 07:30');
    expect(plan.stages[1]!.hangsOn).toEqual({ by: 'need', key: 'bed' });
    // The bed dries by one in the morning: it could be laid 4.5 h later and still be looked at on Tuesday.
    expect(plan.stages[0]!.slackHours).toBeCloseTo(4.5, 9);
  });

  it('keeps the band between the earliest and the likely', () => {
    const stages = [
      stage('coat', 2, undefined, { waitHours: 12, likelyWaitHours: 40, lookMinutes: 15 }),
      stage('flood', 1),
    ];
    const plan = value(showerPlan({ stages, calendar: WEEK, startMs: MONDAY }));
    expect(plan.stages[1]!.earliestMs).toBeLessThan(plan.stages[1]!.likelyMs);
    expect(plan.earliestReadyMs).toBeLessThan(plan.readyMs);
  });

  it.each([
    ['plan-circle', 'stages.0.needs', [stage('a', 1, ['b']), stage('b', 1, ['a'])]],
    ['plan-circle', 'stages.0.needs', [stage('a', 1, ['a'])]],
    ['plan-need-unknown', 'stages.0.needs', [stage('a', 1, ['x'])]],
    ['plan-stage-twice', 'stages.1.key', [stage('a', 1), stage('a', 2)]],
    ['plan-without-end', 'stages', [stage('a', 1, [], { notBefore: Date.UTC(2150, 0, 1) })]],
  ] as const)('refuses %s and names %s', (code, field, stages) => {
    const told = showerPlan({ stages: [...stages], calendar: WEEK, startMs: MONDAY });
    expect(told).toMatchObject({ ok: false, problem: { code, field } });
  });

  it('never ends sooner when something lasts longer, and never calls a stage late that is not', () => {
    const anyStages = fc.array(
      fc.record({
        workHours: fc.integer({ min: 0, max: 20 }),
        waitHours: fc.integer({ min: 0, max: 60 }),
        lookMinutes: fc.integer({ min: 0, max: 90 }),
        back: fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 3 }),
      }),
      { minLength: 1, maxLength: 9 },
    );
    fc.assert(
      fc.property(anyStages, fc.nat(), fc.integer({ min: 1, max: 30 }), (drawn, which, longer) => {
        const stages = drawn.map(
          ({ back, ...s }, k): PlanStage => ({
            ...s,
            key: `s${k}`,
            needs: [...new Set(back.map((b) => k - b).filter((n) => n >= 0))].map((n) => `s${n}`),
          }),
        );
        const plan = value(showerPlan({ stages, calendar: WEEK, startMs: MONDAY }));
        const k = which % stages.length;
        const slow = stages.map((s, i) => (i === k ? { ...s, workHours: s.workHours + longer } : s));
        const later = value(showerPlan({ stages: slow, calendar: WEEK, startMs: MONDAY }));
        expect(later.readyMs).toBeGreaterThanOrEqual(plan.readyMs);
        for (const s of plan.stages) expect(s.latestMs).toBeGreaterThanOrEqual(s.likelyMs - 1);
        // Begun so late, nothing is put off; and the last one always is critical.
        const delayed = stages.map((s, i) => (i === k ? { ...s, notBefore: Math.floor(plan.stages[k]!.latestMs) } : s));
        expect(value(showerPlan({ stages: delayed, calendar: WEEK, startMs: MONDAY })).readyMs).toBeLessThanOrEqual(
          plan.readyMs + 1,
        );
        expect(plan.stages.some((s) => s.critical)).toBe(true);
      }),
    );
  });
});

/** A new floor: the bed over night, two coats over night, floor tile over night, grout and wall tile over night, grout. */
const FLOOR = [
  stage('bed', 5, undefined, { waitHours: 12 }),
  stage('coats', 4, undefined, { waitHours: 12 }),
  stage('floor tile', 5, undefined, { waitHours: 16 }),
  stage('grout floor, wall tile', 6, undefined, { waitHours: 16 }),
  stage('grout walls', 3),
];

describe('the least days of a method', () => {
  it('are five for a new floor, and no fewer than four in any hurry', () => {
    expect(value(leastDays({ stages: FLOOR, calendar: WEEK })).days).toBe(5);
    const quick = FLOOR.map((s) => ({ ...s, workHours: s.workHours / 10 }));
    expect(value(leastDays({ stages: quick, calendar: WEEK })).days).toBeGreaterThanOrEqual(4);
  });

  it('name where a plan of three days squeezes, with the hours that are missing', () => {
    const told = value(leastDays({ stages: FLOOR, calendar: WEEK, planDays: 3 }));
    expect(told.shortDays).toBe(2);
    // The bed is laid by noon: 3.5 h are left of the day, and 12 h are needed.
    expect(told.missing[0]).toEqual({ between: ['bed', 'coats'], hours: 8.5 });
    expect(value(leastDays({ stages: FLOOR, calendar: WEEK, planDays: 5 })).missing).toEqual([]);
  });

  it('go by planned moments where there are some', () => {
    const stages = [
      { ...FLOOR[0]!, plannedMs: MONDAY + 7 * HOUR },
      { ...FLOOR[1]!, plannedMs: MONDAY + 15 * HOUR },
    ];
    expect(value(leastDays({ stages, calendar: WEEK })).missing).toEqual([{ between: ['bed', 'coats'], hours: 9 }]);
  });
});
