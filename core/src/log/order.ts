import type { Entry } from './entry';

/** Digits of the milliseconds, so that text sorts like time. */
const MS_DIGITS = 15;
/** Digits of the counter within a millisecond. */
const COUNT_DIGITS = 6;

/** A hybrid logical clock reading as sortable text. */
export function orderAtOf(ms: number, count: number): string {
  return `${String(ms).padStart(MS_DIGITS, '0')}-${String(count).padStart(COUNT_DIGITS, '0')}`;
}

/**
 * The next reading: the wall clock, but never at or below anything seen for this shower, whatever the clock says.
 * `lastSeen` is the highest orderAt known, or null.
 */
export function nextOrderAt(lastSeen: string | null, nowMs: number): string {
  if (lastSeen === null) return orderAtOf(nowMs, 0);
  const [ms, count] = lastSeen.split('-').map(Number) as [number, number];
  return nowMs > ms ? orderAtOf(nowMs, 0) : orderAtOf(ms, count + 1);
}

/** The one order of entries: (orderAt, deviceId, deviceSeq), independent of arrival. */
export function compareEntries(a: Entry, b: Entry): number {
  if (a.orderAt !== b.orderAt) return a.orderAt < b.orderAt ? -1 : 1;
  if (a.deviceId !== b.deviceId) return a.deviceId < b.deviceId ? -1 : 1;
  return a.deviceSeq - b.deviceSeq;
}

/** The wall clock part of an orderAt, ms since 1970. */
export function orderMs(orderAt: string): number {
  return Number(orderAt.slice(0, MS_DIGITS));
}
