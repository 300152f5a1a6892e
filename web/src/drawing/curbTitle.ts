import type { Words } from '@careful-seam/words/texts/language';

/** A letter of a title over a part of the map is about so wide, px: semi-bold of 13 px. */
const LETTER_PX = 7.2;

/** The name of a curb on the map, or its short one where the name is wider than the part: beside it stands the next one's. */
export function curbTitle(t: Words, widthPx: number, letter: string | null): string {
  const name = t('map.curb', { letter });
  return name.length * LETTER_PX > widthPx ? t('map.curbShort', { letter }) : name;
}
