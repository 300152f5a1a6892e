import { describe, expect, it } from 'vitest';
import { sampleModel, sampleShower } from '../tests/sampleShower';
import { floodPlan, USUAL_CLIMATE } from './floodPlan';
import { floodVerdict } from './floodVerdict';
import type { FloodVerdictInput } from './floodVerdictInput';
import { floodVolume } from './floodVolume';
import { leakHeight } from './leakHeight';
import { blockMeans } from './loggerRate';
import { markRate } from './markRate';
import { quantile } from './rate';
import { simulateFlood } from './simulateFlood';
import { STOPPING_LEAK } from './siteScenarios';
import { waterIn } from './waterIn';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const noise = (k: number) => 0.05 * Math.sin(k * 2.4) + 0.04 * Math.sin(k * 0.7);
const logged = (perDay: number, seed = 0, from = 0): FloodVerdictInput['readings'] =>
  Array.from({ length: 150 }, (_, k) => ({
    atHours: from + k / 6,
    levelMm: Math.round((76 - (perDay * (from + k / 6)) / 24 + noise(k + seed)) * 10) / 10,
  }));
const verdictInput: FloodVerdictInput = {
  method: 'logger',
  readings: logged(2),
  resolutionMm: 0.1,
  pan: { readings: logged(2, 31), resolutionMm: 0.1 },
  smallestLeakMmPerDay: 1,
  plannedHours: 24,
  moistureFound: false,
  settleHours: 0,
};
const verdict = (more: Partial<FloodVerdictInput>) => value(floodVerdict({ ...verdictInput, ...more }));

describe('the reasons of a verdict', () => {
  it('one each: tight enough, a loss beyond doubt, moisture; and all that is missing, where it is not decided', () => {
    expect(verdict({})).toMatchObject({ verdict: 'pass', reasons: ['tight-enough'] });
    expect(verdict({ readings: logged(7) })).toMatchObject({ verdict: 'fail', reasons: ['loss-beyond-doubt'] });
    expect(verdict({ moistureFound: true }).reasons).toEqual(['moisture-found']);
    expect(verdict({ smallestLeakMmPerDay: null }).reasons).toEqual(['smallest-leak-not-set']);
    expect(verdict({ placeNotSeen: true }).reasons).toEqual(['place-not-seen']);
    expect(verdict({ plannedHours: 48 }).reasons).toEqual(['time-not-run']);
    expect(verdict({ plannedHours: 149 / 6 + 0.9 / 60 }).verdict).toBe('pass');
    expect(verdict({ plannedHours: 149 / 6 + 1.1 / 60 }).verdict).toBe('undecided');
    expect(verdict({ smallestLeakMmPerDay: 0.01 }).reasons).toContain('leak-not-excluded');
    expect(verdict({ readings: [] as never, moistureFound: true }).verdict).toBe('fail');
  });
  it('a leak that stopped is found with the band of heights that the water had between its hours', () => {
    const seeds = Array.from({ length: 12 }, (_, k) => k + 1);
    const found = seeds
      .map((seed) => ({ flood: simulateFlood(STOPPING_LEAK(seed)), seed }))
      .map(({ flood }) => ({ flood, judged: value(floodVerdict(flood)) }))
      .find(({ judged }) => judged.reasons.includes('leak-stopped'))!;
    expect(found.judged.verdict).toBe('fail');
    const { heightMm, lowMm, highMm } = found.judged.leakHeight!;
    const levels = found.flood.readings.map((r) => r.levelMm);
    expect(lowMm).toBeLessThanOrEqual(heightMm);
    expect(heightMm).toBeLessThanOrEqual(highMm);
    expect(lowMm).toBeGreaterThanOrEqual(Math.min(...levels));
    expect(highMm).toBeLessThan(Math.max(...levels));
    // A level between two readings lies between theirs.
    const near = levels.reduce((best, l) => (Math.abs(l - heightMm) < Math.abs(best - heightMm) ? l : best));
    expect(Math.abs(near - heightMm)).toBeLessThan(0.5);
  });
});

