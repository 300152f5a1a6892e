import type { Language } from '../texts/language';

/** How moments are written. */
export const TIME_LOCALES: Record<Language, string> = { en: 'en-US', es: 'es-US' };

/** The language that days and months are named in, and the zone that the reader's own clock shows; null where there is no such reader. */
const spoken: { language: Language; here: string | null } = { language: 'en', here: null };

/**
 * Names days and months in this language from now on, in moments that no one asks in another. A moment of a site whose clock
 * shows another time than the reader's `here` is told with the name of its zone; paper, that nobody reads by a clock, has no `here`.
 */
export function nameTimesIn(language: Language, here: string | null = null): void {
  Object.assign(spoken, { language, here });
}

/** Formats by their locale, zone and fields: making one is slow. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** The fields of a moment that are written by themselves. */
const FIELDS = {
  weekday: { weekday: 'short' },
  weekdayLong: { weekday: 'long' },
  day: { day: 'numeric' },
  month: { month: 'short' },
  year: { year: 'numeric' },
  hour: { hour: '2-digit' },
  minute: { minute: '2-digit' },
} satisfies Record<string, Intl.DateTimeFormatOptions>;

/** One field of a moment, as its locale writes it by itself. */
function field(ms: number, zone: string | undefined, name: keyof typeof FIELDS): string {
  const locale = TIME_LOCALES[spoken.language];
  const key = `${locale} ${zone ?? ''} ${name}`;
  const known = formats.get(key);
  const format =
    known ??
    new Intl.DateTimeFormat(locale, { ...FIELDS[name], hourCycle: 'h23', ...(zone ? { timeZone: zone } : {}) });
  if (!known) formats.set(key, format);
  const [type] = Object.keys(FIELDS[name]);
  const text = format.formatToParts(ms).find((part) => part.type === type)!.value;
  return name === 'hour' || name === 'minute' ? text.padStart(2, '0') : text;
}

/** A time of day, as 07:05, where the site is or else where the reader is. `ms` since 1970. */
export const clockWords = (ms: number, zone?: string): string =>
  `${field(ms, zone, 'hour')}:${field(ms, zone, 'minute')}`;

/** The day of the week written out. `ms` since 1970. */
export const weekdayWords = (ms: number, zone?: string): string => field(ms, zone, 'weekdayLong');

/** The name of a zone behind a moment, where its clocks show another time than the reader's; else nothing. */
function otherZone(ms: number, zone: string | undefined): string {
  const { here } = spoken;
  if (!zone || here === null || zone === here) return '';
  const shows = (where: string) => `${field(ms, where, 'day')} ${clockWords(ms, where)}`;
  return shows(zone) === shows(here) ? '' : ` (${zone.split('/').at(-1)!.replaceAll('_', ' ')})`;
}

/** A moment of these days: day of the week and time, as Tue 07:05. `ms` since 1970. */
export const hourWords = (ms: number, zone?: string): string =>
  `${field(ms, zone, 'weekday')} ${clockWords(ms, zone)}${otherZone(ms, zone)}`;

/** A day in words, where the site is or else where the reader is. `ms` since 1970. */
export function dayWords(ms: number, zone?: string): string {
  return `${field(ms, zone, 'weekday')} ${field(ms, zone, 'day')} ${field(ms, zone, 'month')}`;
}

/** A moment as day and time, where the site is or else where the reader is. `ms` since 1970. */
export function momentWords(ms: number, zone?: string): string {
  return `${dayWords(ms, zone)}, ${clockWords(ms, zone)}${otherZone(ms, zone)}`;
}

/** A moment with its year, as a record keeps it for whoever reads it years later. `ms` since 1970. */
export function datedWords(ms: number, zone?: string): string {
  return `${dayWords(ms, zone)} ${field(ms, zone, 'year')}, ${clockWords(ms, zone)}`;
}

/** A day as a heading: day of the week, month and day, all written out. `ms` since 1970. */
export const longDayWords = (ms: number, zone: string): string =>
  new Intl.DateTimeFormat(TIME_LOCALES[spoken.language], {
    weekday: 'long',
    month: 'long',
    day: 'numeric',
    timeZone: zone,
  }).format(ms);

/** A month, as `2026-11`, by its name and year in a language. */
export const monthWords = (month: string, language: string): string =>
  new Intl.DateTimeFormat(language, { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
    Date.parse(`${month}-01T00:00:00Z`),
  );
