import { NO_PLAN_SET, type PlanBook } from '@careful-seam/contract/api/plan';
import type { ShowerAhead } from '@careful-seam/core/plan/ahead';
import type { DayRoute } from '@careful-seam/core/plan/dayRoute';
import { type InspectorDay, inspectorDay, movedTo, type Price } from '@careful-seam/core/plan/inspectorDay';
import { planShowers } from '@careful-seam/core/plan/planOf';
import { waysOf } from '@careful-seam/core/plan/travel';
import { calendarIn, workTime } from '@careful-seam/core/plan/workCalendar';

/** What a day is planned from: showers as their entries tell, what the firm set, and what this person did. */
export interface PlanAsked {
  showers: readonly ShowerAhead[];
  book: PlanBook;
  /** Zone of the inspector's hours. */
  timeZone: string;
  /** ISO days off of this person. */
  away: readonly string[];
  /** Now, ms since 1970. */
  nowMs: number;
  /** Showers that the office set on one of these days. */
  visits: readonly string[];
  /** The job where this person is; null at the beginning of the day. */
  at: string | null;
  /** Stops with a place of their own. */
  pins: Readonly<Record<string, number>>;
  /** The order that those places are counted in. */
  pinnedIn: readonly string[];
  /** A later day is planned, from this moment on, ms since 1970: what is done before it is left out. Null: from now on. */
  laterMs: number | null;
}

/** This person's way through the day and the next; of a later day without what is done before it. */
export function planDay(asked: PlanAsked): InspectorDay {
  const { laterMs } = asked;
  const now = planFrom(asked);
  if (laterMs === null) return now;
  const before = new Set(now.route.order.filter((_, k) => now.route.begins[k]! < laterMs));
  const left = asked.showers.filter((s) => !before.has(s.id));
  return planFrom({ ...asked, showers: left, nowMs: Math.max(laterMs, asked.nowMs), at: null });
}

/** The way from a moment on. */
function planFrom({ showers, book, timeZone, away, nowMs, visits, at, pins, pinnedIn }: PlanAsked): InspectorDay {
  const { stageHours, weights } = book.settings;
  const calendar = calendarIn(book.settings, timeZone);
  const planned = planShowers(
    showers,
    { calendar, stageHours, looked: book.looked },
    (id) => book.showers[id] ?? NO_PLAN_SET,
    nowMs,
  );
  return inspectorDay({
    planned,
    work: workTime(calendarIn(book.settings, timeZone, away), nowMs),
    nowMs,
    visits: new Set(visits),
    at,
    ways: waysOf(book),
    weights,
    pins,
    pinnedIn,
  });
}

/** The way with one stop elsewhere, and its price. */
export function moveStop(asked: PlanAsked, id: string, place: number): { route: DayRoute; price: Price } {
  return movedTo(planDay(asked), id, place);
}
