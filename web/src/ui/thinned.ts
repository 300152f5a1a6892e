/** A series in one entry has at most so many readings. */
export const READINGS_AT_MOST = 25_000;

/** Keeps at most so many readings, evenly taken. */
export function thinned<T>(readings: readonly T[]): T[] {
  const step = Math.ceil(readings.length / READINGS_AT_MOST);
  return readings.filter((_, i) => i % step === 0);
}

/** Rounds to so many decimal places. */
export const round = (x: number, places: number): number => Math.round(x * 10 ** places) / 10 ** places;
