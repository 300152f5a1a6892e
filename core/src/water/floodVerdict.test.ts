import fc from 'fast-check';
import { expect, test } from 'vitest';
import { numbers } from '../units/randomNumbers';
import { floodPlan } from './floodPlan';
import { type FloodVerdict, floodVerdict } from './floodVerdict';
import { FloodVerdictInput } from './floodVerdictInput';
import { fitLine } from './loggerRate';
import { markRate } from './markRate';
import { quantile } from './rate';
import { type SimulatedFlood, simulateFlood, tally } from './simulateFlood';

const SIXTEENTH = 25.4 / 16;

function verdictOf(input: FloodVerdictInput): FloodVerdict {
  const outcome = floodVerdict(input);
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
}
const marks = (levels: [number, number][], more: Partial<FloodVerdictInput> = {}): FloodVerdictInput => ({
  method: 'marks',
  readings: levels.map(([atHours, levelMm]) => ({ atHours, levelMm })),
  resolutionMm: SIXTEENTH,
  smallestLeakMmPerDay: 1,
  plannedHours: 24,
  moistureFound: false,
  ...more,
});
const pan = (fall: number, hours = 24) => ({
  readings: [
    { atHours: 0, levelMm: 60 },
    { atHours: hours, levelMm: 60 - fall },
  ],
  resolutionMm: SIXTEENTH,
});
const series = (perDay: number, hours: number, more: (t: number) => number = () => 0) =>
  Array.from({ length: hours * 6 + 1 }, (_, k) => ({
    atHours: k / 6,
    levelMm: 76 - (perDay * k) / 144 + 0.06 * Math.sin(k * 12.9898) + more(k / 6),
  }));
const logger = (readings: FloodVerdictInput['readings'], more: Partial<FloodVerdictInput> = {}): FloodVerdictInput => ({
  ...marks([]),
  method: 'logger',
  readings,
  resolutionMm: 0.1,
  ...more,
});

test('the line through the NIST StRD Norris data has the certified slope, intercept and residual deviation', () => {
  const norris =
    '0.1 0.2 338.8 337.4 118.1 118.2 888.0 884.6 9.2 10.1 228.1 226.5 668.5 666.3 998.5 996.3 449.1 448.6 778.9 777.0 559.2 558.2 0.3 0.4 0.1 0.6 778.1 775.5 668.8 666.9 339.3 338.0 448.9 447.5 10.8 11.6 557.7 556.0 228.3 228.1 998.0 995.8 888.8 887.6 119.6 120.2 0.3 0.3 0.6 0.3 557.6 556.8 339.3 339.1 888.0 887.2 998.5 999.0 778.9 779.0 10.2 11.1 117.6 118.3 228.9 229.2 668.4 669.1 449.2 448.9 0.2 0.5'
      .split(' ')
      .map(Number);
  const levelMm = norris.filter((_, i) => i % 2 === 0);
  const hours = norris.filter((_, i) => i % 2 === 1);
  const fit = fitLine({ hours, levelMm, segment: hours.map(() => 0), widthHours: 1 }, 0, 1, 0);
  expect(fit.slope).toBeCloseTo(1.00211681802045, 10);
  expect(fit.starts[0]).toBeCloseTo(-0.262323073774029, 9);
  expect(fit.residualSd).toBeCloseTo(0.884796396144373, 9);
  expect(fit.standardError).toBeCloseTo(0.000429796848199937, 12);
});

test('two marks follow the triangular distribution of their rounding, in closed form', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 8 }), fc.integer({ min: 2, max: 72 }), (steps, hours) => {
      const found = markRate([{ hours: [0, hours], levelMm: [80, 80 - steps * SIXTEENTH] }], SIXTEENTH)!;
      const middle = (steps * SIXTEENTH) / hours;
      const reach = (SIXTEENTH / hours) * (1 - Math.sqrt(2 * 0.025));
      expect(quantile(found.rate, 0.975)).toBeCloseTo(middle + reach, 4);
      expect(quantile(found.rate, 0.025)).toBeCloseTo(middle - reach, 4);
    }),
    { numRuns: 40 },
  );
});

