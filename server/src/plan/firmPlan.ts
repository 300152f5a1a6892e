import { NO_PLAN_SET, type PlanBook } from '@careful-seam/contract/api/plan';
import { type InspectorDay, inspectorDay } from '@careful-seam/core/plan/inspectorDay';
import { type PlannedShower, type PlanWays, planShowers } from '@careful-seam/core/plan/planOf';
import { type OpenLook, type SuggestedLook, suggestLooks } from '@careful-seam/core/plan/suggestLooks';
import { waysOf } from '@careful-seam/core/plan/travel';
import { calendarIn, dayAt, shiftOf, type WorkCalendar, workTime } from '@careful-seam/core/plan/workCalendar';
import type { DataSource } from 'typeorm';
import { readSettings } from '../firm/settings';
import type { ShowerWithHead } from '../showers/showerRows';
import { openShowers } from './aheads';
import { readPins, readPlanBook } from './planNotes';

/** An inspector or manager who looks at showers. */
interface Inspector {
  id: string;
  name: string;
}

/** All open showers of the firm, planned from now on. */
export interface FirmPlan {
  book: PlanBook;
  calendar: WorkCalendar;
  nowMs: number;
  planned: PlannedShower[];
  rows: ReadonlyMap<string, ShowerWithHead>;
  inspectors: Inspector[];
}

/** What the plan goes by. */
const planWays = (book: PlanBook, calendar: WorkCalendar): PlanWays => ({
  calendar,
  stageHours: book.settings.stageHours,
  looked: book.looked,
});

/** Plans the firm. */
export async function firmPlan(store: DataSource, now: Date): Promise<FirmPlan> {
  const [book, firm] = [await readPlanBook(store), await readSettings(store)];
  const calendar = calendarIn(book.settings, firm.timeZone);
  const open = await openShowers(store, book, now);
  const inspectors: Inspector[] = await store.query(
    `SELECT id, name FROM firm_user WHERE role = 'inspector' AND NOT disabled ORDER BY name`,
  );
  return {
    book,
    calendar,
    nowMs: now.getTime(),
    planned: planShowers(
      open.flatMap(({ ahead }) => ahead ?? []),
      planWays(book, calendar),
      (id) => book.showers[id] ?? NO_PLAN_SET,
      now.getTime(),
    ),
    rows: new Map(open.map(({ row }) => [row.id, row])),
    inspectors,
  };
}

/** When a shower can be looked at first, ms since 1970: water is read when its time is run, at whatever hour. */
export const lookMsOf = ({ ahead, plan }: PlannedShower): number => ahead.flood?.endMs ?? plan.stages[0]!.lookMs;

/** The looks that come, as they are suggested to inspectors. */
function openLooks({ planned: all, rows, calendar, nowMs }: FirmPlan): OpenLook[] {
  return all.map((planned) => {
    const { ahead, plan } = planned;
    const [first, row] = [plan.stages[0]!, rows.get(ahead.id)!];
    return {
      shower: ahead.id,
      job: ahead.job,
      lookOn: dayAt(calendar.timeZone, Math.max(nowMs, lookMsOf(planned))),
      minutes: Math.max(1, Math.round((first.endMs - first.lookMs) / 60_000)),
      inspectorId: row.inspectorId,
      visitOn: row.visitOn,
    };
  });
}

/** Who could look at what nobody is set to. */
export function suggestionFor(plan: FirmPlan): SuggestedLook[] {
  const looks = openLooks(plan);
  const { calendar, book, inspectors } = plan;
  const knows = (id: string) => looks.filter((l) => l.inspectorId === id).map((l) => l.job);
  return suggestLooks(
    looks,
    inspectors.map(({ id }) => ({ id, away: book.away[id] ?? [], knows: knows(id) })),
    (day) => shiftOf(calendar, day) !== null,
    (calendar.toHour - calendar.fromHour) * 60,
  );
}

/** The firm's plan with every inspector's way. */
export interface FirmDays {
  plan: FirmPlan;
  days: Map<string, InspectorDay>;
}

/** What it was worked out from last, by the store: many phones ask for the same. */
const known = new WeakMap<DataSource, { mark: string; made: Promise<FirmDays> }>();

/** The same, worked out once for whoever asks while nothing was written, and anew each minute. */
export async function firmDays(store: DataSource, now: Date): Promise<FirmDays> {
  const [{ mark }] = await store.query(
    `SELECT concat((SELECT max(moved) FROM shower_head), ' ', (SELECT max(changed_at) FROM plan_note WHERE kind <> 'feed'), ' ', $1::text) AS mark`,
    [Math.floor(now.getTime() / 60_000)],
  );
  const found = known.get(store);
  if (found && found.mark === mark) return found.made;
  const made = firmPlan(store, now).then(async (plan) => ({ plan, days: await inspectorDays(store, plan) }));
  known.set(store, { mark, made });
  // What failed is worked out again by the next who asks.
  made.catch(() => known.delete(store));
  return made;
}

/** The way of each inspector today: what is set to them, and what is suggested where nobody is set. */
async function inspectorDays(store: DataSource, plan: FirmPlan): Promise<Map<string, InspectorDay>> {
  const { calendar, nowMs, rows, planned, book, inspectors } = plan;
  const today = dayAt(calendar.timeZone, nowMs);
  const suggested = new Map(suggestionFor(plan).map((s) => [s.shower, s.inspectorId]));
  const whose = (id: string) => rows.get(id)?.inspectorId ?? suggested.get(id) ?? null;
  const days = new Map<string, InspectorDay>();
  for (const { id } of inspectors) {
    const { pins, order, refused, at } = await readPins(store, id, today);
    const own = calendarIn(calendar, calendar.timeZone, book.away[id]);
    days.set(
      id,
      inspectorDay({
        planned: planned.filter((p) => whose(p.ahead.id) === id && !refused.includes(p.ahead.id)),
        work: workTime(own, nowMs),
        nowMs,
        visits: new Set([...rows.values()].filter((r) => r.visitOn !== null && r.visitOn <= today).map((r) => r.id)),
        at,
        ways: waysOf(book),
        weights: book.settings.weights,
        pins,
        pinnedIn: order,
      }),
    );
  }
  return days;
}
