import { describe, expect, it } from 'vitest';
import { saturationPa } from '../cure/air';
import { FT2_PER_M2, LB_PER_KG, US_CUP_L, US_GALLON_L } from '../units/measures';
import { evaporationMmPerHour } from './evaporation';
import { climateRates, evaporationOf } from './evaporationOf';
import { fillTime, USUAL_LITRES_PER_MINUTE } from './fillTime';
import type { FloodVerdictInput } from './floodVerdictInput';
import { floorLoad } from './floorLoad';
import { leakSize } from './leakSize';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const still = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0.05 };

describe('figures of water', () => {
  it('a fall of the level as a hole: litres, cups, and the hole that lets as much through by Torricelli', () => {
    const { litresPerHour, cupsPerDay, holeMm } = value(leakSize({ lossMmPerHour: 0.5, wettedM2: 1.4, headMm: 70 }));
    expect(litresPerHour).toBeCloseTo(0.7, 12);
    expect(cupsPerDay).toBeCloseTo((0.7 * 24) / US_CUP_L, 9);
    const areaM2 = (Math.PI / 4) * (holeMm / 1000) ** 2;
    expect(0.6 * areaM2 * Math.sqrt(2 * 9.80665 * 0.07) * 3600 * 1000).toBeCloseTo(0.7, 9);
  });
  it('time to fill and load on the floor', () => {
    expect(value(fillTime({ volumeL: 95, litresPerMinute: 9.5 })).minutes).toBe(10);
    expect(USUAL_LITRES_PER_MINUTE).toBeCloseTo(2.5 * US_GALLON_L, 12);
    const load = floorLoad({ massKg: 90, wettedM2: 1.2 });
    expect(load.lbPerFt2).toBeCloseTo((90 * LB_PER_KG) / (1.2 * FT2_PER_M2), 9);
    expect(load.shareOfLiveLoad).toBeCloseTo(load.lbPerFt2 / 40, 12);
    expect(floorLoad({ massKg: 90, wettedM2: 0 }).lbPerFt2).toBe(0);
  });
  it('evaporation by the formula: 3.2 mm a day over still water, half with a quiet pool, less than none in a steam bath', () => {
    expect(evaporationMmPerHour({ ...still, airSpeedMs: 0 }) * 24).toBeCloseTo(3.2, 1);
    expect(evaporationMmPerHour(still, 0.5)).toBeCloseTo(evaporationMmPerHour(still) / 2, 12);
    const kpa = (saturationPa(20) - 0.5 * saturationPa(22)) / 1000;
    expect(evaporationMmPerHour(still)).toBeCloseTo(((kpa * (0.089 + 0.0782 * 0.05)) / (2500.8 - 47.2)) * 3600, 9);
    expect(evaporationMmPerHour({ ...still, airC: 35, relativeHumidity: 1 })).toBeLessThan(0);
  });
});

