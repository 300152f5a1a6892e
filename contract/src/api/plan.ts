import { z } from 'zod';

/** What the plan is made from beside the showers themselves: hours, ways, goods, days off. Moments in ms since 1970. */

/** A place on the earth, degrees. */
export const Coordinates = z.object({
  latitude: z.number().min(-90).max(90),
  longitude: z.number().min(-180).max(180),
});
/** Hours that a file may tell the air ahead: two weeks. */
export const HOURS_AHEAD = 14 * 24;
const hours = z.number().min(0).max(400);
const weight = z.number().min(0).max(1_000_000);
const stageKey = z.string().min(1).max(60);
const words = z.string().trim().min(1).max(200);

/** When the firm works, and what it holds dear. */
export const PlanSettings = z
  .object({
    /** Days of the week, 1 Monday to 7 Sunday. */
    workdays: z.array(z.number().int().min(1).max(7)).min(1).max(7),
    /** Hours of the day between which people work. */
    fromHour: z.number().min(0).max(24),
    toHour: z.number().min(0).max(24),
    /** ISO days on which nobody works. */
    holidays: z.array(z.iso.date()).max(400),
    /** Hours of crew work on a stage where they are the firm's own: stage → hours. */
    stageHours: z.record(stageKey, hours),
    /** What a late look, an hour of a crew and a minute on the road cost against each other. */
    weights: z.object({ latePerStop: weight, idlePerHour: weight, drivePerMinute: weight }),
    /** How fast one drives, km/h. */
    kmPerHour: z.number().min(5).max(150),
    /** Where a day begins; null while nobody said. */
    start: Coordinates.nullable(),
  })
  .refine((s) => s.toHour - s.fromHour >= 0.5, { path: ['toHour'], message: 'hours-reversed' });
export type PlanSettings = z.infer<typeof PlanSettings>;

/** As a firm begins [common practice, no source; weights: own choice]. */
export const FIRST_PLAN_SETTINGS: PlanSettings = {
  workdays: [1, 2, 3, 4, 5],
  fromHour: 7,
  toHour: 15.5,
  holidays: [],
  stageHours: {},
  weights: { latePerStop: 1000, idlePerHour: 10, drivePerMinute: 0.1 },
  kmPerHour: 35,
  start: null,
};

/** Where a job lies, and minutes to others that somebody typed. */
export const JobWays = z.object({
  place: Coordinates.nullable(),
  minutes: z.record(z.string().min(1).max(200), z.number().min(0).max(1440)),
});
export type JobWays = z.infer<typeof JobWays>;

/** What somebody set for one shower: goods with their days, the day that was promised, the air as it is expected. */
export const ShowerPlanSet = z.object({
  goods: z.array(z.object({ stage: stageKey, what: words, dueOn: z.iso.date() })).max(20),
  promisedOn: z.iso.date().nullable(),
  air: z
    .object({
      airC: z.number().min(-40).max(60),
      relativeHumidity: z.number().min(0).max(1),
      fromMs: z.number().min(0).optional(),
      /** Hour by hour, where a file told it; what lies before now counts for nothing. */
      hours: z
        .array(
          z.object({
            atMs: z.number().min(0),
            airC: z.number().min(-40).max(60),
            relativeHumidity: z.number().min(0).max(1),
          }),
        )
        .max(HOURS_AHEAD)
        .optional(),
    })
    .nullable(),
});
export type ShowerPlanSet = z.infer<typeof ShowerPlanSet>;
export const NO_PLAN_SET: ShowerPlanSet = { goods: [], promisedOn: null, air: null };

/** Days on which a person does not work. */
export const Away = z.object({ days: z.array(z.iso.date()).max(400) });

/** How an inspector means to go on a day: stops at places of the order, and those that were refused there. */
export const DayPins = z.object({
  pins: z.record(z.uuid(), z.number().int().min(0).max(200)),
  /** The order that the places are counted in: what of it is done meanwhile, the others move up. */
  order: z.array(z.uuid()).max(200).default([]),
  refused: z.array(z.uuid()).max(200),
  /** The job where the inspector was last; null at the beginning of the day. */
  at: z.string().max(200).nullable(),
});
export type DayPins = z.infer<typeof DayPins>;
export const NO_PINS: DayPins = { pins: {}, order: [], refused: [], at: null };

/** How many days somebody looked at a stage, and the minutes in all. */
export const LookedMinutes = z.record(z.string(), z.object({ days: z.number().min(0), minutes: z.number().min(0) }));

