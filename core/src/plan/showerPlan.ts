import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { WorkCalendar, type WorkTime, workTime } from './workCalendar';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Slack that differs by less is the same, hours: a tenth of a second. */
const SAME_SLACK = 1 / 36_000;
/** Moments that a site can have, ms since 1970: to the year 2200. */
const LAST_MS = Date.UTC(2200, 0, 1);

/** A moment, ms since 1970. */
const momentMs = z.number().min(0).max(LAST_MS);
/** A moment as ms since 1970, or written as ISO 8601 with its zone. */
export const Moment = z.union([momentMs, z.iso.datetime({ offset: true }).transform((at) => Date.parse(at))]);

/** One stage of a shower as it is planned: the crew works, it hardens, the inspector looks; then the next may begin. */
export const PlanStage = z.object({
  /** Its name in the plan. */
  key: z.string().min(1).max(120),
  /** Hours that the crew works on it, within the hours of the calendar. */
  workHours: z.number().min(0).max(400),
  /** Hours that pass after the work, day and night, before it can be looked at. */
  waitHours: z.number().min(0).max(5000).optional(),
  /** Minutes of the inspector, within the hours of the calendar. */
  lookMinutes: z.number().min(0).max(1440),
  /** Stages that must be done first; without it the one before it in the list. */
  needs: z.array(z.string().min(1).max(120)).max(60).optional(),
  /** It does not begin before. */
  notBefore: Moment.optional(),
  /** The same as is likely; what is not told is as above, and nothing is likely to be quicker. */
  likelyWorkHours: z.number().min(0).max(400).optional(),
  likelyWaitHours: z.number().min(0).max(5000).optional(),
  likelyNotBefore: Moment.optional(),
});
/** One stage of a shower as it is planned. */
export type PlanStage = z.infer<typeof PlanStage>;

/** What a shower is planned from. */
export const ShowerPlanInput = z.object({
  stages: z.array(PlanStage).min(1).max(60),
  calendar: WorkCalendar,
  startMs: momentMs,
});
/** What a shower is planned from. */
export type ShowerPlanInput = z.infer<typeof ShowerPlanInput>;

/** When a stage comes. All moments ms since 1970. */
export interface PlannedStage {
  /** Its name in the plan. */
  key: string;
  /** When it can begin at the earliest. */
  earliestMs: number;
  /** When it is likely to begin. */
  likelyMs: number;
  /** When it must begin at the latest, so that the shower is not ready later. */
  latestMs: number;
  /** Hours of work by which it may begin later than is likely. */
  slackHours: number;
  /** It has the least slack of all: what puts it off further puts off the shower. */
  critical: boolean;
  /** When the crew is likely done with it. */
  workEndMs: number;
  /** When the inspector can look at it, likely and at the earliest. */
  lookMs: number;
  earliestLookMs: number;
  /** When it is done, likely and at the earliest. */
  endMs: number;
  earliestEndMs: number;
  /** What its likely begin hangs on: the stage before, a day that was set, or that the plan begins here. */
  hangsOn: { by: 'need'; key: string } | { by: 'not-before' } | { by: 'start' };
}

/** A shower's plan. */
export interface ShowerPlan {
  /** In the order in which they were given. */
  stages: PlannedStage[];
  /** When the shower is likely to be ready. */
  readyMs: number;
  /** When it is ready at the earliest. */
  earliestReadyMs: number;
}

/** What of a stage is reckoned with: as quick as it can be, or as is likely. */
interface Lasts {
  workHours: number;
  waitHours: number;
  notBefore: number;
}

const quick = (s: PlanStage): Lasts => ({
  workHours: s.workHours,
  waitHours: s.waitHours ?? 0,
  notBefore: s.notBefore ?? 0,
});
const likely = (s: PlanStage): Lasts => ({
  workHours: Math.max(s.workHours, s.likelyWorkHours ?? 0),
  waitHours: Math.max(s.waitHours ?? 0, s.likelyWaitHours ?? 0),
  notBefore: Math.max(s.notBefore ?? 0, s.likelyNotBefore ?? 0),
});

/** Stages by what they need, each after all that it needs; `needs` are places in the list. */
export interface OrderedStages {
  stages: readonly PlanStage[];
  needs: readonly (readonly number[])[];
  order: readonly number[];
}

/** Puts stages in an order in which each comes after all that it needs. Refuses a name that is there twice or not at all, and a circle. */
export function orderStages(stages: readonly PlanStage[]): Outcome<OrderedStages> {
  const places = new Map(stages.map((s, k) => [s.key, k]));
  for (const [k, { key }] of stages.entries())
    if (places.get(key) !== k) return refuse('plan-stage-twice', `stages.${places.get(key)}.key`, { stage: key });
  const needs: number[][] = [];
  for (const [k, stage] of stages.entries()) {
    const names = stage.needs ?? stages.slice(Math.max(0, k - 1), k).map((s) => s.key);
    const unknown = names.find((name) => !places.has(name));
    if (unknown !== undefined)
      return refuse('plan-need-unknown', `stages.${k}.needs`, { stage: stage.key, need: unknown });
    needs.push(names.map((name) => places.get(name)!));
  }
  const order: number[] = [];
  const state = new Array<'open' | 'on the way' | 'done'>(stages.length).fill('open');
  /** Walks what a stage needs; gives a stage of a circle, or null. */
  const walk = (k: number): number | null => {
    if (state[k] === 'done') return null;
    if (state[k] === 'on the way') return k;
    state[k] = 'on the way';
    for (const need of needs[k]!) {
      const circle = walk(need);
      if (circle !== null) return circle;
    }
    state[k] = 'done';
    order.push(k);
    return null;
  };
  for (const k of stages.keys()) {
    const circle = walk(k);
    if (circle !== null) return refuse('plan-circle', `stages.${circle}.needs`, { stage: stages[circle]!.key });
  }
  return done({ stages, needs, order });
}

