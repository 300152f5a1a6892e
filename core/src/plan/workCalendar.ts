import { tzOffset } from '@date-fns/tz';
import { z } from 'zod';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A day, ms. */
const DAY_MS = 24 * HOUR_MS;
/** No plan reaches further than this, days: what would is no plan any more. */
const HORIZON_DAYS = 3 * 366;

/** Days before its beginning that a reckoning of work knows. */
const DAYS_BACK = 14;

/** True for a zone of the IANA list that this machine knows. */
export const isZone = (zone: string): boolean => Number.isFinite(tzOffset(zone, new Date(0)));

/** On which days and between which hours people work. */
export const WorkCalendar = z
  .object({
    /** IANA zone of the site. */
    timeZone: z.string().max(60).refine(isZone, 'time-zone-unknown').default('UTC'),
    /** Days of the week, 1 Monday to 7 Sunday. */
    workdays: z.array(z.number().int().min(1).max(7)).min(1).max(7).default([1, 2, 3, 4, 5]),
    /** Hours of the day at which work begins and ends [common practice, no source]. */
    fromHour: z.number().min(0).max(24).default(7),
    toHour: z.number().min(0).max(24).default(15.5),
    /** ISO days on which nobody works. */
    holidays: z.array(z.iso.date()).max(1000).default([]),
  })
  .refine((c) => c.toHour - c.fromHour >= 0.5, { path: ['toHour'], message: 'hours-reversed' });
/** On which days and between which hours people work. */
export type WorkCalendar = z.infer<typeof WorkCalendar>;

/** The hours that a firm keeps, in a zone, without somebody's own days off. */
export const calendarIn = (
  hours: Pick<WorkCalendar, 'workdays' | 'fromHour' | 'toHour' | 'holidays'>,
  timeZone: string,
  away: readonly string[] = [],
): WorkCalendar => {
  const { workdays, fromHour, toHour, holidays } = hours;
  return { timeZone, workdays, fromHour, toHour, holidays: [...holidays, ...away] };
};

/** A stretch of a day in which people work, ms since 1970. */
export interface Shift {
  /** ISO day at the site. */
  day: string;
  /** When it begins, ms since 1970. */
  fromMs: number;
  /** When it ends, ms since 1970. */
  toMs: number;
}

/** Reckons with hours in which people work. Moments in ms since 1970; `Infinity` where a moment lies beyond the horizon of three years. */
export interface WorkTime {
  /** The first moment from one on at which people work. */
  nextWork: (ms: number) => number;
  /** When so many hours of work are done that are begun as soon as people work; the moment itself for none. */
  addWork: (ms: number, hours: number) => number;
  /** When they must be begun at the latest to be done by a moment; the moment itself for none. */
  backWork: (ms: number, hours: number) => number;
  /** Hours of work between two moments; 0 where they are reversed. */
  hoursBetween: (fromMs: number, toMs: number) => number;
  /** The day of work that a moment lies in, or the next one; null beyond the horizon. */
  shiftAt: (ms: number) => Shift | null;
  /** Days of work from the one of a moment to the one of another, both counted. */
  daysBetween: (fromMs: number, toMs: number) => number;
}

/**
 * The moment at which a clock on the wall of a zone shows an hour of a day, ms since 1970. An hour that the clock leaves out is
 * the one that comes after; of an hour that it shows twice the first.
 */
export function atHour(zone: string, day: string, hour: number): number {
  const wall = Date.parse(`${day}T00:00:00Z`) + hour * HOUR_MS;
  const offset = (ms: number) => tzOffset(zone, new Date(ms)) * 60_000;
  // The clock of the day before and of the day after: between them it changes once at most.
  const [before, after] = [offset(wall - DAY_MS), offset(wall + DAY_MS)];
  const shows = [wall - before, wall - after].filter((ms) => ms + offset(ms) === wall);
  return shows.length > 0 ? Math.min(...shows) : wall - before;
}

/** ISO day at a site, of a moment. */
export const dayAt = (zone: string, ms: number): string =>
  new Date(ms + tzOffset(zone, new Date(ms)) * 60_000).toISOString().slice(0, 10);