test('two marks and a pan over 24 h, read by an eye: undecided, far from 1 mm a day, and a finer gauge is asked for', () => {
  const v = verdictOf(
    marks(
      [
        [0, 76.2],
        [24, 76.2 - 2 * SIXTEENTH],
      ],
      { pan: pan(2 * SIXTEENTH) },
    ),
  );
  expect(v.verdict).toBe('undecided');
  expect(v.lowMmPerDay).toBe(0);
  expect(v.highMmPerDay).toBeGreaterThan(2.7);
  expect(v.highMmPerDay).toBeLessThan(3.5);
  const withoutEye = verdictOf(
    marks(
      [
        [0, 76.2],
        [24, 76.2 - 6 * SIXTEENTH],
      ],
      { pan: pan(2 * SIXTEENTH), eyeErrorMm: 0 },
    ),
  );
  // The rounding of four marks and the pan's ratio alone: about ± 1.8 mm a day.
  expect((withoutEye.highMmPerDay! - withoutEye.lowMmPerDay!) / 2).toBeGreaterThan(1.7);
  expect((withoutEye.highMmPerDay! - withoutEye.lowMmPerDay!) / 2).toBeLessThan(2);
  expect(v.reasons).toContain('leak-not-excluded');
  expect(v.reasons).toContain('finer-gauge');
  expect(v.hoursStillNeeded).toBeGreaterThan(10);
});

test('fail is asked first: moisture fails whatever the level does; a loss beyond doubt fails before its time', () => {
  const wet = verdictOf(
    marks(
      [
        [0, 76],
        [2, 76],
      ],
      { pan: pan(0, 2), moistureFound: true },
    ),
  );
  expect([wet.verdict, wet.reasons[0]]).toEqual(['fail', 'moisture-found']);
  const losing = verdictOf(
    marks(
      [
        [0, 76],
        [6, 60],
      ],
      { pan: pan(SIXTEENTH, 6) },
    ),
  );
  expect([losing.verdict, losing.reasons[0], losing.hoursStillNeeded]).toEqual(['fail', 'loss-beyond-doubt', 0]);
  expect(losing.failBoundMmPerDay).toBeGreaterThan(0);
});

test('moisture fails a test without any reading, and an event is understood by either of its names', () => {
  expect(verdictOf(marks([], { moistureFound: true })).verdict).toBe('fail');
  expect(verdictOf(marks([])).reasons).toContain('too-few-readings');
  const named = (event: object) => FloodVerdictInput.parse({ ...marks([]), events: [{ atHours: 3, ...event }] }).events;
  expect(named({ event: 'refill' })).toEqual(named({ kind: 'refill' }));
  expect(FloodVerdictInput.safeParse({ ...marks([]), events: [{ atHours: 3 }] }).success).toBe(false);
});

test('a tight shower under a logger passes with a pan, is undecided before its time, and never passes without a smallest leak', () => {
  const tight = { readings: series(2.4, 24), resolutionMm: 0.1 };
  const input = logger(
    series(2.4, 24, (t) => 0.05 * Math.cos(t)),
    { pan: tight },
  );
  expect(verdictOf(input).verdict).toBe('pass');
  const early = verdictOf({ ...input, plannedHours: 30 });
  expect([early.verdict, early.reasons[0]]).toEqual(['undecided', 'time-not-run']);
  expect(early.hoursStillNeeded).toBeCloseTo(6, 5);
  const unset = verdictOf({ ...input, smallestLeakMmPerDay: null });
  expect([unset.verdict, unset.reasons]).toEqual(['undecided', ['smallest-leak-not-set']]);
  expect(verdictOf({ ...input, placeNotSeen: true }).verdict).toBe('undecided');
});

test('with neither pan nor climate a loss alone never fails, and still may pass when nothing was lost', () => {
  const lost = verdictOf(
    marks([
      [0, 76],
      [24, 40],
    ]),
  );
  expect([lost.verdict, lost.lowMmPerDay, lost.failBoundMmPerDay]).toEqual(['undecided', null, null]);
  expect(lost.reasons).toContain('no-evaporation-known');
  expect(lost.reasons).toContain('control-pan');
  expect(verdictOf(logger(series(0.1, 24))).verdict).toBe('pass');
});

