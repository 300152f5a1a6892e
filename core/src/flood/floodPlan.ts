import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { climateRates, PAN_RATIO_SD } from './evaporationOf';
import { Climate } from './floodVerdictInput';
import { fitLine } from './loggerRate';
import { markRate } from './markRate';
import { quantile } from './rate';

const resolutionMm = z.number().positive().max(50);
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
  smallestLeakMmPerDay: z.number().positive().nullable(),
});
export type FloodPlanInput = z.infer<typeof FloodPlanInput>;

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

const DAY = 24;
/** What a still pan loses in a day in a closed bathroom, mm: used before anything was read [common practice, no source]. */
const USUAL_EVAPORATION_MM_PER_DAY = 2.5;
/** A closed bathroom in still air, used before anything was read [common practice, no source]. */
export const USUAL_CLIMATE: Climate = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0.05 };
/** Scatter of a level logger at rest, mm, and how long it holds [common practice, no source]. */
const USUAL_SCATTER_MM = 0.15;
const USUAL_CORRELATION_HOURS = 1;
const LONGEST_HOURS = 14 * 24;

function marksHalf(hours: number, resolutionMm: number, marks: number): number {
  const at = Array.from({ length: marks }, (_, k) => (k * hours) / (marks - 1));
  // Typical, not ideal: readings that happen to fall in the middle of their steps.
  const found = markRate([{ hours: at, levelMm: at.map(() => 0) }], resolutionMm);
  return found ? (quantile(found.rate, 0.975) - quantile(found.rate, 0.025)) / 2 : Infinity;
}

function loggerHalf(hours: number, resolutionMm: number, everyMinutes: number): number {
  const n = Math.max(6, Math.min(72, Math.floor((hours * 60) / everyMinutes)));
  const widthHours = hours / n;
  const at = Array.from({ length: n }, (_, k) => (k + 0.5) * widthHours);
  const blocks = { hours: at, levelMm: at.map(() => 0), segment: at.map(() => 0), widthHours };
  const correlation = Math.exp(-widthHours / USUAL_CORRELATION_HOURS);
  const { standardError } = fitLine(blocks, correlation, 1, USUAL_SCATTER_MM ** 2 + resolutionMm ** 2 / 12);
  return 2.1 * standardError;
}

function gaugeHalf(input: FloodPlanInput, hours: number, resolutionMm: number): number {
  return input.method === 'marks'
    ? marksHalf(hours, resolutionMm, Math.max(2, input.marks ?? 2))
    : loggerHalf(hours, resolutionMm, input.everyMinutes ?? 10);
}

/** Half-width in mm per day that stays however long the test runs; null when evaporation is not known at all. */
function staying(input: FloodPlanInput): number | null {
  if (input.panResolutionMm !== null) return 1.96 * PAN_RATIO_SD * USUAL_EVAPORATION_MM_PER_DAY;
  if (!input.climate) return null;
  const rates = [...climateRates(input.climate)].sort((a, b) => a - b);
  const at = (p: number) => rates[Math.floor(p * (rates.length - 1))]! * DAY;
  return (at(0.975) - at(0.025)) / 2;
}

function halfWidth(input: FloodPlanInput, hours: number, stays: number): number {
  const water = gaugeHalf(input, hours, input.resolutionMm);
  const pan = input.panResolutionMm === null ? 0 : gaugeHalf(input, hours, input.panResolutionMm);
  // Triangular and normal parts add nearly as squares of their standard deviations.
  const scale = input.method === 'marks' ? 1.96 / (0.776 * Math.sqrt(6)) : 1;
  return Math.hypot(water * (input.panResolutionMm === null ? 1 : scale) * DAY, pan * scale * DAY, stays);
}

/** Share of the half-width by which the estimate itself lies above the truth in one of ten tests. */
const ONE_IN_TEN = normalQuantile(0.9, 0, 1) / normalQuantile(0.975, 0, 1);

/**
 * What a plan of marks or of a logger can exclude before it starts, if the shower is tight: the expected half-width of
 * the net loss at the planned end, and after how many hours it would fall below the smallest leak.
 */
export function floodPlan(input: FloodPlanInput): Outcome<FloodPlan> {
  const stays = staying(input);
  if (stays === null) {
    return done({ halfWidthMmPerDay: null, excludesMmPerDay: null, verdict: 'can-not-pass', hoursNeeded: null });
  }
  const half = halfWidth(input, input.plannedHours, stays);
  const surely = half * (1 + ONE_IN_TEN);
  const smallest = input.smallestLeakMmPerDay;
  const verdict = smallest === null || half >= smallest ? 'can-not-pass' : surely < smallest ? 'can-pass' : 'may-pass';
  let hoursNeeded: number | null = null;
  for (let hours = 1; smallest !== null && hours <= LONGEST_HOURS && hoursNeeded === null; hours += hours < 48 ? 1 : 6)
    if (halfWidth(input, hours, stays) < smallest) hoursNeeded = Math.max(hours, input.plannedHours);
  return done({ halfWidthMmPerDay: half, excludesMmPerDay: surely, verdict, hoursNeeded });
}
