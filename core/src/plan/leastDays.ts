import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { forward, Moment, orderStages, PlanStage } from './showerPlan';
import { WorkCalendar, workTime } from './workCalendar';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A minute: nobody plans finer, ms. */
const MINUTE_MS = 60_000;

/** What the least days of a method are counted from. */
export const LeastDaysInput = z.object({
  stages: z
    .array(PlanStage.extend({ /** When somebody means to begin it. */ plannedMs: Moment.optional() }))
    .min(1)
    .max(60),
  calendar: WorkCalendar,
  /** When the first of them begins; a Monday without it. */
  startMs: z
    .number()
    .min(0)
    .max(Date.UTC(2200, 0, 1))
    .optional(),
  /** Days of work that a plan leaves for it. */
  planDays: z.number().int().min(1).max(1000).optional(),
});
/** What the least days of a method are counted from. */
export type LeastDaysInput = z.infer<typeof LeastDaysInput>;

/** A wait that a plan does not leave time for. */
export interface MissingHours {
  /** The stage that must harden, and the one that comes on it. */
  between: [string, string];
  /** Hours that are missing between the two. */
  hours: number;
}

/** Days of work that stages need. */
export interface LeastDays {
  /** Days of work from the first to the last, both counted. */
  days: number;
  /** Days that the plan is short of. */
  shortDays: number;
  /** Where hours are missing. */
  missing: MissingHours[];
}

/** A Monday, at the beginning of the day in every zone that there is: 2024-01-01. */
const A_MONDAY_MS = Date.UTC(2024, 0, 1);

/**
 * Days of work that a method needs at least when its waits are kept, and where a plan squeezes them. By moments that are planned: what
 * is missing between the end of a wait and the next begin. By days that a plan leaves: each wait that does not end on the day of its
 * work, with the hours by which it runs over that day.
 */
export function leastDays({ stages, calendar, startMs, planDays }: LeastDaysInput): Outcome<LeastDays> {
  const ordered = orderStages(stages);
  if (!ordered.ok) return ordered;
  const since = startMs ?? A_MONDAY_MS;
  const work = workTime(calendar, since);
  const times = forward(ordered.value, work, work.nextWork(since), (s) => ({
    workHours: s.workHours,
    waitHours: s.waitHours ?? 0,
    notBefore: s.notBefore ?? 0,
  }));
  const lastMs = Math.max(...times.map((t) => t.endMs));
  if (!Number.isFinite(lastMs)) return refuse('plan-without-end', 'stages');
  const days = work.daysBetween(Math.min(...times.map((t) => t.beginMs)), lastMs);
  const isPlanned = stages.some((s) => s.plannedMs !== undefined);
  const missing = ordered.value.needs.flatMap((needs, k) =>
    needs.flatMap((need): MissingHours[] => {
      const [a, b] = [stages[need]!, stages[k]!];
      const waitMs = (a.waitHours ?? 0) * HOUR_MS;
      let shortMs = 0;
      if (isPlanned) {
        if (a.plannedMs === undefined || b.plannedMs === undefined) return [];
        shortMs = work.addWork(a.plannedMs, a.workHours) + waitMs - b.plannedMs;
      } else {
        if (planDays !== undefined && planDays >= days) return [];
        const { workEndMs } = times[need]!;
        // A shift that ended with the work is asked for by the moment before.
        const shift = work.shiftAt(workEndMs - 1);
        shortMs = waitMs > 0 && shift ? workEndMs + waitMs - shift.toMs : 0;
      }
      return shortMs >= MINUTE_MS ? [{ between: [a.key, b.key], hours: shortMs / HOUR_MS }] : [];
    }),
  );
  return done({ days, shortDays: planDays === undefined ? 0 : Math.max(0, days - planDays), missing });
}
