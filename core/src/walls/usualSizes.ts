/** Diameter of the hole that each kind of opening is given, mm [common practice, no source]. */
export const OPENING_MM = {
  valve: 127,
  'shower-arm': 38,
  spout: 38,
  'body-spray': 38,
  'steam-inlet': 38,
  other: 50,
} as const;

/** Thickness that a shelf is drawn with, mm: 3/4 in [common practice, no source]. */
export const SHELF_MM = 19;
