import { saturationPa } from '../cure/air';
import type { Climate } from './floodVerdictInput';

/** kJ/kg to evaporate water at its surface temperature (fit of the steam tables between 0 and 60 °C, value from memory). */
const latentHeatKjPerKg = (waterC: number): number => 2500.8 - 2.36 * waterC;

/** Least and greatest activity factor of a still pool: 0.5 unoccupied, 1 by default [ASHRAE Applications, natatoriums, from memory]. */
export const ACTIVITY_RANGE = [0.5, 1] as const;
/** m/s to each side that an air speed guessed in a bathroom may be off [common practice, no source]. */
export const AIR_SPEED_SPREAD_MS = 0.1;

/**
 * Fall of an open water surface by evaporation, mm per hour: w = (pw − pa)(0.089 + 0.0782 v)/Y kg/(m²·s) with kPa, m/s
 * and kJ/kg, times the activity factor [ASHRAE Applications, natatoriums, from memory]. Below zero when the air is so
 * damp and warm that it condenses on the water.
 */
export function evaporationMmPerHour(climate: Climate, activity = 1): number {
  const { waterC, airC, relativeHumidity, airSpeedMs } = climate;
  const pressureKpa = (saturationPa(waterC) - relativeHumidity * saturationPa(airC)) / 1000;
  const kgPerM2s = (pressureKpa * (0.089 + 0.0782 * airSpeedMs)) / latentHeatKjPerKg(waterC);
  return kgPerM2s * 3600 * activity;
}
