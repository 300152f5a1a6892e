import { type ClimateLog, type ClimateReading, climateLog } from './climateLog';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A day, ms. */
const DAY_MS = 24 * HOUR_MS;
/** Days before now that the days ahead are taken from [common practice, no source]. */
const DAYS_BACK = 3;
/** Days that the air is told ahead: a wait that lasts longer is told with its last day going on. */
export const DAYS_AHEAD = 7;
/** A logger that read fewer hours of the days before tells too little of a night. */
const HOURS_AT_LEAST = 18;

/** The air that is expected on a site, hour by hour, with the coldest and the warmest that the same hour had. */
export interface AirAhead {
  /** As is likely. */
  likely: readonly ClimateReading[];
  /** As cold, and as warm, as the same hour was on any of the days before; the air as damp as is likely. */
  coldest: readonly ClimateReading[];
  warmest: readonly ClimateReading[];
}

/** Hour of the day that a moment lies in; of which clock does not matter where days are compared with days. */
const hourOf = (ms: number): number => Math.floor((ms % DAY_MS) / HOUR_MS);
const mean = (list: readonly number[]): number => list.reduce((sum, x) => sum + x, 0) / list.length;

/**
 * The air of the days ahead from a logger's last three days: each hour as the same hour was, with the coldest and the warmest of
 * them. Null where fewer than 18 hours of a day were read. Never from outside the firm's own readings. `nowMs` in ms since 1970.
 */
export function airAhead(log: ClimateLog, nowMs: number): AirAhead | null {
  const byHour = Array.from({ length: 24 }, () => ({ days: new Map<number, number[]>(), humidity: [] as number[] }));
  for (let k = log.atMs.length - 1; k >= 0 && log.atMs[k]! > nowMs - DAYS_BACK * DAY_MS; k -= 1) {
    const atMs = log.atMs[k]!;
    if (atMs > nowMs) continue;
    const hour = byHour[hourOf(atMs)]!;
    // Days back from now, so that the night behind and the one before it are two nights.
    const day = Math.floor((nowMs - atMs) / DAY_MS);
    hour.days.set(day, [...(hour.days.get(day) ?? []), log.airC[k]!]);
    hour.humidity.push(log.relativeHumidity[k]!);
  }
  const read = byHour.flatMap((h, hour) => (h.days.size > 0 ? [hour] : []));
  if (read.length < HOURS_AT_LEAST) return null;
  const nearest = (hour: number) =>
    read.reduce((a, b) =>
      Math.min((b - hour + 24) % 24, (hour - b + 24) % 24) < Math.min((a - hour + 24) % 24, (hour - a + 24) % 24)
        ? b
        : a,
    );
  const hours = byHour.map((_, hour) => {
    const { days, humidity } = byHour[nearest(hour)]!;
    const means = [...days.values()].map(mean);
    return { likely: mean(means), coldest: Math.min(...means), warmest: Math.max(...means), humidity: mean(humidity) };
  });
  const first = Math.floor(nowMs / HOUR_MS) * HOUR_MS + HOUR_MS;
  const told = (which: 'likely' | 'coldest' | 'warmest') =>
    Array.from({ length: DAYS_AHEAD * 24 }, (_, k): ClimateReading => {
      const atMs = first + k * HOUR_MS;
      const hour = hours[hourOf(atMs)]!;
      return { atMs, airC: hour[which], relativeHumidity: hour.humidity };
    });
  return { likely: told('likely'), coldest: told('coldest'), warmest: told('warmest') };
}

/** A log that goes on with what is expected after its last reading. */
export function logWith(log: ClimateLog, ahead: readonly ClimateReading[]): ClimateLog {
  const lastMs = log.atMs.length > 0 ? log.atMs[log.atMs.length - 1]! : -Infinity;
  const read = Array.from(log.atMs, (atMs, k) => ({
    atMs,
    airC: log.airC[k]!,
    relativeHumidity: log.relativeHumidity[k]!,
  }));
  return climateLog([...read, ...ahead.filter((r) => r.atMs > lastMs)]);
}
