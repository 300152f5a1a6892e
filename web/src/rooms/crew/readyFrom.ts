import { addDaysTo, atHour, dayAt } from '@careful-seam/core/plan/workCalendar';

/** From when on a crew wants to be looked at: now, in some hours, or the next morning. */
export const READY_FROM = ['now', 'one', 'two', 'four', 'morning'] as const;
/** One of them. */
export type ReadyFrom = (typeof READY_FROM)[number];

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Crews begin at this hour [common practice, no source]. */
const MORNING = 7;
/** Hours from now. */
const HOURS: Readonly<Record<Exclude<ReadyFrom, 'now' | 'morning'>, number>> = { one: 1, two: 2, four: 4 };

/** The moment as it is written down; null for now. `nowMs` in ms since 1970, `zone` that of the site. */
export function readyAtOf(from: ReadyFrom, nowMs: number, zone: string): string | null {
  if (from === 'now') return null;
  const ms =
    from === 'morning' ? atHour(zone, addDaysTo(dayAt(zone, nowMs), 1), MORNING) : nowMs + HOURS[from] * HOUR_MS;
  return new Date(ms).toISOString();
}