test('climate alone leaves about ± 0.8 mm a day', () => {
  const climate = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0 };
  const v = verdictOf(logger(series(2.4, 48), { climate }));
  expect((v.evaporation.highMmPerDay! - v.evaporation.lowMmPerDay) / 2).toBeGreaterThan(0.7);
  expect((v.evaporation.highMmPerDay! - v.evaporation.lowMmPerDay) / 2).toBeLessThan(1.1);
  const log = verdictOf(
    logger(series(2.4, 48), {
      climate: [
        { ...climate, atHours: 0 },
        { ...climate, atHours: 48 },
      ],
    }),
  );
  expect(log.evaporation.mmPerDay).toBeCloseTo(v.evaporation.mmPerDay!, 6);
});

test('a level that rises is asked about, not averaged; told that water was added, the same series decides', () => {
  const readings = series(2.4, 30, (t) => (t > 12 ? 9 : 0));
  const input = logger(readings, { pan: { readings: series(2.4, 30), resolutionMm: 0.1 } });
  const asked = verdictOf(input);
  expect([asked.verdict, asked.reasons[0]]).toEqual(['undecided', 'level-rose']);
  expect(asked.questions).toHaveLength(1);
  expect(asked.questions[0]!.atHours).toBeCloseTo(12.08, 1);
  expect(asked.questions[0]!.byMm).toBeCloseTo(9, 0);
  const told = verdictOf({ ...input, events: [{ atHours: asked.questions[0]!.atHours, kind: 'refill' }] });
  expect(told.verdict).toBe('pass');
  expect(told.netLossMmPerDay).toBeCloseTo(0, 0);
  const byHand = verdictOf(
    marks(
      [
        [0, 76],
        [12, 74],
        [13, 80],
        [24, 78],
      ],
      { pan: pan(2) },
    ),
  );
  expect(byHand.questions.map((q) => [q.kind, q.atHours])).toEqual([['level-rose', 13]]);
});

test('a logger that resets is asked about; after the plug was moved the test starts anew', () => {
  const reset = verdictOf(logger(series(2.4, 24, (t) => (t > 10 ? -40 : 0))));
  expect(reset.reasons[0]).toBe('level-jumped');
  const moved = series(2.4, 36, (t) => (t < 8 ? -3 * (t - 8) : 0));
  const input = logger(moved, {
    pan: { readings: series(2.4, 36), resolutionMm: 0.1 },
    events: [{ atHours: 8, kind: 'plug-moved' }],
  });
  const anew = verdictOf(input);
  expect(anew.hoursRun).toBeCloseTo(28, 5);
  expect(anew.verdict).toBe('pass');
  expect(verdictOf({ ...input, plannedHours: 30 }).reasons).toContain('time-not-run');
});

test('readings out of order, doubled, before the start, and a pan without a second reading are refused by name', () => {
  const field = (input: FloodVerdictInput) => {
    const outcome = floodVerdict(input);
    return outcome.ok ? null : outcome.problem.field;
  };
  expect(
    field(
      marks([
        [0, 76],
        [5, 75],
        [4, 75],
      ]),
    ),
  ).toBe('readings.2.atHours');
  expect(
    field(
      marks([
        [0, 76],
        [5, 75],
        [5, 74],
      ]),
    ),
  ).toBe('readings.2.atHours');
  expect(
    field(
      marks([
        [-1, 76],
        [5, 75],
      ]),
    ),
  ).toBe('readings.0.atHours');
  expect(
    field(
      marks(
        [
          [0, 76],
          [5, 75],
        ],
        { pan: { readings: [{ atHours: 0, levelMm: 60 }], resolutionMm: 1 } },
      ),
    ),
  ).toBe('pan.readings');
});

test('marks that fit no line widen their step and say so', () => {
  const v = verdictOf(
    marks(
      [
        [0, 90],
        [8, 70],
        [16, 69],
        [24, 68],
      ],
      { pan: pan(2) },
    ),
  );
  expect(v.reasons).toContain('marks-off-line');
});

