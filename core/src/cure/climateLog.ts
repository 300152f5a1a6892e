import { done, type Outcome, refuse } from '../outcome/outcome';
import { siteTemperature } from './cureAge';

/** Temperature and humidity on site as they were read, in the order of time: ms since 1970, °C, shares. */
export interface ClimateLog {
  /** Moments in their order, ms since 1970. */
  atMs: ArrayLike<number>;
  /** Temperature at each of them, °C. */
  airC: ArrayLike<number>;
  /** Share of what the air could hold at each of them, 0 to 1. */
  relativeHumidity: ArrayLike<number>;
}

/** One reading by hand, or of a series. */
export interface ClimateReading {
  /** When, ms since 1970. */
  atMs: number;
  /** Temperature of the air, °C. */
  airC: number;
  /** Share of what the air could hold, 0 to 1. */
  relativeHumidity: number;
}

/** Readings as a log: sorted, of two at one moment the later one. */
export function climateLog(readings: readonly ClimateReading[]): ClimateLog {
  const sorted = [...readings].sort((a, b) => a.atMs - b.atMs);
  const kept = sorted.filter((r, i) => sorted[i + 1]?.atMs !== r.atMs);
  return {
    atMs: Float64Array.from(kept, (r) => r.atMs),
    airC: Float64Array.from(kept, (r) => r.airC),
    relativeHumidity: Float64Array.from(kept, (r) => r.relativeHumidity),
  };
}

/** Refuses readings that no site has, or that run backwards in time, with the reading's number. */
export function checkClimate(readings: readonly ClimateReading[]): Outcome<readonly ClimateReading[]> {
  for (const [i, r] of readings.entries()) {
    const warm = siteTemperature(r.airC, `readings.${i}.airC`);
    if (!warm.ok) return warm;
    if (!(r.relativeHumidity >= 0 && r.relativeHumidity <= 1))
      return refuse('humidity-impossible', `readings.${i}.relativeHumidity`, {
        percent: Math.round(r.relativeHumidity * 100),
      });
    if (i > 0 && r.atMs < readings[i - 1]!.atMs)
      return refuse('air-reading-back', `readings.${i}.atMs`, { reading: i + 1 });
  }
  return done(readings);
}
