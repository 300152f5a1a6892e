import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { degreesC, hoursSince } from '../units/bounded';
import { saturationPa } from './air';
import { REFERENCE_C, siteTemperature } from './cureAge';

/** Air that a label's drying hours are taken to mean: 23 °C and half saturated, 1405 Pa of deficit [common practice, no source]. */
export const REFERENCE_HUMIDITY = 0.5;
/** Below this the air takes up next to nothing, Pa: a closed, wet bathroom [common practice, no source]. */
export const LEAST_DEFICIT_PA = 50;

/** Under this a liquid coat forms no film, however long it lies, °C [common practice, no source; the label comes first]. */
export const COLDEST_FILM_C = 5;

/** Colder air is taken as this, °C. */
const COLDEST_C = -40;
/** Warmer air is taken as this, °C. */
const WARMEST_C = 60;
/** Steps of the table of vapour pressures in a degree. */
const STEPS_PER_C = 10;
/** Saturation pressure every tenth of a degree: a year of minutes is looked up, not computed. Within 0.01 % of the formula. */
const TABLE = Float64Array.from({ length: (WARMEST_C - COLDEST_C) * STEPS_PER_C + 2 }, (_, k) =>
  saturationPa(COLDEST_C + k / STEPS_PER_C),
);

/** What air (°C, share) can still take up, Pa; temperatures beyond -40 and 60 °C count as these. */
export function deficitPa(temperatureC: number, relativeHumidity: number): number {
  const inside = temperatureC < COLDEST_C ? COLDEST_C : temperatureC > WARMEST_C ? WARMEST_C : temperatureC;
  const at = (inside - COLDEST_C) * STEPS_PER_C;
  const k = at | 0;
  const saturated = TABLE[k]! + (TABLE[k + 1]! - TABLE[k]!) * (at - k);
  return saturated * (1 - relativeHumidity);
}

/** How strongly the air of a label dries, Pa. */
const REFERENCE_PA = saturationPa(REFERENCE_C) * (1 - REFERENCE_HUMIDITY);

/** What an hour in this air counts towards a label's drying hours; nothing in the cold or where the air is as good as saturated. */
export function dryingRate(temperatureC: number, relativeHumidity: number, filmRatio = 1): number {
  if (temperatureC < COLDEST_FILM_C) return 0;
  const deficit = deficitPa(temperatureC, relativeHumidity);
  return deficit < LEAST_DEFICIT_PA ? 0 : deficit / REFERENCE_PA / filmRatio;
}

/** A water-borne film's label, and the air and film that it really has. */
export const DryingTimeInput = z.object({
  labelHours: hoursSince,
  temperatureC: degreesC,
  relativeHumidity: z.number().min(0).max(1),
  /** Wet film as it was laid, and the one that the label's hours are meant for, µm. */
  wetUm: z.number().positive().max(10_000_000),
  referenceWetUm: z.number().positive().max(10_000_000),
});

/**
 * Hours until a coat is dry: the label's hours times the deficit they are meant for over the one there is, times the
 * film; never under the label's hours. Null where the air takes up next to nothing or under 5 °C: ventilate, heat. [own form; the vapour
 * pressure deficit as the driving force of drying is any handbook's]
 */
export function dryingTime(
  input: z.infer<typeof DryingTimeInput>,
): Outcome<{ hours: number | null; deficitPa: number }> {
  const { labelHours, temperatureC, relativeHumidity, wetUm, referenceWetUm } = input;
  const read = siteTemperature(temperatureC, 'temperatureC');
  if (!read.ok) return read;
  const rate = dryingRate(temperatureC, relativeHumidity, wetUm / referenceWetUm);
  const hours = rate > 0 ? Math.max(labelHours, labelHours / rate) : null;
  return done({ hours, deficitPa: deficitPa(temperatureC, relativeHumidity) });
}
