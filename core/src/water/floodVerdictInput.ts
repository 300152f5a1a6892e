import { z } from 'zod';
import { anyMm, hoursSince, rateMm, someHours } from '../units/bounded';
import { FLOOD_EVENTS } from './floodEvents';

/** Water and the air over it. Air speed in m/s at the surface; relative humidity 0 to 1. */
export const Climate = z.object({
  waterC: z.number().min(0).max(60),
  airC: z.number().min(-20).max(60),
  relativeHumidity: z.number().min(0).max(1),
  airSpeedMs: z.number().min(0).max(10),
});
export type Climate = z.infer<typeof Climate>;

/** Climate at one time; without a time it holds for the whole test. */
const ClimateReading = Climate.extend({ atHours: hoursSince.optional() });
export type ClimateReading = z.infer<typeof ClimateReading>;

const Readings = z.array(z.object({ atHours: hoursSince, levelMm: anyMm })).max(100_000);
/** The full step of a gauge, mm. */
const resolutionMm = z.number().positive().max(50);

const eventBase = { atHours: hoursSince, of: z.enum(['water', 'pan']).optional() };
/** Something that broke the series; `event` is taken for `kind`, as the entries call it. */
const FloodEvent = z.union([
  z.object({ ...eventBase, kind: z.enum(FLOOD_EVENTS) }),
  z.object({ ...eventBase, event: z.enum(FLOOD_EVENTS) }).transform(({ event, ...rest }) => ({ ...rest, kind: event })),
]);

/** All that a flood test is judged by. */
export const FloodVerdictInput = z.object({
  method: z.enum(['marks', 'logger']),
  readings: Readings,
  resolutionMm,
  events: z.array(FloodEvent).max(200).optional(),
  pan: z.object({ readings: Readings, resolutionMm }).optional(),
  climate: z.union([Climate, z.array(ClimateReading).min(1).max(1000)]).optional(),
  /** The smallest leak that a pass must exclude; null: the firm has set none, and nothing can pass. */
  smallestLeakMmPerDay: rateMm.nullable(),
  plannedHours: someHours,
  moistureFound: z.boolean(),
  /** Hours after filling before a logger's readings count; 0.5 without it. */
  settleHours: z.number().min(0).max(12).optional(),
  /** How far an eye misses a mark (standard deviation, mm), and how much a logger may creep (standard deviation, mm a day). */
  eyeErrorMm: z.number().min(0).max(20).optional(),
  driftMmPerDay: z.number().min(0).max(20).optional(),
  /** A place where moisture must be looked for at the end was not seen. */
  placeNotSeen: z.boolean().optional(),
});
export type FloodVerdictInput = z.infer<typeof FloodVerdictInput>;