describe('what of a series counts', () => {
  const mark = (rows: [number, number][], more: Partial<FloodVerdictInput> = {}) =>
    verdict({
      method: 'marks',
      readings: rows.map(([atHours, levelMm]) => ({ atHours, levelMm })),
      resolutionMm: 0.2,
      eyeErrorMm: 0,
      pan: { readings: [0, 2, 3, 24].map((atHours) => ({ atHours, levelMm: 60 - atHours / 12 })), resolutionMm: 0.2 },
      ...more,
    });
  it('readings before the water has settled are left out, unless the next one comes two hours later or more', () => {
    const rows: [number, number][] = [
      [0, 80],
      [0.5, 76],
      [12, 75],
      [24, 74],
    ];
    const lossOf = (more: Partial<FloodVerdictInput>) => mark(rows, more).lossMmPerDay!;
    // From the second mark on it loses 2 mm a day; with the first, six.
    expect(lossOf({ settleHours: 0.5 })).toBeCloseTo(2, 0);
    expect(lossOf({ settleHours: 0.51 })).toBeCloseTo(2, 0);
    expect(lossOf({ settleHours: 0 })).toBeGreaterThan(3.5);
    // No mark before noon but the first: that one stays.
    expect(mark([rows[0]!, rows[2]!, rows[3]!], { settleHours: 0.5 }).lossMmPerDay!).toBeGreaterThan(4);
    expect(mark([rows[0]!, [1.9, 76], rows[3]!], { settleHours: 0.5 }).lossMmPerDay!).toBeLessThan(3);
    expect(mark([rows[0]!, [2, 76], rows[3]!], { settleHours: 0.5 }).lossMmPerDay!).toBeLessThan(3);
    expect(mark([rows[0]!, [2.1, 76], rows[3]!], { settleHours: 0.5 }).lossMmPerDay!).toBeGreaterThan(3);
    // A settling time beyond the last reading leaves them all.
    expect(mark(rows, { settleHours: 48 }).lossMmPerDay!).toBeGreaterThan(3.5);
    // Without a word a logger's first half hour is left out, a mark never.
    const early = logged(2).map((r) => (r.atHours < 0.4 ? { ...r, levelMm: r.levelMm + 1.2 } : r));
    const { settleHours: _, ...usual } = { ...verdictInput, readings: early };
    const settledLate = value(floodVerdict({ ...usual, settleHours: 0.4 }));
    expect(value(floodVerdict(usual)).lossMmPerDay!).toBeCloseTo(settledLate.lossMmPerDay!, 1);
    expect(mark(rows).lossMmPerDay).toBeCloseTo(lossOf({ settleHours: 0 }), 9);
  });
  it('a pan read when it was filled goes with a water that was first marked two hours later', () => {
    const pan = { readings: [0, 24].map((atHours) => ({ atHours, levelMm: 60 - atHours / 12 })), resolutionMm: 0.2 };
    const late: [number, number][] = [
      [1.9, 76],
      [24, 74.1],
    ];
    expect(mark(late, { pan }).evaporation.mmPerDay!).toBeCloseTo(2, 1);
    expect(
      floodVerdict({
        ...verdictInput,
        method: 'marks',
        readings: late.map(([atHours, levelMm]) => ({ atHours: atHours + 0.2, levelMm })),
        pan,
      }),
    ).toMatchObject({
      ok: false,
      problem: { field: 'pan.readings' },
    });
  });
  it('time runs from the water’s start where the first reading came within two hours, else from that', () => {
    expect(verdict({ readings: logged(2, 0, 2) }).hoursRun).toBeCloseTo(2 + 149 / 6, 9);
    expect(verdict({ readings: logged(2, 0, 2.1) }).hoursRun).toBeCloseTo(149 / 6, 9);
    expect(verdict({ readings: logged(2, 0, 2.1) }).reasons).toContain('begins-late');
    expect(verdict({ readings: logged(2, 0, 2) }).reasons).not.toContain('begins-late');
    const late = mark([
      [3, 76],
      [24, 74.5],
    ]);
    expect(late.questions).toEqual([]);
    expect(late.hoursRun).toBe(21);
    expect(verdict({ readings: [] as never }).hoursRun).toBe(0);
  });
  it('a plug that was moved starts all anew: level, time, and what was filled', () => {
    const readings = logged(2).map((r) => ({ ...r, levelMm: r.levelMm - (r.atHours < 5 ? r.atHours : 5) }));
    const moved = verdict({ readings, events: [{ atHours: 5, kind: 'plug-moved' }], plannedHours: 19 });
    expect(moved.hoursRun).toBeCloseTo(149 / 6 - 5, 9);
    expect(moved.verdict).toBe('pass');
    const twice = verdict({
      readings,
      events: [
        { atHours: 8, kind: 'plug-moved' },
        { atHours: 5, kind: 'plug-moved' },
      ],
    });
    expect(twice.hoursRun).toBeCloseTo(149 / 6 - 8, 9);
    // An event of the pan breaks nothing in the water.
    const pan = verdict({ readings, events: [{ atHours: 5, kind: 'plug-moved', of: 'pan' }] });
    expect(pan.hoursRun).toBeCloseTo(149 / 6, 9);
    // What only happened beside it breaks nothing either.
    const noted = { readings: logged(2).map((r) => ({ ...r, levelMm: r.levelMm + (r.atHours > 12 ? 3 : 0) })) };
    expect(verdict({ ...noted, events: [{ atHours: 12, kind: 'refill' }] }).questions).toEqual([]);
    expect(verdict({ ...noted, events: [{ atHours: 12, kind: 'refill', of: 'pan' }] }).questions[0]!.kind).toBe(
      'level-rose',
    );
  });
  it('says where it is read off line, by a coarser step, at other times than the pan, or with no evaporation known', () => {
    expect(
      mark([
        [0, 90],
        [8, 70],
        [16, 69],
        [24, 68],
      ]).reasons,
    ).toContain('marks-off-line');
    const coarse = logged(2).map((r) => ({ ...r, levelMm: Math.round(r.levelMm) }));
    expect(verdict({ readings: coarse }).reasons).toContain('step-coarser');
    expect(verdict({ readings: coarse }).stepMm).toBe(1);
    expect(verdict({}).stepMm).toBe(0.1);
    const { pan: _pan, ...bare } = verdictInput;
    const blind = value(floodVerdict({ ...bare, readings: logged(2) }));
    expect(blind.reasons).toContain('no-evaporation-known');
    expect(blind.reasons).toContain('control-pan');
    expect(value(floodVerdict({ ...bare, readings: logged(0.05) })).reasons).toEqual(['tight-enough']);
    expect(value(floodVerdict({ ...bare, readings: logged(2), moistureFound: true })).reasons).toEqual([
      'moisture-found',
    ]);
    expect(verdict({ smallestLeakMmPerDay: 0.01 }).reasons).not.toContain('control-pan');
    expect(blind.formula).toContain('block means');
    expect(
      mark([
        [0, 76],
        [24, 74],
      ]).formula,
    ).toContain('interval-censored');
  });
  it('advises a finer gauge for marks alone, where that and not the pan is what is too coarse', () => {
    const of = (resolutionMm: number, more: Partial<FloodVerdictInput> = {}) =>
      mark(
        [
          [0, 76.2],
          [24, 74.2],
        ],
        { resolutionMm, ...more },
      ).reasons.includes('finer-gauge');
    // 0.776 of a step over a day against a quarter of the smallest leak.
    expect(of(0.33, { smallestLeakMmPerDay: 1 })).toBe(false);
    expect(of(1.6, { smallestLeakMmPerDay: 1 })).toBe(true);
    expect(of(1.6, { smallestLeakMmPerDay: 4.9 })).toBe(false);
    expect(of(1.6, { smallestLeakMmPerDay: null })).toBe(false);
    expect(verdict({ resolutionMm: 1.6, smallestLeakMmPerDay: 0.2 }).reasons).not.toContain('finer-gauge');
  });
  it('time is advised where it helps, and said to be no help where it is none', () => {
    const early = mark(
      [
        [0, 76.2],
        [24, 74.2],
      ],
      { resolutionMm: 1.6, smallestLeakMmPerDay: 1.2 },
    );
    expect(early.reasons).toContain('more-time');
    expect(early.hoursStillNeeded!).toBeGreaterThan(0);
    const hopeless = mark(
      [
        [0, 76.2],
        [24, 72.2],
      ],
      {
        resolutionMm: 0.2,
        smallestLeakMmPerDay: 0.05,
        pan: { readings: [0, 24].map((atHours) => ({ atHours, levelMm: 60 - atHours / 6 })), resolutionMm: 0.2 },
      },
    );
    expect(hopeless.reasons).toContain('more-time-does-not-help');
    expect(hopeless.hoursStillNeeded).toBeNull();
    // A leak that can't be excluded any more is shown by time where evaporation is known, and by no time where it is not.
    const leaking: [number, number][] = [
      [0, 76],
      [12, 73.6],
    ];
    const known = mark(leaking, { resolutionMm: 1.6, eyeErrorMm: 0.5, smallestLeakMmPerDay: 1 });
    expect(known.verdict).toBe('undecided');
    expect(known.netLossMmPerDay!).toBeGreaterThan(1);
    expect(known.hoursStillNeeded!).toBeGreaterThan(0);
    const { pan: _pan, ...bare } = verdictInput;
    const readings = leaking.map(([atHours, levelMm]) => ({ atHours, levelMm }));
    const blind = value(floodVerdict({ ...bare, method: 'marks', readings, resolutionMm: 1.6 }));
    expect(blind).toMatchObject({ verdict: 'undecided', hoursStillNeeded: null });
    // Only the planned time is missing: nothing more is said than that.
    const planned = verdict({ plannedHours: 48 });
    expect(planned.reasons).toEqual(['time-not-run']);
    expect(planned.hoursStillNeeded).toBeCloseTo(48 - 149 / 6, 9);
    const asked = verdict({
      readings: logged(2).map((r) => ({ ...r, levelMm: r.levelMm + (r.atHours > 12 ? 3 : 0) })),
      plannedHours: 48,
    });
    expect(asked.hoursStillNeeded).toBeCloseTo(48 - 149 / 6, 9);
    expect(asked.reasons).not.toContain('more-time');
  });
});

