import { US_CUP_L, US_GALLON_L } from '@careful-seam/core/units/measures';

/** In what volumes are typed and shown. */
type Unit = 'in' | 'mm';

/** Litres of each unit that can be typed. */
const LITRES: Record<string, number> = {
  gal: US_GALLON_L,
  gallon: US_GALLON_L,
  gallons: US_GALLON_L,
  qt: US_GALLON_L / 4,
  pt: US_GALLON_L / 8,
  cup: US_CUP_L,
  cups: US_CUP_L,
  'fl oz': US_GALLON_L / 128,
  l: 1,
  ml: 0.001,
};

/** A volume as typed, L: a bare figure is in gallons or litres; "3 qt", "1 1/2 gal", "350 ml" say theirs. Null: unreadable. */
export function readVolume(text: string, unit: Unit): number | null {
  const found = /^(?:(\d+)[\s-]+)?(?:(\d+)\s*\/\s*(\d+)|(\d+(?:[.,]\d+)?|[.,]\d+))\s*([a-z ]*?)\.?$/i.exec(text.trim());
  if (!found) return null;
  const [, whole, top, bottom, plain, name] = found;
  if (bottom !== undefined && Number(bottom) === 0) return null;
  if (whole !== undefined && plain !== undefined) return null;
  const figure =
    plain !== undefined ? Number(plain.replace(',', '.')) : Number(whole ?? 0) + Number(top) / Number(bottom);
  const each = LITRES[(name || (unit === 'in' ? 'gal' : 'l')).toLowerCase().replace(/\s+/g, ' ')];
  return each === undefined || !Number.isFinite(figure) ? null : figure * each;
}

/** A film as typed, µm: a bare figure is in mils or micrometres; "22 mil", "560 um" and "0.5 mm" say theirs. Null: unreadable. */
export function readFilm(text: string, unit: Unit): number | null {
  const found = /^(\d+(?:[.,]\d+)?)\s*(mils?|um|µm|mm)?$/i.exec(text.trim());
  if (!found) return null;
  const figure = Number(found[1]!.replace(',', '.'));
  const name = (found[2] ?? (unit === 'in' ? 'mil' : 'um')).toLowerCase();
  return name.startsWith('mil') ? figure * 25.4 : name === 'mm' ? figure * 1000 : figure;
}

/** A cubic foot, L: what mortar and gravel are sold by. */
const FT3_L = 28.316846592;

/** A volume of mortar as it is bought: cubic feet, or litres. */
export const mortarWords = (litres: number, unit: Unit): string =>
  unit === 'in' ? `${(litres / FT3_L).toFixed(2)} ft³` : `${litres.toFixed(1)} L`;
