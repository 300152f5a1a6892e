import type { DeviceQuantity } from '@careful-seam/contract/api/devices';
import type { Measured } from './senml';

/** Smaller times are counted from now [RFC 8428, 4.5.3]: 2^28 s. */
const RELATIVE_BELOW_S = 268_435_456;
/** An instrument whose newest reading lies so far ahead has a wrong clock, ms. */
const AHEAD_MS = 2 * 60_000;
/** Nobody's readings are older: an instrument that lost its clock begins at its maker's first day, ms [own choice: a year]. */
const OLDEST_MS = 366 * 86_400_000;

/** A reading of an instrument as it is kept. */
export interface DeviceReading {
  of: DeviceQuantity;
  /** ms since 1970. */
  atMs: number;
  value: number;
}

const TO_MM: Readonly<Record<string, number>> = { m: 1000, cm: 10, mm: 1 };

/** The adapter: what a record of a pack measures, in this program's units; null for what nobody here knows. A real instrument that names its readings otherwise is told here. */
export function readingOf({ name, unit, value }: Measured): Pick<DeviceReading, 'of' | 'value'> | null {
  if (value === null || !Number.isFinite(value)) return null;
  const last = name.split(/[:/]/).at(-1) ?? '';
  const mm = unit !== null && Object.hasOwn(TO_MM, unit) ? TO_MM[unit]! : null;
  if (last === 'level' && mm !== null) return { of: 'level', value: value * mm };
  if (last === 'pan' && mm !== null) return { of: 'pan', value: value * mm };
  if (last === 'temperature' && unit === 'Cel') return { of: 'temperature', value };
  if (last === 'temperature' && unit === 'K') return { of: 'temperature', value: value - 273.15 };
  if (last === 'humidity' && unit === '%RH') return { of: 'humidity', value: value / 100 };
  // A moisture meter that says no scale says nothing: only shares are read.
  if (last === 'moisture' && (unit === '%' || unit === '/'))
    return { of: 'moisture', value: unit === '/' ? value * 100 : value };
  if (last === 'battery' && unit === '%EL') return { of: 'battery', value };
  return null;
}

/** What a pack holds, with its clock put right: readings, how many records were left, by how much the clock was off, ms. */
export function deviceReadings(
  pack: readonly Measured[],
  nowMs: number,
): { readings: DeviceReading[]; left: number; shiftedMs: number } {
  const found = pack.flatMap((m) => {
    const reading = readingOf(m);
    if (!reading) return [];
    const atMs = Math.abs(m.timeS) < RELATIVE_BELOW_S ? nowMs + m.timeS * 1000 : m.timeS * 1000;
    return [{ ...reading, atMs: Math.round(atMs) }];
  });
  const newest = Math.max(...found.map((r) => r.atMs));
  const isWrong = found.length > 0 && (newest > nowMs + AHEAD_MS || newest < nowMs - OLDEST_MS);
  const shiftedMs = isWrong ? Math.round(nowMs - newest) : 0;
  return {
    readings: found.map((r) => ({ ...r, atMs: r.atMs + shiftedMs })),
    left: pack.length - found.length,
    shiftedMs,
  };
}
