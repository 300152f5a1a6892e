import { z } from 'zod';
import { dayRoute } from '../plan/dayRoute';
import { LeastDaysInput, leastDays } from '../plan/leastDays';
import { DayRouteInput } from '../plan/routeCost';
import { ShowerPlanInput, showerPlan } from '../plan/showerPlan';
import { type Calculation, calculation } from './calculation';

/** A moment, ms since 1970. */
const ms = z.number();
/** Hours or minutes, never below zero. */
const some = z.number().min(0);

/** What is planned: a shower's stages, the least days of a method, an inspector's way through a day. */
export const PLAN_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'shower-plan',
    'When each stage of a shower comes, and which ones nothing may put off',
    'critical path method, Kelley and Walker 1959, over hours of work',
    ShowerPlanInput,
    z.object({
      stages: z.array(
        z.object({
          key: z.string(),
          earliestMs: ms,
          likelyMs: ms,
          latestMs: ms,
          slackHours: some,
          critical: z.boolean(),
          workEndMs: ms,
          lookMs: ms,
          earliestLookMs: ms,
          endMs: ms,
          earliestEndMs: ms,
          hangsOn: z.discriminatedUnion('by', [
            z.object({ by: z.literal('need'), key: z.string() }),
            z.object({ by: z.literal('not-before') }),
            z.object({ by: z.literal('start') }),
          ]),
        }),
      ),
      readyMs: ms,
      earliestReadyMs: ms,
    }),
    showerPlan,
  ),
  calculation(
    'least-days',
    'Days of work that a method needs when its waits are kept, and where a plan squeezes them',
    'five days for a new floor: common practice, no source; reckoned as shower-plan',
    LeastDaysInput,
    z.object({
      days: z.number().int().min(0),
      shortDays: z.number().int().min(0),
      missing: z.array(z.object({ between: z.tuple([z.string(), z.string()]), hours: some })),
    }),
    leastDays,
  ),
  calculation(
    'day-route',
    'The order of an inspector’s stops that costs least by late looks, idle crews and driving',
    'dynamic programming over sets, Held and Karp 1962, to 12 stops; local search beyond',
    DayRouteInput,
    z.object({
      order: z.array(z.string()),
      arrivals: z.array(ms),
      begins: z.array(ms),
      late: z.array(z.string()),
      idleHours: some,
      driveMinutes: some,
      cost: some,
      exact: z.boolean(),
    }),
    dayRoute,
  ),
];