describe('what evaporation is taken to be', () => {
  const water = [0, 12, 24].map((atHours) => ({ atHours, levelMm: 76 - atHours / 10 }));
  const input = (more: Partial<FloodVerdictInput>): FloodVerdictInput => ({
    method: 'marks',
    readings: water,
    resolutionMm: 1.6,
    smallestLeakMmPerDay: 1,
    plannedHours: 24,
    moistureFound: false,
    ...more,
  });
  const of = (more: Partial<FloodVerdictInput>, method: 'marks' | 'logger' = 'marks') =>
    value(evaporationOf(input({ ...more, method }), more.readings ?? water, [0, 24], [], 0, 0.1));
  const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

  it('without a pan or a climate it is not known, but not below zero', () => {
    expect(of({})).toMatchObject({
      from: 'nothing',
      taken: null,
      takenForPass: [0],
      systematicMmPerDay: 0,
      shown: { from: 'nothing', mmPerDay: null, lowMmPerDay: 0, highMmPerDay: null },
    });
    expect(of({ climate: [] }).from).toBe('nothing');
  });
  it('from the air: between the quiet pool and the formula, counted for a fail alone', () => {
    const rates = climateRates(still);
    const [least, most] = [
      evaporationMmPerHour({ ...still, airSpeedMs: 0 }, 0.5),
      evaporationMmPerHour({ ...still, airSpeedMs: 0.15 }, 1),
    ];
    expect(Math.min(...rates)).toBeGreaterThanOrEqual(least);
    expect(Math.min(...rates)).toBeLessThan(least * 1.06);
    expect(Math.max(...rates)).toBeLessThanOrEqual(most);
    expect(Math.max(...rates)).toBeGreaterThan(most * 0.95);
    expect(mean(rates)).toBeCloseTo(evaporationMmPerHour({ ...still, airSpeedMs: 0.075 }) * 0.75 * 1, 3);
    expect(climateRates({ ...still, airC: 35, relativeHumidity: 1 }).every((x) => x === 0)).toBe(true);
    const found = of({ climate: still });
    expect(found).toMatchObject({ from: 'climate', takenForPass: [0], timesDiffer: false, against: null });
    expect(mean(found.taken!)).toBeCloseTo(mean(rates), 3);
    expect(found.shown.mmPerDay!).toBeCloseTo(mean(rates) * 24, 1);
    expect(found.shown.lowMmPerDay).toBeLessThan(found.shown.mmPerDay!);
    expect(found.systematicMmPerDay).toBeCloseTo((found.shown.highMmPerDay! - found.shown.lowMmPerDay) / 2, 9);
  });
  it('several readings of the air each count for their share of the time', () => {
    const dry = { ...still, relativeHumidity: 0.3 };
    const damp = { ...still, relativeHumidity: 0.8 };
    const both = of({
      climate: [
        { ...dry, atHours: 0 },
        { ...damp, atHours: 12 },
      ],
    });
    // Half-way between them lies hour 6: a quarter dry, three quarters damp.
    const expected = 0.25 * mean(climateRates(dry)) + 0.75 * mean(climateRates(damp));
    expect(mean(both.taken!)).toBeCloseTo(expected, 3);
    const three = of({
      climate: [
        { ...dry, atHours: 0 },
        { ...damp, atHours: 8 },
        { ...dry, atHours: 24 },
      ],
    });
    const share = 4 / 24 + 8 / 24;
    expect(mean(three.taken!)).toBeCloseTo(share * mean(climateRates(dry)) + (1 - share) * mean(climateRates(damp)), 3);
    expect(mean(of({ climate: [dry] }).taken!)).toBeCloseTo(mean(climateRates(dry)), 3);
  });
  it('from a pan: its own fall, with fifteen percent to each side, and what it says that can’t be', () => {
    const pan = (levels: [number, number][], resolutionMm = 0.1) => ({
      readings: levels.map(([atHours, levelMm]) => ({ atHours, levelMm })),
      resolutionMm,
    });
    const found = of({
      pan: pan([
        [0, 60],
        [12, 58.5],
        [24, 57],
      ]),
      eyeErrorMm: 0.01,
    });
    expect(found).toMatchObject({ from: 'pan', timesDiffer: false, against: null, questions: [] });
    expect(found.shown.mmPerDay!).toBeCloseTo(3, 1);
    expect(found.takenForPass).toEqual(found.taken);
    expect(found.systematicMmPerDay).toBeCloseTo(1.96 * 0.075 * 3, 1);
    const kinds = (levels: [number, number][]) =>
      of({ pan: pan(levels), eyeErrorMm: 0.01 }).questions.map((q) => q.kind);
    expect(
      kinds([
        [0, 60],
        [12, 64],
        [24, 57],
      ]),
    ).toEqual(['pan-rose']);
    expect(
      kinds([
        [2.5, 60],
        [12, 58.5],
        [24, 57],
      ]),
    ).toEqual(['pan-begins-late']);
    expect(
      kinds([
        [2, 60],
        [12, 58.5],
        [24, 57],
      ]),
    ).toEqual([]);
    expect(
      kinds([
        [0, 60],
        [12, 58.5],
        [21.9, 57],
      ]),
    ).toEqual(['pan-ends-early']);
    expect(
      kinds([
        [0, 60],
        [12, 58.5],
        [22, 57],
      ]),
    ).toEqual([]);
    expect(
      kinds([
        [0, 60],
        [12, 60.9],
        [24, 61.8],
      ]),
    ).toEqual(['pan-rises']);
    expect(
      of({
        pan: pan([
          [0, 60],
          [5, 59],
        ]),
      }).timesDiffer,
    ).toBe(true);
    expect(evaporationOf(input({ pan: pan([[5, 60]]) }), water, [0, 24], [], 0, 0.1)).toMatchObject({
      ok: false,
      problem: { field: 'pan.readings' },
    });
  });
  it('is spread as far as the pan’s rounding and its ratio say', () => {
    const spread = (values: readonly number[]) => {
      const middle = mean(values);
      return Math.sqrt(mean(values.map((x) => (x - middle) ** 2)));
    };
    const two = (fall: number, resolutionMm: number) =>
      of({
        pan: { readings: [0, 24].map((atHours) => ({ atHours, levelMm: 60 - (fall * atHours) / 24 })), resolutionMm },
        eyeErrorMm: 0,
      });
    // Rounding of two ends: a triangle of two steps in width, variance step²/6; the ratio 7.5 % of the fall.
    const found = two(6, 1);
    expect(mean(found.taken!) * 24).toBeCloseTo(6, 2);
    const expected = Math.sqrt(1 / 6 + (6 * 0.075) ** 2 + 0.075 ** 2 / 6);
    expect(spread(found.taken!) * 24).toBeGreaterThan(expected * 0.97);
    expect(spread(found.taken!) * 24).toBeLessThan(expected * 1.01);
    expect(found.shown.lowMmPerDay).toBeCloseTo(6 - 1.96 * expected, 0);
    expect(found.shown.highMmPerDay!).toBeCloseTo(6 + 1.96 * expected, 0);
    // What a pan may have gained is nothing: its fall is at least zero.
    expect(Math.min(...two(0.2, 1).taken!)).toBeGreaterThanOrEqual(0);
  });
  it('from the air for a fail: fifteen percent of the estimate to each side besides', () => {
    const spread = (values: readonly number[]) => {
      const middle = mean(values);
      return Math.sqrt(mean(values.map((x) => (x - middle) ** 2)));
    };
    const estimate = climateRates(still);
    const expected = Math.sqrt(spread(estimate) ** 2 + (0.15 * mean(estimate)) ** 2);
    const { taken } = of({ climate: still });
    expect(spread(taken!)).toBeGreaterThan(expected * 0.95);
    expect(spread(taken!)).toBeLessThan(expected * 1.05);
  });
  it('a pan’s own break splits its series, the water’s does not; its readings long before the test are left out', () => {
    const times = [0, 6, 12, 18, 24];
    const refilled = times.map((atHours) => ({ atHours, levelMm: 60 - atHours / 8 + (atHours > 12 ? 3 : 0) }));
    const pan = { readings: refilled, resolutionMm: 0.5 };
    expect(of({ pan }).questions.map((q) => q.kind)).toEqual(['pan-rose']);
    const told = of({ pan, events: [{ atHours: 13, kind: 'refill', of: 'pan' }] });
    expect(told.questions).toEqual([]);
    expect(told.shown.mmPerDay!).toBeCloseTo(3, 0);
    expect(of({ pan, events: [{ atHours: 13, kind: 'refill' }] }).questions.map((q) => q.kind)).toEqual(['pan-rose']);
    const from = (atHours: number) => {
      const readings = [{ atHours, levelMm: 61.5 }, ...refilled.slice(2).map((r) => ({ ...r, levelMm: 60 }))];
      return value(evaporationOf(input({ pan: { ...pan, readings }, eyeErrorMm: 0 }), water, [5, 24], [], 0, 0.1));
    };
    // Two hours before the window count still.
    expect(from(3).shown.mmPerDay!).toBeGreaterThan(0.5);
    expect(from(2.9).shown.mmPerDay!).toBeLessThan(0.5);
  });
  it('a pan read over less than four fifths of the time says so', () => {
    const over = (hours: number) =>
      of({
        pan: { readings: [0, hours].map((atHours) => ({ atHours, levelMm: 60 - atHours / 12 })), resolutionMm: 1 },
      });
    expect(over(19.3).timesDiffer).toBe(false);
    expect(over(19.1).timesDiffer).toBe(true);
    const late = [6, 24].map((atHours) => ({ atHours, levelMm: 60 - atHours / 12 }));
    expect(of({ pan: { readings: late, resolutionMm: 1 } }).timesDiffer).toBe(true);
  });
  it('a pan that was logged with the water is taken off reading by reading', () => {
    const times = Array.from({ length: 145 }, (_, k) => k / 6);
    const sway = (k: number) => 0.3 * Math.sin(k / 7);
    const noise = (k: number) => 0.05 * Math.sin(k * 2.4) + 0.04 * Math.sin(k * 0.7);
    const readings = times.map((atHours, k) => ({ atHours, levelMm: 76 - (5 * atHours) / 24 + sway(k) + noise(k) }));
    const panOf = (keep: (k: number) => boolean) => ({
      readings: times.flatMap((atHours, k) =>
        keep(k) ? [{ atHours, levelMm: 60 - (2 * atHours) / 24 + sway(k) + noise(k + 31) }] : [],
      ),
      resolutionMm: 0.1,
    });
    const together = of({ readings, pan: panOf(() => true) }, 'logger');
    expect(together.against).not.toBeNull();
    expect(together.difference![0]!.hours).toHaveLength(145);
    expect(Math.abs(mean(together.taken!))).toBeLessThan(0.01);
    const at = together.against!.rate;
    expect(at.cdf(2.6 / 24)).toBeLessThan(0.05);
    expect(at.cdf(3.4 / 24)).toBeGreaterThan(0.95);
    // With too few of the water's moments in it, it is taken off as a rate.
    expect(of({ readings, pan: panOf((k) => k % 2 === 0) }, 'logger').against).toBeNull();
    expect(of({ readings, pan: panOf((k) => k % 12 === 0) }, 'logger').difference).toBeNull();
    const stuck = { readings: times.map((atHours) => ({ atHours, levelMm: 60 })), resolutionMm: 0.1 };
    expect(of({ readings, pan: stuck }, 'logger').questions.map((q) => q.kind)).toContain('pan-stuck');
  });
});
