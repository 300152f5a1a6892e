import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { saturationPa } from './air';
import { checkClimate, climateLog } from './climateLog';
import { arrheniusRate, cureAge, cureRate, cureTime, siteTemperature } from './cureAge';
import { type CureLayer, cureBand, cureReady } from './cureClock';
import { deficitPa, dryingRate, dryingTime } from './drying';

const HOUR = 3_600_000;
const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const arrhenius = { model: 'arrhenius', referenceC: 23 } as const;
const cement: CureLayer = { kind: 'cement', laidAtMs: 0, labelHours: 24, model: 'arrhenius', filmRatio: 1 };
const coat: CureLayer = { kind: 'drying', laidAtMs: 0, labelHours: 12, model: 'arrhenius', filmRatio: 1 };
const air = (...rows: [hours: number, airC: number, humidity: number][]) =>
  climateLog(rows.map(([h, airC, relativeHumidity]) => ({ atMs: h * HOUR, airC, relativeHumidity })));

describe('equivalent age of cement', () => {
  // The figures of the page of calculations; worked out again here by the formula written another way.
  it.each([
    [10, 52.1],
    [5, 71.6],
    [15, 38.4],
    [23, 24],
  ])('24 h take longer at %s °C: %s h', (temperatureC, hours) => {
    const found = value(cureTime({ needHours: 24, temperatureC, ...arrhenius })).hours!;
    expect(found).toBeCloseTo(hours, 1);
    const activation = 5000 * 8.314462618; // J/mol
    const [t, ref] = [temperatureC + 273.15, 296.15];
    const slower = Math.exp((activation * (ref - t)) / (8.314462618 * t * ref));
    expect(found).toBeCloseTo(24 * slower, 9);
  });
  it('an hour at 10 °C counts 0.461 h; below 5 °C nothing', () => {
    expect(value(cureAge({ log: [{ hours: 1, temperatureC: 10 }], ...arrhenius })).equivalentHours).toBeCloseTo(
      0.461,
      3,
    );
    expect(value(cureAge({ log: [{ hours: 10, temperatureC: 4.9 }], ...arrhenius })).equivalentHours).toBe(0);
    expect(value(cureTime({ needHours: 24, temperatureC: 4, ...arrhenius })).hours).toBeNull();
  });
  it('says the same in its bare form', () => {
    for (const c of [-10, 4.99, 5, 12.3, 23, 41]) expect(arrheniusRate(c)).toBe(cureRate(c, arrhenius));
  });
  it('counts degree-hours in the other school', () => {
    const nurse = { model: 'nurse-saul', referenceC: 23 } as const;
    expect(value(cureAge({ log: [{ hours: 10, temperatureC: 11.5 }], ...nurse })).equivalentHours).toBeCloseTo(5, 9);
    expect(cureRate(8, { ...nurse, datumC: 10 })).toBe(0);
  });
  it('asks about 92 °C on site and tells what it is in °F', () => {
    const asked = siteTemperature(92, 'airC');
    const values = { read: 92, celsius: 33 };
    expect(asked).toEqual({ ok: false, problem: { field: 'airC', code: 'temperature-in-fahrenheit', values } });
    expect(cureAge({ log: [{ hours: 1, temperatureC: 92 }], ...arrhenius }).ok).toBe(false);
  });
});

describe('drying', () => {
  it('reads its table as the formula says, to a ten-thousandth', () => {
    fc.assert(
      fc.property(fc.double({ min: -20, max: 59, noNaN: true }), (c) => {
        const p = saturationPa(c);
        expect(Math.abs(deficitPa(c, 0) - p) / p).toBeLessThan(1e-4);
      }),
    );
  });
  it('takes the label’s hours in the air that they are meant for, longer in damp air, never less', () => {
    const label = { labelHours: 12, wetUm: 500, referenceWetUm: 500 };
    expect(value(dryingTime({ ...label, temperatureC: 23, relativeHumidity: 0.5 })).hours).toBeCloseTo(12, 3);
    expect(value(dryingTime({ ...label, temperatureC: 35, relativeHumidity: 0.1 })).hours).toBe(12);
    expect(value(dryingTime({ ...label, temperatureC: 5, relativeHumidity: 0.3 })).hours).toBeGreaterThan(20);
    expect(value(dryingTime({ ...label, temperatureC: 4.9, relativeHumidity: 0.3 })).hours).toBeNull();
    expect(value(dryingTime({ ...label, temperatureC: 23, relativeHumidity: 0.75 })).hours).toBeCloseTo(24, 2);
    expect(value(dryingTime({ ...label, wetUm: 1000, temperatureC: 23, relativeHumidity: 0.5 })).hours).toBeCloseTo(
      24,
      2,
    );
    expect(value(dryingTime({ ...label, temperatureC: 15, relativeHumidity: 0.98 })).hours).toBeNull();
    expect(dryingRate(23, 1)).toBe(0);
  });
});

