import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numbers } from '../units/randomNumbers';
import { floodPlan } from './floodPlan';
import { type FloodVerdict, floodVerdict } from './floodVerdict';
import type { FloodVerdictInput } from './floodVerdictInput';
import { INSTRUMENTS, stepOf } from './gauge';
import { leakHeight } from './leakHeight';
import type { LevelReading } from './series';
import { simulateFlood } from './simulateFlood';
import { SITE_SCENARIOS, STOPPING_LEAK } from './siteScenarios';

function judged(input: FloodVerdictInput): FloodVerdict {
  const found = floodVerdict(input);
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
}
/** Tests a scenario; `npm run calibrate` runs 400. */
const SEEDS = 12;
const passes = (name: string, leak: number) => {
  const scenario = SITE_SCENARIOS.find((s) => s.name.startsWith(name))!;
  const all = Array.from({ length: SEEDS }, (_, k) => judged(simulateFlood(scenario.flood(leak, k + 1))));
  return { pass: all.filter((v) => v.verdict === 'pass').length, fail: all.filter((v) => v.verdict === 'fail').length };
};

describe('a leak of 2 mm a day never passes, and a tight floor hardly ever fails', () => {
  it.each(SITE_SCENARIOS.map((s) => [s.name]))('%s', (name) => {
    expect(passes(name, 2).pass).toBe(0);
    expect(passes(name, 0).fail).toBeLessThanOrEqual(1);
  });
});

describe('without a pan', () => {
  const still = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0.05 };
  const noPan = (perDay: number) => ({
    ...simulateFlood({ ...STOPPING_LEAK(5), leakMmPerDay: 0, evaporationMmPerDay: perDay, noPan: true }),
    climate: still,
  });
  it('a loss that the estimate could explain does not pass; one that is small as read does', () => {
    expect(judged(noPan(2.4)).verdict).toBe('undecided');
    expect(judged(noPan(0.3)).verdict).toBe('pass');
  });
  it('the upper bound is the loss as read, the lower one has the most taken off', () => {
    const v = judged(noPan(2.4));
    expect(v.highMmPerDay).toBeGreaterThan(2.4);
    expect(v.lowMmPerDay).toBe(0);
  });
});

/** A logger's series of a level that falls so much a day, with a scatter that has no trend. */
const series = (perDay: number, { hours = 24, from = 0, step = 0.1, seed = 3, unit = 1 } = {}): LevelReading[] => {
  const { normal } = numbers(seed);
  return Array.from({ length: Math.round((hours - from) * 6) + 1 }, (_, k) => {
    const atHours = from + k / 6;
    const level = 76 - (perDay * atHours) / 24 + 0.06 * normal();
    return { atHours, levelMm: (Math.round(level / step) * step) / unit };
  });
};
const logged = (water: LevelReading[], pan: LevelReading[] | null): FloodVerdictInput => ({
  method: 'logger',
  readings: water,
  resolutionMm: 0.1,
  ...(pan ? { pan: { readings: pan, resolutionMm: 0.1 } } : {}),
  smallestLeakMmPerDay: 1,
  plannedHours: 24,
  moistureFound: false,
});

