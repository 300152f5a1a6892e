import type { TakeOffUnit } from '@careful-seam/core/materials/takeOffItem';
import { parseLength } from '@careful-seam/core/units/length';
import { FT2_PER_M2 } from '@careful-seam/core/units/measures';
import { areaWords, bucketWords } from '@careful-seam/words/sentences/filmWords';
import { readVolume } from '../../shared/volumes';

/** In what amounts are typed and shown. */
type Unit = 'in' | 'mm';
/** A foot, mm. */
const MM_PER_FT = 304.8;

/** An amount of a take-off in the person's unit: feet or metres, gallons or litres, square feet or metres, pieces. */
export function amountWords(amount: number, of: TakeOffUnit, unit: Unit): string {
  if (of === 'L') return bucketWords(amount, unit);
  if (of === 'm2') return areaWords(amount, unit);
  if (of === 'count') return String(Math.round(amount));
  return unit === 'in' ? `${(amount / MM_PER_FT).toFixed(1)} ft` : `${(amount / 1000).toFixed(1)} m`;
}

/** An amount as typed, in the item's own unit; null where it can't be read. A bare length is in feet or metres. */
export function readAmount(text: string, of: TakeOffUnit, unit: Unit): number | null {
  const bare = Number(text.trim().replace(',', '.'));
  const isBare = text.trim() !== '' && Number.isFinite(bare) && bare >= 0;
  if (of === 'L') return readVolume(text, unit);
  if (of === 'm2') return isBare ? (unit === 'in' ? bare / FT2_PER_M2 : bare) : null;
  if (of === 'count') return isBare ? bare : null;
  if (isBare) return unit === 'in' ? bare * MM_PER_FT : bare * 1000;
  const length = parseLength(text, unit);
  return length.ok ? length.value.mm : null;
}
