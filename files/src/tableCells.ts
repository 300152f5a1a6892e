import { DateTime } from 'luxon';

/** How days are written: 2025-04-03, 4/3/2025 or 3/4/2025. */
export const DAY_ORDERS = ['ymd', 'mdy', 'dmy'] as const;
/** One of them. */
export type DayOrder = (typeof DAY_ORDERS)[number];

/** Letters and figures in small letters without marks, one blank between words. */
export const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** A day's three figures as they stand. */
const FIGURES = /^(\d{1,4})[./\-\s](\d{1,2})[./\-\s](\d{1,4})(?:[T\s].*)?$/;

/** The order of figures that days are written in, and whether another one would do as well. */
export function dayOrderOf(cells: readonly string[]): { days: DayOrder; sure: boolean } {
  const read = cells.flatMap((cell) => {
    const found = FIGURES.exec(cell);
    return found ? [[found[1]!, found[2]!] as const] : [];
  });
  // A year in front says nothing of the others.
  const short = read.filter(([a]) => a.length < 4);
  if (short.length === 0) return { days: read.length > 0 ? 'ymd' : 'mdy', sure: true };
  const [mdy, dmy] = [short.every(([a]) => Number(a) <= 12), short.every(([, b]) => Number(b) <= 12)];
  return { days: dmy && !mdy ? 'dmy' : 'mdy', sure: mdy !== dmy };
}

/** A day as it is written, ISO 8601; null where it is none. */
export function readDay(cell: string, days: DayOrder): string | null {
  const found = FIGURES.exec(cell);
  if (!found) return null;
  const [, a, b, c] = found.map(String) as [string, string, string, string];
  // A year of four figures in front is one in any order.
  const [year, month, day] = a.length === 4 ? [a, b, c] : days === 'dmy' ? [c, b, a] : [c, a, b];
  if (year.length !== 4 && year.length !== 2) return null;
  const at = DateTime.fromObject({
    year: Number(year) + (year.length === 2 ? 2000 : 0),
    month: Number(month),
    day: Number(day),
  });
  return at.isValid ? at.toISODate() : null;
}

/** A figure with a point or a comma, with or without a sign of money; null where it is none. */
export function readFigure(cell: string): number | null {
  const bare = cell.replaceAll(/[\s$€£]/g, '');
  if (!/^\d[\d.,]*$/.test(bare)) return null;
  const last = Math.max(bare.lastIndexOf('.'), bare.lastIndexOf(','));
  const after = bare.length - last - 1;
  const signs = bare.replaceAll(/\d/g, '');
  // One sign with three figures behind it, or several alike, part thousands: 1,250 and 1.250.000.
  const thousands = last >= 0 && (signs.length > 1 ? new Set(signs).size === 1 : after === 3);
  const whole = last < 0 || thousands ? bare : bare.slice(0, last);
  const figure = Number(`${whole.replaceAll(/[.,]/g, '')}${last < 0 || thousands ? '' : `.${bare.slice(last + 1)}`}`);
  return Number.isFinite(figure) ? figure : null;
}
