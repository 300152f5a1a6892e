import { done, type Outcome, refuse } from '../outcome/outcome';
import { add, fromDecimal, multiply, type Rational, rational, toNumber } from './rational';

/** In what a length can be typed; a mil is a thousandth of an inch. */
export const LENGTH_UNITS = ['in', 'mm', 'mil'] as const;
/** One of them. */
export type LengthUnit = (typeof LENGTH_UNITS)[number];

/** A length as read: millimetres (exact where a double can be), the unit it was written in, the tidy way to show it. */
export interface ReadLength {
  mm: number;
  unit: LengthUnit;
  shown: string;
}

/** 1 in = 25.4 mm exactly (international inch, 1959). */
export const MM_PER_INCH = 25.4;
const MM_OF_INCH = rational(254n, 10n);
const NUMBER = String.raw`\d+(?:[.,]\d+)?|[.,]\d+`;
const MIXED = new RegExp(String.raw`^(?:(\d+)[\s-]+)?(\d+)\s*/\s*(\d+)$|^(${NUMBER})$`);
/** Nothing in a shower is longer than 100 m: a larger figure is a slip. */
const MOST_MM = 100_000;

function readMixed(text: string): Rational | null {
  const match = MIXED.exec(text.trim());
  if (!match) return null;
  const [, whole, top, bottom, plain] = match;
  if (plain !== undefined) return fromDecimal(plain);
  if (BigInt(bottom!) === 0n) return null;
  return add(rational(BigInt(whole ?? '0')), rational(BigInt(top!), BigInt(bottom!)));
}

const METRIC: Record<string, Rational> = {
  mm: rational(1n),
  cm: rational(10n),
  m: rational(1000n),
};
const INCH_MARK = /(?:"|″|”|''|in\.?|inch(?:es)?)$/;
const FOOT_MARK = /^(.+?)\s*(?:'(?!')|′|’|ft\.?|feet|foot)\s*-?\s*(.*)$/;

function readInches(text: string): Rational | null {
  const foot = FOOT_MARK.exec(text);
  const rest = (foot ? foot[2]! : text).replace(INCH_MARK, '').trim();
  const feet = foot ? readMixed(foot[1]!) : rational(0n);
  if (feet === null) return null;
  if (foot && rest === '') return multiply(feet, rational(12n));
  const inches = readMixed(rest);
  return inches && add(multiply(feet, rational(12n)), inches);
}

function readWithUnit(text: string, assume: LengthUnit): { mm: Rational; unit: LengthUnit } | null {
  const metric = /^(.*?)\s*(mm|cm|m)$/.exec(text);
  if (metric) {
    const value = readMixed(metric[1]!);
    return value && { mm: multiply(value, METRIC[metric[2]!]!), unit: 'mm' };
  }
  const mil = /^(.*?)\s*mils?$/.exec(text);
  const inMils = (value: Rational) => ({ mm: multiply(value, rational(254n, 10_000n)), unit: 'mil' as const });
  if (mil) {
    const value = readMixed(mil[1]!);
    return value && inMils(value);
  }
  const bare = readMixed(text);
  if (bare && assume === 'mm') return { mm: bare, unit: 'mm' };
  if (bare && assume === 'mil') return inMils(bare);
  const inches = bare ?? readInches(text);
  return inches && { mm: multiply(inches, MM_OF_INCH), unit: 'in' };
}

/**
 * Reads a length the way people write it: `2 1/4`, `2-1/4"`, `1/16`, `3' 4 1/2"`, `57 mm`, `5,7 cm`, `22 mil`.
 * A bare number takes the unit `assume` (default inches). Negative lengths and figures over 100 m are refused.
 */
export function parseLength(text: string, assume: LengthUnit = 'in', field = 'text'): Outcome<ReadLength> {
  const tidy = text.trim().toLowerCase().replace(/\s+/g, ' ');
  if (tidy === '') return refuse('length-empty', field);
  if (/^[-−–]/.test(tidy)) {
    return refuse('length-negative', field, { text: text.trim() });
  }
  const read = readWithUnit(tidy, assume);
  if (!read) return refuse('length-unreadable', field, { text: text.trim() });
  const mm = toNumber(read.mm);
  if (mm > MOST_MM) {
    return refuse('length-too-long', field, { text: text.trim() });
  }
  return done({ mm, unit: read.unit, shown: showLength(mm, read.unit) });
}

function sixteenths(mm: number, parts: number): string {
  const count = Math.round((mm / MM_PER_INCH) * parts);
  const sign = count < 0 ? '-' : '';
  const size = Math.abs(count);
  const whole = Math.floor(size / parts);
  let top = size % parts;
  let bottom = parts;
  while (top !== 0 && top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  if (top === 0) return `${sign}${whole}`;
  return `${sign}${whole === 0 ? '' : `${whole} `}${top}/${bottom}`;
}

/** Into how many parts of an inch a length under one was read: what is no whole sixteenth was read off a feeler. */
function partsRead(mm: number): number {
  const inches = Math.abs(mm) / MM_PER_INCH;
  const isWhole = (parts: number) => Math.abs(inches * parts - Math.round(inches * parts)) < 1e-6;
  return inches < 1 ? ([16, 32, 64].find(isWhole) ?? 16) : 16;
}

/**
 * A length for a person, without rounding twice: inches to the nearest 1/16 (or 1/32; under an inch what was read in 32nds
 * or 64ths stays so), millimetres to the nearest whole one, mils to a tenth. Never 15.98/16.
 */
export function showLength(mm: number, unit: LengthUnit, inchParts?: 16 | 32): string {
  switch (unit) {
    case 'in':
      return `${sixteenths(mm, Math.max(inchParts ?? 16, partsRead(mm)))} in`;
    case 'mm':
      return `${Math.round(mm)} mm`;
    case 'mil':
      return `${Math.round((mm / MM_PER_INCH) * 10_000) / 10} mil`;
  }
}

/** A length as it stands in a field: as it is shown, without its unit. */
export const bareLength = (mm: number, unit: LengthUnit, inchParts?: 16 | 32): string =>
  showLength(mm, unit, inchParts).replace(/ (in|mm|mil)$/, '');

/** Totals under this are told in inches, those from it on in feet, mm. */
const FEET_FROM_MM = 24 * MM_PER_INCH;

/**
 * A total as people say it, with its unit: whole feet, or inches where it is short; metres with one place, or millimetres by tens. What
 * is there at all is never told as nothing. For sums of many lengths: what was measured is shown by `showLength`. [own arithmetic]
 */
export function showTotal(mm: number, unit: 'in' | 'mm'): string {
  const whole = (value: number) => (mm > 0 ? Math.max(1, Math.round(value)) : 0);
  if (unit === 'mm') return mm < 1000 ? `${whole(mm / 10) * 10} mm` : `${(mm / 1000).toFixed(1)} m`;
  return mm < FEET_FROM_MM ? `${whole(mm / MM_PER_INCH)} in` : `${whole(mm / MM_PER_INCH / 12)} ft`;
}