test('the level read from another mark, and the order of equal information, change nothing', () => {
  fc.assert(
    fc.property(fc.double({ min: -500, max: 500, noNaN: true }), fc.integer({ min: 1, max: 9999 }), (shift, seed) => {
      const input = simulateFlood({
        method: 'logger',
        leakMmPerDay: 1,
        evaporationMmPerDay: 2,
        hours: 24,
        everyHours: 0.5,
        resolutionMm: 0.1,
        scatterMm: 0.15,
        correlationHours: 1,
        smallestLeakMmPerDay: 1,
        seed,
      });
      const moved = { ...input, readings: input.readings.map((r) => ({ ...r, levelMm: r.levelMm + shift })) };
      const [a, b] = [verdictOf(input), verdictOf(moved)];
      expect(b.netLossMmPerDay).toBeCloseTo(a.netLossMmPerDay!, 5);
      expect(b.highMmPerDay).toBeCloseTo(a.highMmPerDay!, 5);
    }),
    { numRuns: 8 },
  );
});

const usual =
  (more: Partial<SimulatedFlood>) =>
  (seed: number): SimulatedFlood => ({
    method: 'logger',
    leakMmPerDay: 0,
    evaporationMmPerDay: 1 + (seed % 10) * 0.25,
    hours: 24,
    everyHours: 1 / 6,
    resolutionMm: 0.1,
    scatterMm: 0.15,
    correlationHours: 1,
    smallestLeakMmPerDay: 1,
    seed,
    ...more,
  });

test('100 seeded loggers over tight showers: 90 to 99 of 100 intervals hold the truth, at most one in a hundred fails', () => {
  const found = tally(usual({}), 100, verdictOf);
  expect(found.covered).toBeGreaterThanOrEqual(90);
  expect(found.covered).toBeLessThanOrEqual(99);
  expect(found.fails).toBeLessThanOrEqual(1);
});

test('200 seeded pairs of marks over leaks of all sizes: 90 to 99 of 100 intervals hold the truth, hardly a leak passes', () => {
  const leaking = (seed: number) =>
    usual({ method: 'marks', leakMmPerDay: 1 + numbers(seed).uniform() * 4, resolutionMm: SIXTEENTH })(seed);
  const found = tally(leaking, 200, verdictOf);
  expect(found.covered).toBeGreaterThanOrEqual(180);
  expect(found.passes).toBeLessThanOrEqual(5);
});

test('what a plan can exclude is told before it starts: two marks and a pan can not exclude 1 mm a day, a logger can', () => {
  const plan = (method: 'marks' | 'logger', resolutionMm: number, plannedHours = 24) => {
    const found = floodPlan({
      method,
      plannedHours,
      resolutionMm,
      panResolutionMm: resolutionMm,
      climate: null,
      smallestLeakMmPerDay: 1,
    });
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  expect(plan('marks', SIXTEENTH).halfWidthMmPerDay).toBeGreaterThan(2.2);
  expect(plan('marks', SIXTEENTH).halfWidthMmPerDay).toBeLessThan(3);
  expect(plan('marks', SIXTEENTH).verdict).toBe('can-not-pass');
  expect(plan('marks', SIXTEENTH).hoursNeeded).toBeGreaterThan(40);
  expect(plan('logger', 0.1).verdict).toBe('can-pass');
  const blind = floodPlan({
    method: 'marks',
    plannedHours: 24,
    resolutionMm: 1,
    panResolutionMm: null,
    climate: null,
    smallestLeakMmPerDay: 1,
  });
  expect(blind.ok && blind.value.verdict).toBe('can-not-pass');
});

test('a leak read by three marks is that leak, and its gauge no coarser than it was said to be', () => {
  const step = 25.4 / 16;
  const marks = (perDay: number) => (atHours: number) => Math.round((76 - (perDay * atHours) / 24) / step) * step;
  const at = [0.5, 12.5, 24.5];
  const read = (perDay: number) => at.map((atHours) => ({ atHours, levelMm: marks(perDay)(atHours) }));
  const found = floodVerdict({
    method: 'marks',
    readings: read(10),
    resolutionMm: step,
    pan: { resolutionMm: step, readings: read(2) },
    smallestLeakMmPerDay: 1,
    plannedHours: 24,
    moistureFound: false,
    settleHours: 0.5,
  });
  expect(found).toMatchObject({ ok: true, value: { verdict: 'fail' } });
  expect(found.ok && found.value.reasons).not.toContain('step-coarser');
  expect(found.ok && found.value.lowMmPerDay).toBeGreaterThan(6);
});