describe('the cure clock', () => {
  it('is the label where nobody read the air', () => {
    expect(cureReady(cement, air())).toMatchObject({ readyAtMs: 24 * HOUR, decides: 'label', read: false });
  });
  it('moves with a cold night, and says that the cold decided', () => {
    const ready = cureReady(cement, air([0, 20, 0.5], [2, 20, 0.5], [4, 8, 0.6], [6, 8, 0.6], [30, 8, 0.6]));
    expect(ready.decides).toBe('cold');
    expect(ready.readyAtMs!).toBeGreaterThan(45 * HOUR);
    expect(ready.bridgedHours).toBe(24);
    expect(ready.assumedHours).toBeCloseTo(ready.readyAtMs! / HOUR - 30, 6);
  });
  it('comes to the same as the age of the log where the log covers it all', () => {
    const rows = Array.from({ length: 60 }, (_, h): [number, number, number] => [h, 12 + 6 * Math.sin(h / 4), 0.5]);
    const ready = cureReady(cement, air(...rows)).readyAtMs! / HOUR;
    let age = 0;
    for (let h = 0; h < 59; h += 1) {
      const rate = (cureRate(rows[h]![1], arrhenius) + cureRate(rows[h + 1]![1], arrhenius)) / 2;
      if (age + rate >= 24) return expect(ready).toBeCloseTo(h + (24 - age) / rate, 6);
      age += rate;
    }
    expect.unreachable();
  });
  it('has no end in sight in frost or in air that is full', () => {
    expect(cureReady(cement, air([0, 2, 0.5])).readyAtMs).toBeNull();
    expect(cureReady(coat, air([0, 18, 0.99]))).toMatchObject({ readyAtMs: null, decides: 'damp' });
  });
  it('blames the film only where the air alone would have kept the label’s hours', () => {
    const thick = { ...coat, filmRatio: 2 };
    expect(cureReady(thick, air([0, 23, 0.5], [30, 23, 0.5])).decides).toBe('film');
    expect(cureReady(thick, air([0, 15, 0.8], [30, 15, 0.8])).decides).toBe('damp');
  });
  it('lets the last reading go on until the air is expected otherwise', () => {
    const log = air([0, 23, 0.75]);
    const later = cureReady(coat, log, { airC: 23, relativeHumidity: 0.5, fromMs: 12 * HOUR }).readyAtMs! / HOUR;
    expect(later).toBeCloseTo(12 + 6, 1);
    expect(cureReady(coat, log, { airC: 23, relativeHumidity: 0.5 }).readyAtMs! / HOUR).toBeCloseTo(12, 1);
  });
  it('lets a sealant cure by its label in any air', () => {
    expect(cureReady({ ...cement, kind: 'sealant', labelHours: 1 }, air([0, 2, 0.9])).readyAtMs).toBe(HOUR);
  });
  it('gives a band that holds the middle, the warm side first', () => {
    const log = air([0, 12, 0.5]);
    const forecast = { airC: 12, relativeHumidity: 0.5 };
    const middle = cureReady(cement, log, forecast).readyAtMs!;
    const { earliestMs, latestMs } = cureBand(cement, log, forecast, 3);
    expect(earliestMs!).toBeLessThan(middle);
    expect(latestMs!).toBeGreaterThan(middle);
  });
  it('is never sooner than the label, and colder air never makes it sooner', () => {
    const rows = fc.array(
      fc.record({ h: fc.integer({ min: 0, max: 80 }), c: fc.double({ min: -5, max: 40, noNaN: true }) }),
      { minLength: 1, maxLength: 30 },
    );
    fc.assert(
      fc.property(
        rows,
        fc.constantFrom(cement, coat),
        fc.double({ min: 0, max: 8, noNaN: true }),
        (list, layer, by) => {
          const log = (less: number) =>
            climateLog(list.map(({ h, c }) => ({ atMs: h * HOUR, airC: c - less, relativeHumidity: 0.5 })));
          const [warm, cold] = [cureReady(layer, log(0)).readyAtMs, cureReady(layer, log(by)).readyAtMs];
          if (warm !== null) expect(warm).toBeGreaterThanOrEqual(layer.labelHours * HOUR - 1e-3);
          expect(cold ?? Infinity).toBeGreaterThanOrEqual((warm ?? Infinity) - 1);
        },
      ),
    );
  });
});

describe('readings of the air', () => {
  it('are refused where no site has them, or where the clock ran back', () => {
    const at = (atMs: number, airC: number, relativeHumidity: number) => ({ atMs, airC, relativeHumidity });
    expect(checkClimate([at(0, 20, 0.5), at(1, 92, 0.5)])).toMatchObject({ problem: { field: 'readings.1.airC' } });
    expect(checkClimate([at(0, 20, 50)])).toMatchObject({ problem: { field: 'readings.0.relativeHumidity' } });
    expect(checkClimate([at(5, 20, 0.5), at(4, 20, 0.5)])).toMatchObject({ problem: { field: 'readings.1.atMs' } });
    expect(checkClimate([at(0, 20, 0.5)]).ok).toBe(true);
  });
  it('are sorted, and of two at one moment the later counts', () => {
    const log = climateLog([
      { atMs: 5, airC: 1, relativeHumidity: 0.1 },
      { atMs: 1, airC: 2, relativeHumidity: 0.2 },
      { atMs: 5, airC: 3, relativeHumidity: 0.3 },
    ]);
    expect([...Array.from(log.airC)]).toEqual([2, 3]);
  });
});