/** The day after an ISO day, or so many days after it. */
export const addDaysTo = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

/** Day of the week of an ISO day, 1 Monday to 7 Sunday. */
export const weekdayOf = (day: string): number => ((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7) + 1;

/** The hours of a day in which people work; null on a day off. */
export function shiftOf(calendar: WorkCalendar, day: string): Shift | null {
  if (!calendar.workdays.includes(weekdayOf(day)) || calendar.holidays.includes(day)) return null;
  const { timeZone, fromHour, toHour } = calendar;
  const [fromMs, toMs] = [atHour(timeZone, day, fromHour), atHour(timeZone, day, toHour)];
  return toMs > fromMs ? { day, fromMs, toMs } : null;
}

/** First place of a growing list of numbers whose value is greater than one asked for. */
function firstOver(length: number, valueAt: (k: number) => number, value: number): number {
  let [low, high] = [0, length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (valueAt(middle) <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Reckoning with the work of a calendar from two weeks before `sinceMs` on, so that what was forgotten has its day too. Days are put together as far as they are asked for,
 * three years at most.
 */
export function workTime(calendar: WorkCalendar, sinceMs: number): WorkTime {
  const shifts: Shift[] = [];
  /** Work before each shift, ms; one more than there are shifts. */
  const before: number[] = [0];
  let day = addDaysTo(dayAt(calendar.timeZone, sinceMs), -DAYS_BACK);
  let looked = 0;
  const grow = (): boolean => {
    if (looked >= HORIZON_DAYS) return false;
    const shift = shiftOf(calendar, day);
    if (shift) {
      shifts.push(shift);
      before.push(before.at(-1)! + shift.toMs - shift.fromMs);
    }
    day = addDaysTo(day, 1);
    looked += 1;
    return true;
  };
  const reach = (isThere: () => boolean): boolean => {
    while (!isThere()) if (!grow()) return false;
    return true;
  };
  /** Place of the shift that ends after a moment; the number of shifts where none does. */
  const shiftAfter = (ms: number): number => {
    reach(() => (shifts.at(-1)?.toMs ?? -Infinity) > ms);
    return firstOver(shifts.length, (k) => shifts[k]!.toMs, ms);
  };
  /** Work done by a moment, ms. */
  const doneBy = (ms: number): number => {
    const k = shiftAfter(ms);
    const shift = shifts[k];
    return before[k]! + (shift ? Math.max(0, ms - shift.fromMs) : 0);
  };
  const nextWork = (ms: number): number => {
    const shift = shifts[shiftAfter(ms)];
    return shift ? Math.max(ms, shift.fromMs) : Infinity;
  };
  const addWork = (ms: number, hours: number): number => {
    if (hours <= 0 || ms === Infinity) return ms;
    const need = doneBy(ms) + hours * HOUR_MS;
    if (!reach(() => before.at(-1)! >= need)) return Infinity;
    // The first shift at whose end enough is done.
    const k = firstOver(before.length, (i) => before[i]!, need - 1e-6) - 1;
    return shifts[k]!.fromMs + need - before[k]!;
  };
  const backWork = (ms: number, hours: number): number => {
    if (hours <= 0) return ms;
    const need = doneBy(ms) - hours * HOUR_MS;
    if (need < 0) return -Infinity;
    const k = firstOver(before.length, (i) => before[i]!, need + 1e-6) - 1;
    const shift = shifts[k];
    return shift ? shift.fromMs + Math.max(0, need - before[k]!) : ms;
  };
  return {
    nextWork,
    addWork,
    backWork,
    hoursBetween: (fromMs, toMs) => (toMs > fromMs ? (doneBy(toMs) - doneBy(fromMs)) / HOUR_MS : 0),
    shiftAt: (ms) => shifts[shiftAfter(ms)] ?? null,
    daysBetween: (fromMs, toMs) => {
      const last = shiftAfter(toMs);
      // What ends with a day, or in the night after it, belongs to that day.
      const to = shifts[last] && toMs > shifts[last].fromMs ? last : last - 1;
      return Math.max(0, to - shiftAfter(fromMs) + 1);
    },
  };
}
