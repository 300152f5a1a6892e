import type { ShowerAhead, StageAhead } from './ahead';
import { orderStages, type PlanStage, planOrdered, type ShowerPlan } from './showerPlan';
import { type LookedAt, lookMinutesOf, repairHours, workHoursOf } from './usualHours';
import { atHour, isZone, type WorkCalendar, type WorkTime, workTime } from './workCalendar';

/** Goods that a stage waits for, by the ISO day on which they come. */
export interface Goods {
  stage: string;
  what: string;
  dueOn: string;
}

/** What a firm plans by. */
export interface PlanWays {
  /** Hours and days of its crews; the zone of each shower takes the place of the calendar's own. */
  calendar: WorkCalendar;
  /** Its own hours of work, by stage. */
  stageHours: Readonly<Record<string, number>>;
  /** How long looks took, by stage. */
  looked: Readonly<Record<string, LookedAt>>;
}

/** What somebody set for one shower. */
export interface ShowerSet {
  /** What it waits for. */
  goods: readonly Goods[];
  /** ISO day by which it was promised; null for none. */
  promisedOn: string | null;
}

/** Nothing was set. */
export const NOTHING_SET: ShowerSet = { goods: [], promisedOn: null };

/** A plan that falls short of a day: by how many days of work, and where hours are missing. */
export interface Squeeze {
  promisedOn: string;
  /** Days of work that it needs, and that are left. */
  needs: number;
  left: number;
  /** Waits that fill days: the hours that would have to be skipped. */
  missing: { stage: string; next: string; hours: number }[];
}

/** A shower with its plan. */
export interface PlannedShower {
  ahead: ShowerAhead;
  /** One for each stage ahead, in their order. */
  plan: ShowerPlan;
  /** The day that was promised can't be kept; null where it can, or where none was. */
  squeeze: Squeeze | null;
  /** Goods that the likely begin of a stage waits for, by stage. */
  goods: Readonly<Record<string, Goods>>;
}

/** The zone of a site, or the firm’s where nobody knows what was written. */
const zoneIn = (calendar: WorkCalendar, told: string): string => (isZone(told) ? told : calendar.timeZone);

/** Reckonings of work by zone: all showers of a firm share them. */
export type WorkTimes = (zone: string) => WorkTime;
/** Makes them, from a moment on, ms since 1970. A site whose zone nobody knows goes by the firm’s. */
export function workTimes(calendar: WorkCalendar, sinceMs: number): WorkTimes {
  const known = new Map<string, WorkTime>();
  return (told) => {
    const timeZone = zoneIn(calendar, told);
    const found = known.get(timeZone) ?? workTime({ ...calendar, timeZone }, sinceMs);
    known.set(timeZone, found);
    return found;
  };
}

/** A stage ahead as the plan takes it: what is built is not built again, a wait that runs ends when it ends. */
function asPlanned(stage: StageAhead, ahead: ShowerAhead, ways: PlanWays, goods: Goods | undefined): PlanStage {
  const water = ahead.flood?.stage === stage.key ? ahead.flood : null;
  const hours = {
    'to-build': workHoursOf(stage.key, ways.stageHours),
    'put-right': repairHours(stage.defects),
    built: 0,
  };
  const goodsMs = goods ? atHour(zoneIn(ways.calendar, ahead.timeZone), goods.dueOn, ways.calendar.fromHour) : 0;
  // Nothing that is built waits for goods any more.
  const soonMs = Math.max(stage.step === 'to-build' ? goodsMs : 0, stage.wantedMs ?? 0, water?.endMs ?? 0);
  return {
    key: stage.key,
    workHours: hours[stage.step],
    waitHours: stage.waitHours,
    likelyWaitHours: stage.likelyWaitHours,
    lookMinutes: lookMinutesOf(stage.key, ways.looked),
    notBefore: Math.max(soonMs, stage.wait?.earliestMs ?? 0),
    likelyNotBefore: Math.max(soonMs, stage.wait?.likelyMs ?? 0),
  };
}

/** Where a promised day squeezes: each wait that runs over the day of its work. */
function squeezeOf(
  ahead: ShowerAhead,
  plan: ShowerPlan,
  work: WorkTime,
  promisedMs: number,
  promisedOn: string,
  nowMs: number,
): Squeeze | null {
  if (plan.readyMs <= promisedMs) return null;
  const missing = plan.stages.flatMap((stage, k) => {
    const next = plan.stages[k + 1];
    const { waitHours, wait } = ahead.stages[k]!;
    if (!next || (waitHours <= 0 && wait === null)) return [];
    // The hours between the end of the day on which it begins to wait, and the moment at which it may be looked at.
    const shift = work.shiftAt(stage.likelyMs);
    const hours = shift ? (stage.lookMs - shift.toMs) / 3_600_000 : 0;
    return hours > 0 ? [{ stage: stage.key, next: next.key, hours }] : [];
  });
  return {
    promisedOn,
    needs: work.daysBetween(nowMs, plan.readyMs),
    left: promisedMs > nowMs ? work.daysBetween(nowMs, promisedMs) : 0,
    missing,
  };
}

/** The plan of one shower, from now on; null for one that has nothing ahead, and where no end is in sight within three years. */
export function planShower(
  ahead: ShowerAhead,
  ways: PlanWays,
  set: ShowerSet,
  times: WorkTimes,
  nowMs: number,
): PlannedShower | null {
  if (ahead.stages.length === 0) return null;
  const goods = Object.fromEntries(set.goods.map((g) => [g.stage, g]));
  const ordered = orderStages(ahead.stages.map((s) => asPlanned(s, ahead, ways, goods[s.key])));
  // Keys of one ladder are there once, and each needs the one below it.
  if (!ordered.ok) return null;
  const work = times(ahead.timeZone);
  const plan = planOrdered(ordered.value, work, nowMs);
  if (!plan) return null;
  const { promisedOn } = set;
  const promisedMs = promisedOn
    ? atHour(zoneIn(ways.calendar, ahead.timeZone), promisedOn, ways.calendar.toHour)
    : null;
  return {
    ahead,
    plan,
    squeeze: promisedMs === null ? null : squeezeOf(ahead, plan, work, promisedMs, promisedOn!, nowMs),
    goods: Object.fromEntries(
      plan.stages.flatMap((s, k) =>
        goods[s.key] && ahead.stages[k]!.step === 'to-build' && s.hangsOn.by === 'not-before'
          ? [[s.key, goods[s.key]]]
          : [],
      ),
    ) as Record<string, Goods>,
  };
}

/** Plans of many showers, those without one left out. `setOf` gives what somebody set for a shower. */
export function planShowers(
  showers: readonly ShowerAhead[],
  ways: PlanWays,
  setOf: (id: string) => ShowerSet,
  nowMs: number,
): PlannedShower[] {
  const times = workTimes(ways.calendar, nowMs);
  return showers.flatMap((ahead) => planShower(ahead, ways, setOf(ahead.id), times, nowMs) ?? []);
}