describe('pieces of the rates', () => {
  it('means over windows keep all readings, each in its own run', () => {
    const few = blockMeans([
      { hours: [0, 1, 3], levelMm: [10, 9, 8] },
      { hours: [5, 6], levelMm: [20, 19] },
    ]);
    expect(few).toEqual({
      hours: [0, 1, 3, 5, 6],
      levelMm: [10, 9, 8, 20, 19],
      segment: [0, 0, 0, 1, 1],
      widthHours: 6 / 4,
    });
    const hours = Array.from({ length: 1000 }, (_, k) => k / 10);
    const many = blockMeans([{ hours, levelMm: hours.map((t) => 70 - t / 10) }]);
    expect(many.hours.length).toBeLessThan(1000);
    many.hours.forEach((t, i) => {
      expect(many.levelMm[i]).toBeCloseTo(70 - t / 10, 9);
    });
    expect(many.hours[0]).toBeLessThan(many.widthHours);
    expect(many.hours.at(-1)).toBeGreaterThan(99.9 - many.widthHours);
    expect(many.widthHours).toBeCloseTo(99.9 / many.hours.length, 9);
  });
  it('marks that no line fits within their step widen it just as far as it takes', () => {
    // 0, -3, 0: the best line leaves 1.5 mm to each side.
    const bent = markRate([{ hours: [0, 12, 24], levelMm: [70, 67, 70] }], 1, 0)!;
    expect(bent.widened).toBe(true);
    expect(quantile(bent.rate, 0.5)).toBeCloseTo(0, 2);
    const straight = markRate([{ hours: [0, 12, 24], levelMm: [70, 69.6, 69] }], 1, 0)!;
    expect(straight.widened).toBe(false);
    expect(quantile(straight.rate, 0.5) * 24).toBeCloseTo(1, 0);
    expect(quantile(straight.rate, 0.975) - quantile(straight.rate, 0.025)).toBeGreaterThan(0.02);
  });
  it('a plan says what its verdict will do: two marks exclude little, a logger more, nothing without a leak to exclude', () => {
    const plan = (more: Partial<Parameters<typeof floodPlan>[0]>) =>
      value(
        floodPlan({
          method: 'marks',
          plannedHours: 24,
          resolutionMm: 25.4 / 16,
          panResolutionMm: 25.4 / 16,
          climate: null,
          smallestLeakMmPerDay: 1,
          ...more,
        }),
      );
    const marks = plan({});
    expect(marks.verdict).toBe('can-not-pass');
    expect(marks.halfWidthMmPerDay!).toBeGreaterThan(1.5);
    expect(plan({ smallestLeakMmPerDay: null })).toMatchObject({ verdict: 'can-not-pass', hoursNeeded: null });
    const easy = plan({ smallestLeakMmPerDay: 20 });
    expect(easy).toMatchObject({ verdict: 'can-pass', hoursNeeded: 24 });
    expect(easy.excludesMmPerDay!).toBeLessThan(20);
    expect(plan({ smallestLeakMmPerDay: 20, panResolutionMm: null, climate: USUAL_CLIMATE }).verdict).toBe('can-pass');
  });
  it('water is taken over a flat floor where no rise is drawn, and null where the height holds none', () => {
    const { perimeterRiseMm: _, ...flat } = sampleShower();
    const model = sampleModel();
    const level = waterIn({ ...model, geometry: flat as never }, 76.2)!;
    const pitched = waterIn(model, 76.2)!;
    expect(level.volumeL).toBeGreaterThan(pitched.volumeL);
    expect(level.volumeL).toBeCloseTo((60 * 25.4 * 36 * 25.4 * 76.2) / 1e6, 0);
    expect(waterIn(model, -1)?.volumeL ?? 0).toBe(0);
  });
  it('corners that nobody shot take the height of the nearest shot', () => {
    const corner = (xMm: number, yMm: number, zMm: number) => ({ xMm, yMm, zMm });
    const inside = [corner(100, 100, 10), corner(900, 100, 20), corner(900, 900, 30), corner(100, 900, 40)];
    const at = inside.map((s) => corner(s.xMm < 500 ? 0 : 1000, s.yMm < 500 ? 0 : 1000, s.zMm));
    const footprint = at.map(({ xMm, yMm }) => ({ xMm, yMm }));
    const volume = (shots: typeof inside) =>
      value(floodVolume({ footprint, drain: { xMm: 500, yMm: 500 }, shots, depthAtDrainMm: 60 })).volumeL;
    expect(volume(inside)).toBeCloseTo(volume([...inside, ...at]), 9);
    const high = at.map((s) => ({ ...s, zMm: s.zMm + 10 }));
    expect(volume([...inside, ...high])).toBeLessThan(volume(inside));
  });
  it('a leak’s height goes by the area at its level, in whatever order that is given', () => {
    const [h0, e] = [66, 0.08];
    const area = (level: number) => 0.8 + (0.6 * (level - 60)) / 20;
    const readings = [{ atHours: 0, levelMm: 76 }];
    for (let k = 1, h = 76; k <= 96; k += 1) {
      for (let s = 0; s < 100; s += 1) h -= ((0.5 * Math.sqrt(Math.max(0, h - h0))) / area(h) + e) * 0.0025;
      readings.push({ atHours: k / 4, levelMm: h + (k % 2 === 0 ? 0.03 : -0.03) });
    }
    const table = [60, 65, 70, 75, 80].map((levelMm) => ({ levelMm, m2: area(levelMm) }));
    const found = (areaByLevel: typeof table) =>
      value(leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: e, areaByLevel }));
    const sorted = found(table);
    expect(Math.abs(sorted.heightMm - h0)).toBeLessThan(0.3);
    expect(sorted.lowMm).toBeLessThanOrEqual(sorted.heightMm);
    expect(sorted.highMm - sorted.lowMm).toBeLessThan(1.5);
    expect(found([...table].reverse())).toEqual(sorted);
    expect(found([table[2]!, table[0]!, table[4]!, table[1]!, table[3]!])).toEqual(sorted);
  });
});
