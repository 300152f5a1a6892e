import { saturationPa } from './air';
import type { Forecast } from './cureClock';

/** A surface must lie this far over the dew point before it is coated, °C: 5 °F [common practice, no source]. */
export const OVER_DEW_C = 3;
/** How warm a site is heated to, °C [common practice, no source]. */
export const HEATED_C = 23;
/** Relative humidity that ventilating brings, as a share [common practice, no source]. */
export const VENTILATED = 0.45;

/** What would help a layer: warmer, with the water in the air as it is; or drier. */
export const HELPS = ['heat', 'ventilate'] as const;
/** One of them. */
export type Help = (typeof HELPS)[number];

/** The air after heating or ventilating: heated air holds the same water and is drier for it. */
export function helped({ airC, relativeHumidity, fromMs }: Forecast, help: Help): Forecast {
  if (help === 'ventilate') return { airC, fromMs, relativeHumidity: Math.min(relativeHumidity, VENTILATED) };
  const warm = Math.max(airC, HEATED_C);
  const vapour = relativeHumidity * saturationPa(airC);
  return { airC: warm, fromMs, relativeHumidity: Math.min(1, vapour / saturationPa(warm)) };
}
