import { describe, expect, it } from 'vitest';
import { type Bounds, holdBounds } from '../tests/bounds';
import { saturationPa } from './air';
import { checkClimate } from './climateLog';
import { CureAgeInput, CureTimeInput, cureAge, cureRate, cureTime, siteTemperature } from './cureAge';
import { DryingTimeInput, deficitPa, dryingRate, dryingTime } from './drying';

const settings = { model: 'arrhenius', referenceC: 23, activationK: 5000, datumC: 0 };
const age = { log: [{ hours: 1, temperatureC: 20 }], ...settings };
const time = { needHours: 24, temperatureC: 20, ...settings };
const drying = { labelHours: 12, temperatureC: 20, relativeHumidity: 0.5, wetUm: 500, referenceWetUm: 500 };

const BOUNDS: Bounds[] = [
  ...(['age', 'time'] as const).flatMap((name): Bounds[] => {
    const [schema, sound] = name === 'age' ? ([CureAgeInput, age] as const) : ([CureTimeInput, time] as const);
    return [
      [`cure ${name}`, schema, sound, 'model', ['nurse-saul'], ['guess', undefined]],
      [`cure ${name}`, schema, sound, 'referenceC', [5, 60], [4.9, 60.1, undefined]],
      [`cure ${name}`, schema, sound, 'activationK', [1, 20_000, undefined], [0, 20_001]],
      [`cure ${name}`, schema, sound, 'datumC', [-20, 20, undefined], [-20.1, 20.1]],
    ];
  }),
  ['cure time', CureTimeInput, time, 'needHours', [0, 24], [-0.1, undefined]],
  ['cure time', CureTimeInput, time, 'temperatureC', [-20], ['20', undefined]],
  [
    'cure age',
    CureAgeInput,
    age,
    'log',
    [[{ hours: 0, temperatureC: -5 }]],
    [[], [{ hours: -1, temperatureC: 20 }], [{ hours: 1 }], [{ temperatureC: 20 }]],
  ],
  ['drying', DryingTimeInput, drying, 'labelHours', [0, 12], [-1, undefined]],
  ['drying', DryingTimeInput, drying, 'relativeHumidity', [0, 0.5, 1], [-0.1, 1.1, 50]],
  ['drying', DryingTimeInput, drying, 'wetUm', [1], [0, -1, undefined]],
  ['drying', DryingTimeInput, drying, 'referenceWetUm', [1], [0, undefined]],
  ['drying', DryingTimeInput, drying, 'temperatureC', [-5], [undefined]],
];

describe('what is told of a cure is a figure that can be', () => {
  holdBounds(BOUNDS);

  it('a log is no longer than a year of minutes and some', () => {
    const log = (length: number) => ({ ...age, log: Array.from({ length }, () => ({ hours: 1, temperatureC: 20 })) });
    expect(CureAgeInput.safeParse(log(600_001)).success).toBe(false);
  });
  it('a site is between -40 and 60 °C; what is asked says whether it was °F', () => {
    for (const c of [-40, 0, 60]) expect(siteTemperature(c, 'x')).toEqual({ ok: true, value: c });
    expect(siteTemperature(60.1, 'x')).toMatchObject({
      problem: { code: 'temperature-in-fahrenheit', values: { read: 60.1, celsius: 16 } },
    });
    expect(siteTemperature(-40.1, 'x')).toMatchObject({
      problem: { code: 'temperature-off-site', values: { read: -40.1 } },
    });
    expect(cureTime({ needHours: 1, temperatureC: 92, model: 'arrhenius', referenceC: 23 }).ok).toBe(false);
    expect(dryingTime({ ...drying, temperatureC: 92 })).toMatchObject({
      ok: false,
      problem: { field: 'temperatureC' },
    });
  });
  it('degree-hours count from their datum, above the cold line', () => {
    const nurse = { model: 'nurse-saul', referenceC: 23 } as const;
    expect(cureRate(13, { ...nurse, datumC: 3 })).toBeCloseTo(0.5, 12);
    expect(cureRate(18, { ...nurse, datumC: -10 })).toBeCloseTo(28 / 33, 12);
    expect(cureRate(5, nurse)).toBeCloseTo(5 / 23, 12);
    expect(cureRate(4.99, nurse)).toBe(0);
    const log = [
      { hours: 2, temperatureC: 23 },
      { hours: 3, temperatureC: 200 },
    ];
    expect(cureAge({ log, ...nurse })).toMatchObject({ ok: false, problem: { field: 'log.1.temperatureC' } });
  });
  it('air takes up nothing below 50 Pa of deficit, and beyond the table it is its end', () => {
    const p = saturationPa(20);
    expect(dryingRate(20, 1 - 49.9 / p)).toBe(0);
    expect(dryingRate(20, 1 - 50.1 / p)).toBeGreaterThan(0);
    expect(deficitPa(-60, 0)).toBe(deficitPa(-40, 0));
    expect(deficitPa(99, 0)).toBe(deficitPa(60, 0));
    expect(deficitPa(60, 0)).toBeCloseTo(saturationPa(60), 6);
    expect(deficitPa(-40, 0)).toBeCloseTo(saturationPa(-40), 6);
    expect(deficitPa(59.95, 0)).toBeGreaterThan(deficitPa(59.9, 0));
    expect(dryingTime({ ...drying, relativeHumidity: 0 })).toMatchObject({ ok: true, value: { hours: 12 } });
  });
  it('readings at the ends of what can be are taken; two at one moment are no clock that ran back', () => {
    const at = (atMs: number, relativeHumidity: number) => ({ atMs, airC: 20, relativeHumidity });
    expect(checkClimate([at(0, 0), at(0, 1), at(5, 0.5)]).ok).toBe(true);
    expect(checkClimate([at(0, -0.01)])).toMatchObject({ problem: { field: 'readings.0.relativeHumidity' } });
    const share = checkClimate([at(0, 0.5), at(1, 55)]);
    expect(share).toMatchObject({ problem: { code: 'humidity-impossible', values: { percent: 5500 } } });
    const back = checkClimate([at(0, 0.5), at(9, 0.5), at(8, 0.5)]);
    expect(back).toMatchObject({ problem: { code: 'air-reading-back', values: { reading: 3 } } });
  });
});
