import fc from 'fast-check';
import { expect, test } from 'vitest';
import { evaporationMmPerHour } from './evaporation';
import { fillTime } from './fillTime';
import { floodVolume } from './floodVolume';
import { floorLoad } from './floorLoad';
import { leakSize } from './leakSize';

const IN = 25.4;
const US_GALLON_L = 3.785411784;
const rectangle = (w: number, d: number) => [
  { xMm: 0, yMm: 0 },
  { xMm: w, yMm: 0 },
  { xMm: w, yMm: d },
  { xMm: 0, yMm: d },
];
const must = <T>(outcome: { ok: true; value: T } | { ok: false; problem: { code: string } }): T => {
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
};

test('36 x 60 in with 3 in over the drain: 23.5 gal, 196 lb, 13.1 lb per square foot, 9.4 min', () => {
  const volume = must(
    floodVolume({
      footprint: rectangle(60 * IN, 36 * IN),
      drain: { xMm: 30 * IN, yMm: 18 * IN },
      perimeterRiseMm: 0.7289 * IN,
      depthAtDrainMm: 3 * IN,
    }),
  );
  expect(volume.volumeL / US_GALLON_L).toBeCloseTo(23.5, 1);
  expect(volume.massKg * 2.20462).toBeCloseTo(196.2, 0);
  expect(volume.depthAtThresholdMm / IN).toBeCloseTo(2.27, 2);
  expect(floorLoad(volume).lbPerFt2).toBeCloseTo(13.1, 1);
  expect(must(fillTime({ volumeL: volume.volumeL, litresPerMinute: 2.5 * US_GALLON_L })).minutes).toBeCloseTo(9.4, 1);
});

test('a water line below the edge wets a smaller floor of the same shape: closed form of the cone', () => {
  const half = must(
    floodVolume({
      footprint: rectangle(1000, 800),
      drain: { xMm: 300, yMm: 500 },
      perimeterRiseMm: 40,
      depthAtDrainMm: 20,
    }),
  );
  expect(half.wettedM2).toBeCloseTo(0.8 / 4, 9);
  expect(half.volumeL).toBeCloseTo((0.8 / 4) * (20 / 3), 9);
  expect(half.depthAtThresholdMm).toBe(0);
});

test('shots of the same cone give the same water as the level perimeter does', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.2, max: 0.8, noNaN: true }),
      fc.double({ min: 0.2, max: 0.8, noNaN: true }),
      fc.double({ min: 5, max: 120, noNaN: true }),
      (u, v, depthAtDrainMm) => {
        const footprint = rectangle(1500, 900);
        const drain = { xMm: 1500 * u, yMm: 900 * v };
        const whole = must(floodVolume({ footprint, drain, perimeterRiseMm: 20, depthAtDrainMm }));
        const shots = footprint.map((p) => ({ ...p, zMm: 20 }));
        const shot = must(floodVolume({ footprint, drain, shots, depthAtDrainMm }));
        expect(Math.abs(shot.volumeL - whole.volumeL)).toBeLessThan(1e-6 * Math.max(1, whole.volumeL));
        expect(shot.wettedM2).toBeCloseTo(whole.wettedM2, 6);
      },
    ),
    { numRuns: 60 },
  );
});

test('an L-shaped floor: what the drain sees is a cone, what lies round the corner stays at the height of the edge', () => {
  const footprint = [
    { xMm: 0, yMm: 0 },
    { xMm: 2000, yMm: 0 },
    { xMm: 2000, yMm: 1000 },
    { xMm: 1000, yMm: 1000 },
    { xMm: 1000, yMm: 2000 },
    { xMm: 0, yMm: 2000 },
  ];
  const drain = { xMm: 1500, yMm: 500 };
  // Seen from the drain, the line through the inner corner meets the left wall at its height 1500: hidden is the
  // triangle (1000,1000) (1000,2000) (0,2000), so that the drain sees 2.5 of 3 m².
  const volume = must(floodVolume({ footprint, drain, perimeterRiseMm: 30, depthAtDrainMm: 90 }));
  expect(volume.volumeL).toBeCloseTo(2.5 * (90 - 20) + 0.5 * (90 - 30), 6);
  expect(volume.wettedM2).toBeCloseTo(3, 9);
});

const bench = (x: number, w: number, d: number, rest: { onFloor?: boolean; lowMm?: number; highMm?: number } = {}) => ({
  outline: rectangle(w, d).map((p) => ({ xMm: p.xMm + x, yMm: p.yMm })),
  onFloor: true,
  lowMm: 20,
  highMm: 450,
  ...rest,
});

