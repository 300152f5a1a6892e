import { MINUTE_HOURS } from './floodVerdict';
import type { FloodVerdictInput } from './floodVerdictInput';
import { INSTRUMENTS, stepOf } from './gauge';
import {
  type FloodEvent,
  type LevelQuestion,
  type LevelReading,
  questionsOfLogger,
  questionsOfMarks,
  type Segment,
  settleFor,
  splitAtEvents,
  stuckIn,
} from './series';

const BREAKS_WATER: readonly FloodEvent['kind'][] = ['refill', 'plug-moved', 'power-cut', 'step'];
/** A first reading this long after the water went in vouches for the hours since [common practice, no source]. */
export const SETTLED_WITHIN_HOURS = 2;
/** Hours after filling that a logger's readings are left out where nothing else is said [common practice, no source]. */
const SETTLE_HOURS = 0.5;
/** The readings as they count. */
export interface Prepared {
  readings: LevelReading[];
  segments: Segment[];
  questions: LevelQuestion[];
  /** Hours after filling from which they count. */
  startHours: number;
  /** The full step of the gauge, mm. */
  stepMm: number;
  /** How far a person misjudges within a step, mm. */
  eyeMm: number;
}
/** Readings from a time on; where the next one comes much later, the one before it as well. */
function settled(readings: readonly LevelReading[], fromHours: number, soonHours: number): LevelReading[] {
  const first = readings.findIndex((r) => r.atHours >= fromHours);
  if (first <= 0) return [...readings];
  return readings.slice(readings[first]!.atHours > soonHours ? first - 1 : first);
}
/** Water readings as they count: settled, after the last time the plug was moved, split at the events, jumps asked about. */
export function prepare(input: FloodVerdictInput): Prepared {
  const { method } = input;
  const events = (input.events ?? []).filter((e) => (e.of ?? 'water') === 'water' && BREAKS_WATER.includes(e.kind));
  const startHours = Math.max(0, ...events.filter((e) => e.kind === 'plug-moved').map((e) => e.atHours));
  const settleHours = input.settleHours ?? (method === 'logger' ? SETTLE_HOURS : 0);
  const readings = settled(
    startHours > 0 ? input.readings.filter((r) => r.atHours > startHours) : input.readings,
    startHours + settleHours - MINUTE_HOURS,
    startHours + SETTLED_WITHIN_HOURS,
  );
  const stepMm = stepOf(
    readings.map((r) => r.levelMm),
    input.resolutionMm,
  );
  const eyeMm = input.eyeErrorMm ?? INSTRUMENTS.marks.eyeMm;
  const breaks = events.map((e) => e.atHours);
  const settle = settleFor(method);
  const known = splitAtEvents(readings, breaks, settle);
  const jumps = method === 'marks' ? questionsOfMarks(known, stepMm, eyeMm) : questionsOfLogger(known, stepMm);
  const questions: LevelQuestion[] = [...jumps];
  const stuck = method === 'logger' ? stuckIn(readings, stepMm) : null;
  if (stuck) questions.push({ kind: 'level-stuck', atHours: stuck.atHours, byMm: 0 });
  const first = readings[0]?.atHours;
  if (method === 'logger' && first !== undefined && first > startHours + SETTLED_WITHIN_HOURS)
    questions.push({ kind: 'begins-late', atHours: first, byMm: 0 });
  const segments = splitAtEvents(readings, [...breaks, ...jumps.map((q) => q.atHours - 1e-9)], settle);
  return { readings, segments, questions, startHours, stepMm, eyeMm };
}
