import { type ShowerAhead, showerAhead } from '@careful-seam/core/plan/ahead';
import type { InspectorDay } from '@careful-seam/core/plan/inspectorDay';
import { addDaysTo, atHour, calendarIn, dayAt, workTime } from '@careful-seam/core/plan/workCalendar';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type LocalShower, useParts } from '../../tablet/store';
import { pinsOf, useDayPins } from './dayPins';
import type { PlanAsked } from './planDay';
import { planWork } from './planWork';

/** What was worked out is good for so long, ms: the clock alone moves it on by no more than the plan itself does. */
const GOOD_FOR_MS = 10 * 60_000;

/** A plan that is not there by then is not waited for, ms. */
const ANSWERS_MS = 10_000;

/** What changes within so long is planned together, ms. */
const TOGETHER_MS = 120;

/** What showers have ahead, by their entries: one that nobody wrote to is not worked out again every minute. */
const known = new Map<string, { key: string; ahead: ShowerAhead | null }>();

/** What a shower has ahead. */
function aheadOf(
  { id, entries, state }: LocalShower,
  air: PlanAsked['book']['showers'][string]['air'],
): ShowerAhead | null {
  const key = JSON.stringify([
    entries.length,
    entries.at(-1)?.hash,
    state.rules?.book.title,
    Math.floor(state.clockMs / GOOD_FOR_MS),
    air,
  ]);
  const found = known.get(id);
  if (found?.key === key) return found.ahead;
  const ahead = showerAhead(state, id, air);
  known.set(id, { key, ahead });
  return ahead;
}

/** The job where a person wrote last on a day; null where that was none. */
function lastJob(showers: readonly LocalShower[], personId: string, sinceMs: number): string | null {
  let [job, atMs]: [string | null, number] = [null, sinceMs];
  for (const { entries, parsed, state } of showers) {
    const own = entries.findLast((e) => e.authorId === personId);
    const told = Date.parse((own && parsed.get(own.hash)?.observedAt) ?? '') || 0;
    if (told > atMs) [job, atMs] = [state.created?.body.job ?? null, told];
  }
  return job;
}

/** The plan of a day as the screen shows it. */
export interface DayPlan {
  /** Null while it is worked out for the first time. */
  day: InspectorDay | null;
  /** What it was worked out from; the worker is asked again with it. */
  asked: PlanAsked;
  /** ISO day. */
  date: string;
  /** It could not be worked out. */
  failed: boolean;
}

/**
 * This person's way through today, or through the next day of work, kept up to date by a worker. While `held`, a finger is on it: what
 * comes meanwhile is shown when it is let go.
 */
export function useDayPlan(
  showers: readonly LocalShower[],
  timeZone: string,
  tomorrow: boolean,
  held: boolean,
): DayPlan {
  const { person, plan: book } = useParts('person', 'plan');
  const days = useDayPins((s) => s.days);
  const minute = Math.floor(Date.now() / 60_000);
  const asked = useMemo((): PlanAsked & { date: string } => {
    const nowMs = minute * 60_000;
    const away = book.away[person?.id ?? ''] ?? [];
    const today = dayAt(timeZone, nowMs);
    const work = workTime(calendarIn(book.settings, timeZone, away), nowMs);
    const next = work.shiftAt(atHour(timeZone, addDaysTo(today, 1), 0));
    const date = tomorrow ? (next?.day ?? addDaysTo(today, 1)) : today;
    const pins = pinsOf(days, person?.id ?? '', date);
    const mine = showers.filter((s) => !pins.refused.includes(s.id));
    return {
      date,
      showers: mine.flatMap((s) => aheadOf(s, book.showers[s.id]?.air ?? null) ?? []),
      book,
      timeZone,
      away,
      nowMs,
      laterMs: tomorrow ? (next?.fromMs ?? null) : null,
      visits: showers.flatMap((s) => (s.stored.row?.visitOn && s.stored.row.visitOn <= date ? [s.id] : [])),
      at: lastJob(showers, person?.id ?? '', atHour(timeZone, today, 0)),
      pins: pins.pins,
      pinnedIn: pins.order,
    };
  }, [showers, book, days, person, timeZone, tomorrow, minute]);
  const [told, setTold] = useState<{ date: string; day: InspectorDay } | null>(null);
  const [failed, setFailed] = useState(false);
  const newest = useRef<object | null>(null);
  useEffect(() => {
    if (held) return;
    newest.current = asked;
    const plan = () =>
      planWork()
        .planDay(asked)
        .then(
          (day) => {
            // An answer that another question has overtaken is not shown.
            if (newest.current !== asked) return;
            clearTimeout(late);
            setTold({ date: asked.date, day });
            setFailed(false);
          },
          () => setFailed(true),
        );
    // A tablet that reads what it keeps brings one shower after the other: they are planned together.
    const soon = setTimeout(() => void plan(), TOGETHER_MS);
    // A worker whose code can't be had never answers: the showers are shown without a way then.
    const late = setTimeout(() => setFailed(true), ANSWERS_MS);
    return () => {
      clearTimeout(soon);
      clearTimeout(late);
    };
  }, [asked, held]);
  return { day: told?.date === asked.date ? told.day : null, asked, date: asked.date, failed };
}
