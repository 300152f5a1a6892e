import { done, type Outcome, refuse } from '../outcome/outcome';
import type { FloodEventKind } from './floodEvents';

/** A level read at a time: hours since the start of the test, mm above the drain rim (or any fixed mark), up positive. */
export interface LevelReading {
  atHours: number;
  levelMm: number;
}

/** Something that broke the series: water added, the plug moved, the logger without power, something stepped into the water. */
export interface FloodEvent {
  atHours: number;
  kind: FloodEventKind;
  of?: 'water' | 'pan';
}

/** A run of readings between two breaks: one loss rate over all of them, a level of its own for each. */
export interface Segment {
  hours: number[];
  levelMm: number[];
}

/** What a series can say that cannot be, or that decides nothing until somebody explained it. */
export const LEVEL_QUESTIONS = [
  'level-rose',
  'level-jumped',
  'level-rises',
  'level-stuck',
  'begins-late',
  'pan-rose',
  'pan-jumped',
  'pan-rises',
  'pan-stuck',
  'pan-begins-late',
  'pan-ends-early',
  'less-than-nothing',
  'loss-slowed',
] as const;
/** A change of level that nobody explained, or a series that says what can't be. It is asked about, never averaged over. */
export interface LevelQuestion {
  kind: (typeof LEVEL_QUESTIONS)[number];
  atHours: number;
  byMm: number;
}

/** Refuses readings out of order, doubled, or before the start, naming the one. */
export function checkReadings(readings: readonly LevelReading[], field: string): Outcome<null> {
  for (const [i, r] of readings.entries()) {
    const before = readings[i - 1];
    const name = `${field}.${i}.atHours`;
    if (r.atHours < 0) return refuse('reading-before-start', name, { reading: i + 1 });
    if (before && r.atHours === before.atHours)
      return refuse('readings-at-one-time', name, { first: i, second: i + 1 });
    if (before && r.atHours < before.atHours) return refuse('reading-back', name, { reading: i + 1 });
  }
  return done(null);
}

/** Hours to each side of a break in which a logger's readings are left out: the water is still being moved. */
const SETTLE_HOURS = 0.25;

/** Splits readings at the events that break the series; a moved plug starts the test anew. */
export function splitAtEvents(
  readings: readonly LevelReading[],
  breaks: readonly number[],
  settleHours: number,
): Segment[] {
  const segments: Segment[] = [];
  const ends = [...breaks].sort((a, b) => a - b);
  for (const r of readings) {
    if (ends.some((at) => Math.abs(r.atHours - at) < settleHours)) continue;
    const index = ends.filter((at) => at < r.atHours).length;
    segments[index] ??= { hours: [], levelMm: [] };
    segments[index].hours.push(r.atHours);
    segments[index].levelMm.push(r.levelMm);
  }
  return segments.filter((s) => s !== undefined && s.hours.length > 0);
}

/** Hours round a break in which readings are left out: none for marks, which a person takes when the water is still. */
export const settleFor = (method: 'marks' | 'logger'): number => (method === 'logger' ? SETTLE_HOURS : 0);

/** Marks that rise by more than one step and what an eye may miss: each may be off by half a step, so that one step alone says nothing. */
export function questionsOfMarks(segments: readonly Segment[], resolutionMm: number, eyeMm = 0): Jump[] {
  return segments.flatMap((s) =>
    s.levelMm.slice(1).flatMap((level, i): Jump[] => {
      const byMm = level - s.levelMm[i]!;
      return byMm > resolutionMm * 1.01 + 3 * eyeMm ? [{ kind: 'level-rose', atHours: s.hours[i + 1]!, byMm }] : [];
    }),
  );
}

/** The middle value of a list. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** mm that a jump in a logger's series has at least before anybody is asked about it [common practice, no source]. */
const JUMP_AT_LEAST_MM = 1.5;
/** Robust standard deviations of the usual change over the same lag. */
const JUMP_SIGMAS = 6;

type Jump = LevelQuestion & { kind: 'level-rose' | 'level-jumped' };

function jumpsIn(s: Segment, resolutionMm: number): Jump[] {
  const n = s.levelMm.length;
  const width = n >= 40 ? 5 : 2;
  if (n < 2 * width + 2) return [];
  const changes: number[] = [];
  for (let i = width; i + width <= n; i += 1)
    changes.push(median(s.levelMm.slice(i, i + width)) - median(s.levelMm.slice(i - width, i)));
  const usual = median(changes);
  const spread = 1.4826 * median(changes.map((c) => Math.abs(c - usual)));
  const limit = Math.max(JUMP_AT_LEAST_MM, 10 * resolutionMm, JUMP_SIGMAS * spread);
  const questions: Jump[] = [];
  for (let k = 0; k < changes.length; k += 1) {
    if (Math.abs(changes[k]! - usual) <= limit) continue;
    let end = k;
    while (end + 1 < changes.length && Math.abs(changes[end + 1]! - usual) > limit) end += 1;
    const peak =
      changes.slice(k, end + 1).reduce((best, c, i, all) => (Math.abs(c) > Math.abs(all[best]!) ? i : best), 0) + k;
    const kind = changes[peak]! > 0 ? 'level-rose' : 'level-jumped';
    questions.push({ kind, atHours: jumpTime(s, peak, width), byMm: changes[peak]! });
    k = end + width;
  }
  return questions;
}

/** The middle of the largest single change near a jump found over a wider window. */
function jumpTime(s: Segment, at: number, width: number): number {
  let best = at + width;
  const from = Math.max(1, at);
  for (let i = from; i < Math.min(s.levelMm.length, at + 2 * width); i += 1) {
    const change = Math.abs(s.levelMm[i]! - s.levelMm[i - 1]!);
    if (change > Math.abs(s.levelMm[best]! - s.levelMm[best - 1]!)) best = i;
  }
  return (s.hours[best]! + s.hours[best - 1]!) / 2;
}

/** Jumps in a logger's series that no event explains: water added, a reset, the logger knocked. */
export function questionsOfLogger(segments: readonly Segment[], resolutionMm: number): Jump[] {
  return segments.flatMap((s) => jumpsIn(s, resolutionMm));
}

/** A gauge finer than this never shows the same level for hours while water stands open, mm [common practice, no source]. */
const FINE_MM = 0.25;
const STUCK_HOURS = 6;
const STUCK_READINGS = 12;

/** A run of the very same reading over hours: a dead gauge, or one that stands dry. Null where there is none. */
export function stuckIn(readings: readonly LevelReading[], stepMm: number): { atHours: number; hours: number } | null {
  if (stepMm > FINE_MM) return null;
  let from = 0;
  for (let i = 1; i <= readings.length; i += 1) {
    if (i < readings.length && readings[i]!.levelMm === readings[from]!.levelMm) continue;
    const hours = readings[i - 1]!.atHours - readings[from]!.atHours;
    if (hours >= STUCK_HOURS && i - from >= STUCK_READINGS) return { atHours: readings[from]!.atHours, hours };
    from = i;
  }
  return null;
}
