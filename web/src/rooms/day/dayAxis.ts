import { TZDate } from '@date-fns/tz';
import { addDays, startOfDay, set as withFields } from 'date-fns';

/** Hours of a site's day that the band shows; a crew begins at the second one [common practice, no source]. */
const FROM_HOUR = 6;
/** Crews begin at this hour [common practice, no source]. */
const CREW_HOUR = 7;
/** The band of a day ends at this hour. */
const TO_HOUR = 18;

/** A part of the band: the hours of one day. */
export interface DayPart {
  /** Its day, at the site. */
  day: TZDate;
  /** Its first moment, ms since 1970. */
  fromMs: number;
  /** Its last moment, ms since 1970. */
  toMs: number;
  /** Share of the band's width at which it begins, and its width. */
  at: number;
  /** Share of the band, 0 to 1. */
  width: number;
}

/** Today's hours over most of the band, tomorrow's behind them; the night between is left out. */
export function dayParts(nowMs: number, zone: string, tomorrow: boolean): DayPart[] {
  const today = startOfDay(new TZDate(nowMs, zone));
  const part = (day: TZDate, at: number, width: number): DayPart => ({
    day,
    fromMs: withFields(day, { hours: FROM_HOUR }).getTime(),
    toMs: withFields(day, { hours: TO_HOUR }).getTime(),
    at,
    width,
  });
  return tomorrow ? [part(today, 0, 0.7), part(addDays(today, 1), 0.72, 0.28)] : [part(today, 0, 1)];
}

/** Place of a moment on the band, 0 to 1, or null where the band does not show it. */
export function placeOnBand(parts: readonly DayPart[], ms: number): number | null {
  const part = parts.find((p) => ms >= p.fromMs && ms <= p.toMs);
  return part ? part.at + ((ms - part.fromMs) / (part.toMs - part.fromMs)) * part.width : null;
}

/** The same for what must be drawn in any case: before the band at its begin, after a day's hours at their end. */
export function nearestOnBand(parts: readonly DayPart[], ms: number): number {
  const part = parts.findLast((p) => ms >= p.fromMs) ?? parts[0]!;
  const share = Math.min(1, Math.max(0, (ms - part.fromMs) / (part.toMs - part.fromMs)));
  return part.at + share * part.width;
}

/** Where something lies on the band. */
export interface Piece {
  /** Share of the band from its left, 0 to 1. */
  from: number;
  /** Share of the band from its left, 0 to 1. */
  to: number;
}

/** The visible pieces of a stretch of time; an open one runs to the end of the band. */
export function piecesOnBand(parts: readonly DayPart[], fromMs: number, toMs: number | null): Piece[] {
  return parts.flatMap((p) => {
    const from = Math.max(fromMs, p.fromMs);
    const to = Math.min(toMs ?? p.toMs, p.toMs);
    if (to <= from) return [];
    const share = (ms: number) => p.at + ((ms - p.fromMs) / (p.toMs - p.fromMs)) * p.width;
    return [{ from: share(from), to: share(to) }];
  });
}

/** When a crew begins on the day of a moment, ms. */
export const crewMorning =
  (zone: string) =>
  (ms: number): number =>
    withFields(new TZDate(ms, zone), { hours: CREW_HOUR, minutes: 0, seconds: 0, milliseconds: 0 }).getTime();