/** When a stage begins, can be looked at and is done. */
interface Times {
  beginMs: number;
  workEndMs: number;
  lookMs: number;
  endMs: number;
  hangsOn: PlannedStage['hangsOn'];
}

/** From the beginning on: each stage as soon as what it needs is done. */
export function forward(
  { stages, needs, order }: OrderedStages,
  work: WorkTime,
  startMs: number,
  lasts: (s: PlanStage) => Lasts,
): Times[] {
  const times = new Array<Times>(stages.length);
  for (const k of order) {
    const stage = stages[k]!;
    const { workHours, waitHours, notBefore } = lasts(stage);
    let [fromMs, hangsOn]: [number, PlannedStage['hangsOn']] = [startMs, { by: 'start' }];
    for (const need of needs[k]!)
      if (times[need]!.endMs > fromMs || hangsOn.by === 'start')
        [fromMs, hangsOn] = [Math.max(fromMs, times[need]!.endMs), { by: 'need', key: stages[need]!.key }];
    if (notBefore > fromMs) [fromMs, hangsOn] = [notBefore, { by: 'not-before' }];
    const beginMs = workHours > 0 ? work.nextWork(fromMs) : fromMs;
    const workEndMs = work.addWork(beginMs, workHours);
    const waitedMs = workEndMs + waitHours * HOUR_MS;
    const lookMs = stage.lookMinutes > 0 ? work.nextWork(waitedMs) : waitedMs;
    times[k] = { beginMs, workEndMs, lookMs, endMs: work.addWork(lookMs, stage.lookMinutes / 60), hangsOn };
  }
  return times;
}

/** From the end back: when each stage must begin so that the shower is ready by a moment. */
function latestBegins({ stages, needs, order }: OrderedStages, work: WorkTime, readyMs: number): number[] {
  const mustEnd = new Array<number>(stages.length).fill(readyMs);
  const latest = new Array<number>(stages.length).fill(readyMs);
  for (const k of [...order].reverse()) {
    const stage = stages[k]!;
    const { workHours, waitHours } = likely(stage);
    const lookMs = work.backWork(mustEnd[k]!, stage.lookMinutes / 60);
    latest[k] = work.backWork(lookMs - waitHours * HOUR_MS, workHours);
    for (const need of needs[k]!) mustEnd[need] = Math.min(mustEnd[need]!, latest[k]!);
  }
  return latest;
}

/**
 * Plans ordered stages with a reckoning of work that stands: forward as quick as can be and as is likely, back from the likely
 * end. Null where it does not end within three years.
 */
export function planOrdered(ordered: OrderedStages, work: WorkTime, startMs: number): ShowerPlan | null {
  const soon = forward(ordered, work, startMs, quick);
  const real = forward(ordered, work, startMs, likely);
  const readyMs = Math.max(...real.map((t) => t.endMs));
  if (!Number.isFinite(readyMs)) return null;
  const latest = latestBegins(ordered, work, readyMs);
  const slack = latest.map((ms, k) => work.hoursBetween(real[k]!.beginMs, ms));
  // Over night a wait can leave some slack to every stage: the path that has the least is the one to keep.
  const least = Math.min(...slack);
  const stages = ordered.stages.map(({ key }, k): PlannedStage => {
    const slackHours = slack[k]!;
    return {
      key,
      earliestMs: soon[k]!.beginMs,
      likelyMs: real[k]!.beginMs,
      latestMs: Math.max(latest[k]!, real[k]!.beginMs),
      slackHours,
      critical: slackHours < least + SAME_SLACK,
      workEndMs: real[k]!.workEndMs,
      lookMs: real[k]!.lookMs,
      earliestLookMs: soon[k]!.lookMs,
      endMs: real[k]!.endMs,
      earliestEndMs: soon[k]!.endMs,
      hangsOn: real[k]!.hangsOn,
    };
  });
  return { stages, readyMs, earliestReadyMs: Math.max(...soon.map((t) => t.endMs)) };
}

/**
 * When each stage of a shower comes, by the critical path method over hours of work (Kelley and Walker 1959): begins at the
 * earliest, as is likely, and at the latest. Work and looks lie within the calendar's hours, waits pass day and night.
 */
export function showerPlan({ stages, calendar, startMs }: ShowerPlanInput): Outcome<ShowerPlan> {
  const ordered = orderStages(stages);
  if (!ordered.ok) return ordered;
  const plan = planOrdered(ordered.value, workTime(calendar, startMs), startMs);
  return plan ? done(plan) : refuse('plan-without-end', 'stages');
}
