import { createEvents, type EventAttributes } from 'ics';

/** A visit as a calendar has it. */
export interface FloodVisit {
  /** The same for the same visit, so that a changed one replaces it. */
  uid: string;
  title: string;
  description: string;
  location: string;
  /** ms since 1970 */
  startMs: number;
  /** When it ends, ms since 1970. */
  endMs: number;
  /** Minutes before the start at which to be reminded; without it nobody is. */
  remindMinutes?: number;
  /** How often it was changed since it was told first; 0 without it. */
  sequence?: number;
  /** It was told, and is not any more. */
  isCancelled?: boolean;
}

/** A moment in the parts that a calendar writes. */
const utc = (ms: number): [number, number, number, number, number] => {
  const d = new Date(ms);
  return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()];
};

/** A calendar file (RFC 5545) with the times at which a flood must be read. Times are UTC; the calendar shows local ones. `name` is the calendar's. */
export function floodCalendar(visits: readonly FloodVisit[], name: string, nowMs: number): string {
  const events: EventAttributes[] = visits.map((v) => ({
    uid: v.uid,
    productId: 'careful-seam',
    calName: name,
    title: v.title,
    description: v.description,
    location: v.location,
    start: utc(v.startMs),
    startInputType: 'utc',
    startOutputType: 'utc',
    end: utc(v.endMs),
    endInputType: 'utc',
    endOutputType: 'utc',
    created: utc(nowMs),
    busyStatus: 'BUSY',
    sequence: v.sequence ?? 0,
    status: v.isCancelled ? 'CANCELLED' : 'CONFIRMED',
    ...(v.remindMinutes === undefined || v.isCancelled
      ? {}
      : {
          alarms: [
            {
              action: 'display' as const,
              description: v.title,
              trigger: { minutes: v.remindMinutes, before: true },
            },
          ],
        }),
  }));
  const { error, value } = createEvents(events);
  if (error || typeof value !== 'string') throw error ?? new Error('the calendar is empty');
  return value;
}
