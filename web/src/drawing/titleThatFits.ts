/** A letter of a title over a part of the map is about so wide, px: semi-bold of 13 px. */
const LETTER_PX = 7.2;

/** The name of a part of the map, or its short one where the name is wider than the part: beside it stands the next one's. */
export const titleThatFits = (widthPx: number, name: string, short: string): string =>
  name.length * LETTER_PX > widthPx ? short : name;