/** All that every tablet keeps of it. */
export const PlanBook = z.object({
  settings: PlanSettings,
  /** By the job's name. */
  jobs: z.record(z.string(), JobWays),
  /** By the shower's id; those that are finished are left out. */
  showers: z.record(z.string(), ShowerPlanSet),
  /** By the person's id. */
  away: z.record(z.string(), z.array(z.iso.date())),
  looked: LookedMinutes,
});
export type PlanBook = z.infer<typeof PlanBook>;
export const FIRST_PLAN_BOOK: PlanBook = {
  settings: FIRST_PLAN_SETTINGS,
  jobs: {},
  showers: {},
  away: {},
  looked: {},
};

/** What a crew is told of one of its showers. */
export const CrewPlanLine = z.object({
  shower: z.uuid(),
  name: z.string(),
  job: z.string(),
  timeZone: z.string(),
  /** The lowest stage that is open. */
  stage: z.string(),
  label: z.string(),
  /** When an inspector comes to it, and who; null while nobody is likely to. */
  comesMs: z.number().nullable(),
  inspector: z.string().nullable(),
  /** What must be ready by then, and what the crew waits for. */
  waits: z.enum(['look', 'cure', 'water', 'put-right', 'goods', 'crew']),
  /** When the wait is likely over; null where nothing runs. */
  overMs: z.number().nullable(),
  /** Heating would win so many hours; 0 where it wins none. */
  heatWinsHours: z.number(),
  /** What may go on meanwhile, and what must not before a moment. */
  next: z.object({ stage: z.string(), label: z.string(), fromMs: z.number() }).nullable(),
  readyMs: z.number(),
});
export type CrewPlanLine = z.infer<typeof CrewPlanLine>;
export const CrewPlan = z.object({ lines: z.array(CrewPlanLine), madeMs: z.number() });
export type CrewPlan = z.infer<typeof CrewPlan>;

/** One look or a stretch of work of a shower on a day of the week. */
const WeekStep = z.object({
  kind: z.enum(['work', 'wait', 'look', 'water']),
  stage: z.string(),
  label: z.string(),
  fromMs: z.number(),
  toMs: z.number(),
  critical: z.boolean(),
});
export type WeekStep = z.infer<typeof WeekStep>;

/** A shower in the week. */
export const WeekShower = z.object({
  shower: z.uuid(),
  name: z.string(),
  job: z.string(),
  timeZone: z.string(),
  crewId: z.string(),
  inspectorId: z.string().nullable(),
  visitOn: z.string().nullable(),
  steps: z.array(WeekStep),
  /** When its next look is possible, and on which day. */
  lookMs: z.number(),
  lookOn: z.string(),
  lookMinutes: z.number(),
  lookStage: z.string(),
  lookLabel: z.string(),
  readyMs: z.number(),
  /** What it waits for that is no work and no drying. */
  goods: z.array(z.object({ what: z.string(), dueOn: z.string() })),
  squeeze: z
    .object({
      promisedOn: z.string(),
      needs: z.number(),
      left: z.number(),
      missing: z.array(z.object({ stage: z.string(), next: z.string(), hours: z.number() })),
    })
    .nullable(),
  /** Looks that were given in this week: what happened. */
  released: z.array(z.object({ stage: z.string(), label: z.string(), atMs: z.number(), by: z.string() })),
});
export type WeekShower = z.infer<typeof WeekShower>;

/** Who could look at a shower on which day. */
export const Assigned = z.object({
  shower: z.uuid(),
  inspectorId: z.uuid().nullable(),
  visitOn: z.iso.date().nullable(),
});
export type Assigned = z.infer<typeof Assigned>;
export const AssignMany = z.object({ looks: z.array(Assigned).min(1).max(500) });

/** A week of the firm. */
export const WeekAnswer = z.object({
  madeMs: z.number(),
  /** Its days of work, ISO. */
  days: z.array(z.string()),
  showers: z.array(WeekShower),
  inspectors: z.array(z.object({ id: z.uuid(), name: z.string(), away: z.array(z.string()) })),
  crews: z.array(z.object({ id: z.string(), name: z.string() })),
  /** Hours that crews are likely to stand idle, by crew. */
  idle: z.record(z.string(), z.number()),
  /** A suggestion for the looks that nobody is set to. */
  suggested: z.array(Assigned),
});
export type WeekAnswer = z.infer<typeof WeekAnswer>;
export const WeekAsk = z.object({ from: z.iso.date().optional(), lang: z.enum(['en', 'es']).optional() });
