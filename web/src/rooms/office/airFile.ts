import { HOURS_AHEAD, type ShowerPlanSet } from '@careful-seam/contract/api/plan';
import type { ClimateReading } from '@careful-seam/core/cure/climateLog';
import { done, type Outcome } from '@careful-seam/core/outcome/outcome';
import { guessClimate, readClimate } from '@careful-seam/files/climateCsv';
import { readLoggerTable } from '@careful-seam/files/loggerCsv';
import { refuse } from '@careful-seam/words/errors/errors';

/** An hour, ms. */
const HOUR_MS = 3_600_000;

/** The air ahead as a file told it. */
export interface AirFile {
  hours: readonly ClimateReading[];
  /** Lines that could not be read. */
  leftOut: number;
}

/** Reads a table of the air ahead (CSV: time, temperature, humidity): one reading an hour from now on, two weeks at most. */
export async function readAirFile(file: File, nowMs: number): Promise<Outcome<AirFile>> {
  const table = readLoggerTable(await file.text());
  if (!table.ok) return table;
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const read = readClimate(table.value, guessClimate(table.value, zone, nowMs));
  if (!read.ok) return read;
  const byHour = new Map<number, ClimateReading>();
  for (const r of read.value.readings) {
    const hour = Math.floor(r.atMs / HOUR_MS);
    if (r.atMs > nowMs && !byHour.has(hour)) byHour.set(hour, r);
  }
  const hours = [...byHour.values()].slice(0, HOURS_AHEAD);
  return hours.length > 0 ? done({ hours, leftOut: read.value.leftOut }) : refuse('air-not-ahead', 'file');
}

/** What is expected: the file where there is one, else what was typed; null for neither. */
export function airOf(typed: { airC: string; humidity: string }, file: AirFile | null): ShowerPlanSet['air'] {
  const first = file?.hours[0];
  if (file && first)
    return { airC: first.airC, relativeHumidity: first.relativeHumidity, hours: file.hours.map((r) => ({ ...r })) };
  if (typed.airC === '') return null;
  return { airC: Number(typed.airC), relativeHumidity: Number(typed.humidity || 50) / 100 };
}
