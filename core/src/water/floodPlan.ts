import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { rateMm } from '../units/bounded';
import { floodVerdict } from './floodVerdict';
import { Climate } from './floodVerdictInput';
import { INSTRUMENTS } from './gauge';
import { type SimulatedFlood, simulateFlood } from './simulateFlood';

const resolutionMm = z.number().positive().max(50);
/** A flood test before its water is in. */
export const FloodPlanInput = z.object({
  method: z.enum(['marks', 'logger']),
  plannedHours: z.number().positive().max(1000),
  /** The full step of the gauge. */
  resolutionMm,
  /** Marks read in all, or minutes between a logger's readings. */
  marks: z.number().int().min(2).max(100).optional(),
  everyMinutes: z.number().positive().max(600).optional(),
  /** The full step of the pan's gauge; null without a pan. */
  panResolutionMm: resolutionMm.nullable(),
  /** Climate expected, where there is no pan; null when none is known. */
  climate: Climate.nullable(),
  smallestLeakMmPerDay: rateMm.nullable(),
});
export type FloodPlanInput = z.infer<typeof FloodPlanInput>;

/** What such a test can tell when it ends. */
export interface FloodPlan {
  /** Half-width at 95 % that the net loss will have at the planned end; null when evaporation would be unknown. */
  halfWidthMmPerDay: number | null;
  /** The smallest leak that nine of ten tight showers would exclude with this plan; null: none. */
  excludesMmPerDay: number | null;
  /** Whether a tight shower may be expected to pass. */
  verdict: 'can-pass' | 'may-pass' | 'can-not-pass';
  /** Hours after which a tight shower may be expected to pass; null when time alone does not do it. */
  hoursNeeded: number | null;
}

/** What a still pan loses in a day in a closed bathroom, mm: used before anything was read [common practice, no source]. */
const USUAL_EVAPORATION_MM_PER_DAY = 2.5;
/** A closed bathroom in still air, used before anything was read [common practice, no source]. */
export const USUAL_CLIMATE: Climate = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0.05 };
/** How long a logger's scatter holds [common practice, no source]. */
const USUAL_CORRELATION_HOURS = 1;
/** Longer tests that are tried where the planned one does not do, hours; longer than these nobody leaves water standing. */
const LONGER_HOURS = [24, 36, 48, 72, 96, 144, 216, 336];
/** Tests that are tried for each length: of a tight shower, and of a leaking one for the width of the interval. */
const TIGHT_TESTS = 12;
const LEAKING_TESTS = 5;
/** A leak far from zero, so that nothing cuts the interval off, mm a day. */
const FAR_FROM_ZERO = 6;

function planned(input: FloodPlanInput, hours: number, leakMmPerDay: number, seed: number): SimulatedFlood {
  const everyHours = input.method === 'marks' ? hours : (input.everyMinutes ?? 10) / 60;
  return {
    method: input.method,
    leakMmPerDay,
    evaporationMmPerDay: USUAL_EVAPORATION_MM_PER_DAY,
    hours,
    everyHours,
    marksBetween: Math.max(2, input.marks ?? 2) - 2,
    resolutionMm: input.resolutionMm,
    panResolutionMm: input.panResolutionMm ?? input.resolutionMm,
    scatterMm: INSTRUMENTS.logger.scatterMm,
    eyeSdMm: INSTRUMENTS.marks.eyeMm,
    correlationHours: USUAL_CORRELATION_HOURS,
    smallestLeakMmPerDay: input.smallestLeakMmPerDay ?? 1,
    noPan: input.panResolutionMm === null,
    ...(input.climate ? { climate: input.climate } : {}),
    seed,
  };
}

/** A plan can pass where so many of the tests of tight showers do [our own choice]. */
const CAN_PASS = 0.9;

interface Tried {
  passes: number;
  /** Upper bounds of tight showers, from the least, mm a day. */
  highs: number[];
}

function tryTight(input: FloodPlanInput, hours: number): Tried {
  const found: Tried = { passes: 0, highs: [] };
  for (let seed = 1; seed <= TIGHT_TESTS; seed += 1) {
    const flood = simulateFlood(planned(input, hours, 0, seed));
    const verdict = floodVerdict({ ...flood, plannedHours: Math.min(hours, input.plannedHours) });
    if (!verdict.ok || verdict.value.highMmPerDay === null) continue;
    if (verdict.value.verdict === 'pass') found.passes += 1;
    found.highs.push(verdict.value.highMmPerDay);
  }
  found.highs.sort((a, b) => a - b);
  return found;
}

function halfWidth(input: FloodPlanInput): number | null {
  const halves: number[] = [];
  for (let seed = 1; seed <= LEAKING_TESTS; seed += 1) {
    const verdict = floodVerdict(simulateFlood(planned(input, input.plannedHours, FAR_FROM_ZERO, seed)));
    if (!verdict.ok || verdict.value.lowMmPerDay === null || verdict.value.highMmPerDay === null) continue;
    halves.push((verdict.value.highMmPerDay - verdict.value.lowMmPerDay) / 2);
  }
  halves.sort((a, b) => a - b);
  return halves[halves.length >> 1] ?? null;
}

/**
 * What a plan of marks or of a logger can exclude before it starts, if the shower is tight. It promises what the verdict then
 * does, since it is the verdict itself, run over seeded tests of tight showers with the gauges, the pan and the air given.
 */
export function floodPlan(input: FloodPlanInput): Outcome<FloodPlan> {
  const half = halfWidth(input);
  const { passes, highs } = tryTight(input, input.plannedHours);
  if (half === null || highs.length === 0)
    return done({ halfWidthMmPerDay: null, excludesMmPerDay: null, verdict: 'can-not-pass', hoursNeeded: null });
  const share = input.smallestLeakMmPerDay === null ? 0 : passes / TIGHT_TESTS;
  const verdict = share >= CAN_PASS ? 'can-pass' : share >= 0.25 ? 'may-pass' : 'can-not-pass';
  const excludes = highs[Math.min(highs.length - 1, Math.floor(0.9 * highs.length))]!;
  const hoursNeeded =
    input.smallestLeakMmPerDay === null
      ? null
      : share >= CAN_PASS
        ? input.plannedHours
        : (LONGER_HOURS.find((h) => h > input.plannedHours && tryTight(input, h).passes / TIGHT_TESTS >= CAN_PASS) ??
          null);
  return done({ halfWidthMmPerDay: half, excludesMmPerDay: excludes, verdict, hoursNeeded });
}
