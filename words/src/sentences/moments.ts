import type { Language } from '../texts/language';

/** How moments are written. */
export const TIME_LOCALES: Record<Language, string> = { en: 'en-US', es: 'es-US' };

/** The language that days and months are named in. */
const spoken: { language: Language } = { language: 'en' };

/** Names days and months in this language from now on, in moments that no one asks in another. */
export function nameTimesIn(language: Language): void {
  spoken.language = language;
}

/** Formats by their locale, zone and fields: making one is slow. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** One field of a moment, as its locale writes it by itself. */
function field(ms: number, zone: string | undefined, name: 'weekday' | 'day' | 'month' | 'hour' | 'minute'): string {
  const locale = TIME_LOCALES[spoken.language];
  const key = `${locale} ${zone ?? ''} ${name}`;
  const style = name === 'weekday' || name === 'month' ? 'short' : name === 'day' ? 'numeric' : '2-digit';
  const known = formats.get(key);
  const format =
    known ?? new Intl.DateTimeFormat(locale, { [name]: style, hourCycle: 'h23', ...(zone ? { timeZone: zone } : {}) });
  if (!known) formats.set(key, format);
  const text = format.formatToParts(ms).find((part) => part.type === name)!.value;
  return name === 'hour' || name === 'minute' ? text.padStart(2, '0') : text;
}

/** A day in words, where the site is or else where the reader is. `ms` since 1970. */
export function dayWords(ms: number, zone?: string): string {
  return `${field(ms, zone, 'weekday')} ${field(ms, zone, 'day')} ${field(ms, zone, 'month')}`;
}

/** A moment as day and time, where the site is or else where the reader is. `ms` since 1970. */
export function momentWords(ms: number, zone?: string): string {
  return `${dayWords(ms, zone)}, ${field(ms, zone, 'hour')}:${field(ms, zone, 'minute')}`;
}
