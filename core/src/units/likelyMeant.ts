import type { LimitOfKeys } from './keysAround';
import { type LengthUnit, MM_PER_INCH, parseLength } from './length';

/** A value so many times the limit, and so much more, is asked about [common practice, no source]. */
const FAR_TIMES = 4;
const FAR_MM = MM_PER_INCH;
/** Denominators that stand on a rule. */
const RULED = [2, 4, 8, 16, 32];

/** True for a value that nobody reads where such a limit is kept, mm: far over it, or next to nothing of it. */
export function isFar({ atLeast, atMost }: LimitOfKeys, mm: number): boolean {
  const size = Math.max(atLeast ?? 0, atMost ?? 0);
  if (size <= 0) return false;
  return mm > FAR_TIMES * size + FAR_MM || (atLeast !== undefined && mm > 0 && mm < atLeast / (2 * FAR_TIMES));
}

/** True for a fraction that is more than one without a whole number before it: a space was left out, or it was meant so. */
function isImproper(text: string): boolean {
  const read = /^(\d+)\/(\d+)$/.exec(text.trim());
  return read !== null && Number(read[1]) > Number(read[2]);
}

/** What digits without a space may have been meant as: 225 as 2.25, 214 as 2 1/4, 1516 as 15/16, 21/4 as 2 1/4. */
function readings(text: string, unit: LengthUnit): string[] {
  const tidy = text.trim();
  const fraction = /^(\d+)\/(\d+)$/.exec(tidy);
  if (fraction) {
    const [, digits, under] = fraction as unknown as [string, string, string];
    return [1, 2].flatMap((k) => {
      const [whole, over] = [digits.slice(0, -k), digits.slice(-k)];
      return whole !== '' && Number(over) > 0 && Number(over) < Number(under) ? [`${whole} ${over}/${under}`] : [];
    });
  }
  if (!/^\d{2,5}$/.test(tidy)) return [];
  const found: string[] = [];
  for (let k = 0; k < tidy.length; k += 1) {
    const [whole, rest] = [tidy.slice(0, k), tidy.slice(k)];
    for (const under of RULED) {
      if (!rest.endsWith(String(under))) continue;
      const over = rest.slice(0, -String(under).length);
      if (over !== '' && over !== '0' && Number(over) < under && Number(over) % 2 === 1)
        found.push(`${whole} ${over}/${under}`.trim());
    }
    // A decimal that stands on no inch rule was not read from one.
    const isMark = unit !== 'in' || Number.isInteger(Number(`${whole}.${rest}`) * 32);
    if (whole !== '' && !rest.endsWith('0') && isMark) found.push(`${whole}.${rest}`);
  }
  return found;
}

/** What is asked about before it is kept: what was typed, mm, and what it was likely meant as, as it would be typed; null for nothing. */
export interface Doubt {
  /** What was typed comes to this, mm. */
  mm: number;
  /** As it would be typed; null where nothing lies near. */
  meant: string | null;
}

/**
 * Whether a typed length is asked about: it is far from its limit, or a fraction that may lack its space. Gives what was likely meant:
 * of what the digits may be read as the one that lies nearest to the limit; null where the length is taken as it is.
 */
export function doubtOf(text: string, unit: LengthUnit, limit: LimitOfKeys): Doubt | null {
  const read = parseLength(text, unit);
  if (!read.ok) return null;
  const { mm } = read.value;
  const improper = isImproper(text);
  if (!improper && !isFar(limit, mm)) return null;
  const about = limit.atLeast ?? limit.atMost ?? mm;
  const near = readings(text, unit)
    .flatMap((typed) => {
      const other = parseLength(typed, unit);
      return other.ok && !isFar(limit, other.value.mm) ? [{ typed, off: Math.abs(other.value.mm - about) }] : [];
    })
    .sort((a, b) => a.off - b.off)[0];
  // A fraction over one that reads as nothing else is what it says.
  if (improper && !near && !isFar(limit, mm)) return null;
  return { mm, meant: near?.typed ?? null };
}
