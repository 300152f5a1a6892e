import fc from 'fast-check';
import psychrolib from 'psychrolib';
import { expect, test } from 'vitest';
import { air, saturationPa } from './air';

psychrolib.SetUnitSystem(psychrolib.SI);

test('saturation pressure and dew point match the handbook and the reference library', () => {
  expect(saturationPa(20)).toBeCloseTo(2338.8, 0);
  expect(saturationPa(25)).toBeCloseTo(3169.2, 1);
  const found = air({ temperatureC: 25, relativeHumidity: 0.5 });
  expect(found.ok && found.value.dewPointC).toBeCloseTo(13.86, 2);
  const dry = air({ temperatureC: 23, relativeHumidity: 0.5 });
  expect(dry.ok && dry.value.deficitPa).toBeCloseTo(1405, 0);
  fc.assert(
    fc.property(
      fc.double({ min: -20, max: 60, noNaN: true }),
      fc.double({ min: 0.05, max: 1, noNaN: true }),
      (t, rh) => {
        const answer = air({ temperatureC: t, relativeHumidity: rh });
        if (!answer.ok) throw new Error(answer.problem.code);
        const reference = psychrolib.GetSatVapPres(t);
        expect(Math.abs(answer.value.saturationPa / reference - 1)).toBeLessThan(1e-4);
        expect(answer.value.dewPointC).toBeCloseTo(psychrolib.GetTDewPointFromRelHum(t, rh), 1);
      },
    ),
  );
});

test('humidity in percent and temperatures in °F are refused by name', () => {
  const dry = air({ temperatureC: 20, relativeHumidity: 0 });
  expect(!dry.ok && dry.problem.field).toBe('relativeHumidity');
  const hot = air({ temperatureC: 120, relativeHumidity: 0.5 });
  expect(!hot.ok && hot.problem.field).toBe('temperatureC');
});