test('a bench on the floor holds no water and has no free surface: a slab of a flat floor, the rest of a cone', () => {
  const room = { footprint: rectangle(1500, 900), drain: { xMm: 750, yMm: 450 } };
  const flat = must(floodVolume({ ...room, perimeterRiseMm: 0, depthAtDrainMm: 80, benches: [bench(0, 300, 900)] }));
  expect(flat.volumeL).toBeCloseTo(1.2 * 0.9 * 80, 6);
  expect(flat.wettedM2).toBeCloseTo(1.2 * 0.9, 9);
  // Over the water of a cone, two benches that meet in the middle leave nothing.
  const halves = [bench(0, 750, 900), bench(750, 750, 900)];
  const none = must(floodVolume({ ...room, perimeterRiseMm: 30, depthAtDrainMm: 20, benches: halves }));
  expect(none.volumeL).toBeCloseTo(0, 1);
  expect(none.wettedM2).toBeCloseTo(0, 2);
});

test('water over a bench stands on its top; under a floating one it stands up to its underside', () => {
  const room = { footprint: rectangle(1000, 1000), drain: { xMm: 500, yMm: 500 }, perimeterRiseMm: 0 };
  const low = must(floodVolume({ ...room, depthAtDrainMm: 100, benches: [bench(0, 200, 1000, { highMm: 60 })] }));
  expect(low.volumeL).toBeCloseTo(100 - 0.2 * 60, 6);
  expect(low.wettedM2).toBeCloseTo(1, 9);
  const floating = bench(0, 200, 1000, { onFloor: false, lowMm: 70, highMm: 120 });
  const under = must(floodVolume({ ...room, depthAtDrainMm: 60, benches: [floating] }));
  expect([under.volumeL, under.wettedM2]).toEqual([60, 1]);
  const half = must(floodVolume({ ...room, depthAtDrainMm: 100, benches: [floating] }));
  expect(half.volumeL).toBeCloseTo(100 - 0.2 * 30, 6);
  expect(half.wettedM2).toBeCloseTo(0.8, 9);
});

test('benches take the same from a level perimeter as from shots of the same floor', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.2, max: 0.8, noNaN: true }),
      fc.double({ min: 100, max: 700, noNaN: true }),
      fc.double({ min: 5, max: 120, noNaN: true }),
      (u, width, depthAtDrainMm) => {
        const footprint = rectangle(1500, 900);
        const flood = {
          footprint,
          drain: { xMm: 1500 * u, yMm: 450 },
          depthAtDrainMm,
          benches: [bench(0, width, 900)],
        };
        const level = must(floodVolume({ ...flood, perimeterRiseMm: 20 }));
        // Both sum over small parts: their error goes by the water before the bench takes its share, not by what it leaves.
        const withoutBench = must(floodVolume({ ...flood, benches: [], perimeterRiseMm: 20 })).volumeL;
        const shot = must(floodVolume({ ...flood, shots: footprint.map((p) => ({ ...p, zMm: 20 })) }));
        expect(Math.abs(level.volumeL - shot.volumeL)).toBeLessThan(0.02 + 0.005 * withoutBench);
      },
    ),
    { numRuns: 25 },
  );
});

test('bad floods are refused by name', () => {
  const footprint = rectangle(1000, 1000);
  const outside = floodVolume({ footprint, drain: { xMm: 2000, yMm: 0 }, perimeterRiseMm: 10, depthAtDrainMm: 50 });
  expect(!outside.ok && outside.problem.code).toBe('drain-outside');
  const neither = floodVolume({ footprint, drain: { xMm: 500, yMm: 500 }, depthAtDrainMm: 50 });
  expect(!neither.ok && neither.problem.field).toBe('shots');
});

test('evaporation of the handbook example, and condensation on cold water', () => {
  const still = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0 };
  expect(evaporationMmPerHour(still) * 24).toBeCloseTo(3.2, 1);
  expect(evaporationMmPerHour(still, 0.5) * 24).toBeCloseTo(1.6, 1);
  expect(evaporationMmPerHour({ waterC: 8, airC: 25, relativeHumidity: 0.7, airSpeedMs: 0 })).toBeLessThan(0);
});

test('1 L/h at 75 mm is a hole of about 0.70 mm (Torricelli), and 101 cups a day', () => {
  const size = must(leakSize({ lossMmPerHour: 0.5, wettedM2: 2, headMm: 75 }));
  expect(size.litresPerHour).toBe(1);
  expect(size.holeMm).toBeCloseTo(0.7, 2);
  expect(size.cupsPerDay).toBeCloseTo(24 / 0.2365882365, 6);
});