describe('data that can not be are asked about and decide nothing', () => {
  const dead = series(0).map((r) => ({ ...r, levelMm: 76 }));
  it.each<[string, FloodVerdictInput, string]>([
    ['a dead logger', logged(dead, series(2, { seed: 9 })), 'level-stuck'],
    ['a dead logger without a pan', logged(dead, null), 'level-stuck'],
    ['a pan that is stuck', logged(series(2), dead), 'pan-stuck'],
    ['a pan that loses far more than the shower', logged(series(0.5), series(7, { seed: 9 })), 'less-than-nothing'],
    ['water read in inches', logged(series(2, { unit: 25.4 }), series(2, { seed: 9 })), 'less-than-nothing'],
    ['a pan that rises', logged(series(2), series(-2, { seed: 9 })), 'pan-rises'],
    ['water that rises', logged(series(-2), null), 'level-rises'],
    [
      'a file of the hours 18 to 24 alone',
      logged(series(2, { from: 18 }), series(2, { from: 18, seed: 9 })),
      'begins-late',
    ],
    ['a pan that was logged at the end alone', logged(series(2), series(2, { from: 18, seed: 9 })), 'pan-begins-late'],
    ['a pan whose logger stopped at noon', logged(series(2), series(2, { hours: 12, seed: 9 })), 'pan-ends-early'],
  ])('%s', (_name, input, question) => {
    const v = judged(input);
    expect(v.verdict).toBe('undecided');
    expect(v.questions.map((q) => q.kind)).toContain(question);
    expect(v.reasons).toContain(question);
  });

  it('time counts from the first reading where that was taken late', () => {
    expect(judged(logged(series(2, { from: 18 }), series(2, { from: 18 }))).hoursRun).toBeCloseTo(6, 5);
    expect(judged(logged(series(2, { from: 0.5 }), series(2, { from: 0.5 }))).hoursRun).toBeCloseTo(24, 5);
  });

  it('moisture fails whatever the readings say', () => {
    expect(judged({ ...logged(dead, null), moistureFound: true }).verdict).toBe('fail');
  });

  it('no bound is ever below zero, and the lower one never above the upper', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -4, max: 8, noNaN: true }),
        fc.double({ min: -4, max: 8, noNaN: true }),
        fc.integer({ min: 1, max: 500 }),
        (fall, panFall, seed) => {
          const v = judged(logged(series(fall, { seed }), series(panFall, { seed: seed + 1 })));
          for (const bound of [v.netLossMmPerDay, v.lowMmPerDay, v.highMmPerDay, v.failBoundMmPerDay])
            expect(bound).toBeGreaterThanOrEqual(0);
          expect(v.highMmPerDay!).toBeGreaterThanOrEqual(v.lowMmPerDay!);
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('a gauge', () => {
  it('is taken by the step that its readings show, where that is coarser than declared', () => {
    expect(stepOf([76, 75, 74, 75, 73, 74, 73, 73], 0.1)).toBe(1);
    expect(stepOf([76, 75, 74, 75, 73], 0.1)).toBe(0.1);
    expect(stepOf([76, 75.9, 75.8], 0.1)).toBe(0.1);
    expect(stepOf([76, 75], 0.1)).toBe(0.1);
    expect(stepOf([76.0004, 76, 75.9996, 75.1], 0.5)).toBe(0.5);
  });
  it('that is coarser than declared is told, and its interval is wider', () => {
    const flood = SITE_SCENARIOS.find((s) => s.name.startsWith('logger of 1 mm'))!.flood(3, 4);
    const v = judged(simulateFlood(flood));
    expect([v.stepMm, v.reasons.includes('step-coarser')]).toEqual([1, true]);
  });
  it('may creep and an eye may miss: more of either widens the bounds', () => {
    const input = logged(series(5), series(2, { seed: 9 }));
    const still = judged({ ...input, driftMmPerDay: 0 });
    const usual = judged(input);
    const creeping = judged({ ...input, driftMmPerDay: 1 });
    expect(usual.highMmPerDay!).toBeGreaterThan(still.highMmPerDay!);
    expect(creeping.highMmPerDay!).toBeGreaterThan(usual.highMmPerDay! + 0.8);
    expect(INSTRUMENTS.logger.driftMmPerDay).toBeLessThan(0.5);
  });
  it('a reading every 3 h keeps the one at the start', () => {
    const sparse = judged(
      logged(
        series(2).filter((_, k) => k % 18 === 0),
        series(2, { seed: 9 }).filter((_, k) => k % 18 === 0),
      ),
    );
    expect(sparse.questions).toEqual([]);
    expect(sparse.hoursRun).toBeCloseTo(24, 5);
  });
});

describe('a leak that stops', () => {
  const found = Array.from({ length: 20 }, (_, k) => judged(simulateFlood(STOPPING_LEAK(k + 1))));
  it('never passes, and is mostly found, with the band of heights that it reached', () => {
    expect(found.filter((v) => v.verdict === 'pass')).toEqual([]);
    const failed = found.filter((v) => v.verdict === 'fail');
    expect(failed.length).toBeGreaterThanOrEqual(8);
    for (const v of failed.filter((x) => x.leakHeight)) {
      expect(v.reasons).toContain('leak-stopped');
      expect(v.leakHeight!.lowMm).toBeLessThanOrEqual(v.leakHeight!.heightMm);
      expect(v.leakHeight!.highMm).toBeGreaterThanOrEqual(v.leakHeight!.heightMm);
      expect(v.leakHeight!.heightMm).toBeGreaterThan(72);
      expect(v.leakHeight!.heightMm).toBeLessThan(78);
    }
  });
  it('is a question where no pan tells it from the air', () => {
    const input = simulateFlood({ ...STOPPING_LEAK(1), leakMmPerDay: 24, noPan: true });
    expect(judged(input).questions.map((q) => q.kind)).toContain('loss-slowed');
  });

  /** Levels of the equation with known height, by small steps. */
  const truth = (h0: number, k: number, e: number) => {
    let h = 76;
    return Array.from({ length: 73 }, (_, i) => {
      if (i > 0) for (let s = 0; s < 200; s += 1) h -= (k * Math.sqrt(Math.max(0, h - h0)) + e) / 600;
      return { atHours: i / 3, levelMm: h };
    });
  };
  it('its height is fitted with its interval', () => {
    fc.assert(
      fc.property(fc.double({ min: 60, max: 71, noNaN: true }), fc.integer({ min: 1, max: 999 }), (h0, seed) => {
        const { normal } = numbers(seed);
        const readings = truth(h0, 0.6, 0.08).map((r) => ({ ...r, levelMm: r.levelMm + 0.05 * normal() }));
        const found = leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0.08 });
        if (!found.ok) throw new Error(found.problem.code);
        expect(found.value.lowMm).toBeLessThanOrEqual(h0 + 0.8);
        expect(found.value.highMm).toBeGreaterThanOrEqual(h0 - 0.8);
        expect(Math.abs(found.value.heightMm - h0)).toBeLessThan(1.5);
      }),
      { numRuns: 6 },
    );
  });
  it('a smaller area at the same hole falls faster, and the height stays', () => {
    const readings = truth(66, 0.6, 0.08);
    const areaByLevel = [
      { levelMm: 60, m2: 1.4 },
      { levelMm: 80, m2: 1.4 },
    ];
    const flat = leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0.08 });
    const withArea = leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0.08, areaByLevel });
    expect(flat.ok && withArea.ok && withArea.value.heightMm).toBeCloseTo(flat.ok ? flat.value.heightMm : 0, 0);
  });
  it('a loss that does not slow shows no height, nor does a level that hardly fell, nor a handful of readings', () => {
    const steady = Array.from({ length: 30 }, (_, k) => ({ atHours: k, levelMm: 76 - 0.5 * k }));
    const ask = (readings: LevelReading[]) => leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0 });
    expect(ask(steady)).toMatchObject({ ok: false, problem: { field: 'readings' } });
    expect(ask(steady.map((r) => ({ ...r, levelMm: 76 })))).toMatchObject({ ok: false });
    expect(ask(steady.slice(0, 4))).toMatchObject({ ok: false });
    expect(ask([...steady].reverse())).toMatchObject({ ok: false, problem: { field: 'readings.1.atHours' } });
  });
});

describe('a plan promises what the verdict then does', () => {
  const plan = (resolutionMm: number) => {
    const found = floodPlan({
      method: 'logger',
      plannedHours: 24,
      resolutionMm,
      panResolutionMm: resolutionMm,
      climate: null,
      smallestLeakMmPerDay: 1,
    });
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  it.each([0.1, 1])('a logger of %s mm', (resolutionMm) => {
    const halves = Array.from({ length: 12 }, (_, k) => {
      const v = judged(
        simulateFlood({
          ...STOPPING_LEAK(k + 60),
          leakMmPerDay: 5,
          leaksForHours: 24,
          evaporationMmPerDay: 2.5,
          resolutionMm,
        }),
      );
      return (v.highMmPerDay! - v.lowMmPerDay!) / 2;
    }).sort((a, b) => a - b);
    expect(plan(resolutionMm).halfWidthMmPerDay! / halves[6]!).toBeGreaterThan(0.7);
    expect(plan(resolutionMm).halfWidthMmPerDay! / halves[6]!).toBeLessThan(1.4);
  });
});
