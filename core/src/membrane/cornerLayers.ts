import type { Layer } from './layerStack';
import { USUAL_LAP_MM } from './usualLap';

/** How bands meet at a corner of the floor: cut short on the corner piece, or run through to the wall. */
export const BAND_ENDS = ['stopped-short', 'run-through'] as const;
/** How a band ends at a corner piece: stopped short of it or run through. */
export type BandEnds = (typeof BAND_ENDS)[number];

/** Sizes of what is laid at a corner, mm; thicknesses µm. */
export interface CornerPieces {
  /** Leg of the preformed corner on the floor, a little over 2 in. */
  cornerLegMm: number;
  /** Leg of the band on the floor after its crease. */
  bandLegMm: number;
  /** What a band must lap onto the corner piece. */
  lapMm: number;
  /** How much floor is drawn from the corner. */
  viewMm: number;
  /** Thickness of the sheet, µm. */
  sheetUm: number;
  /** Thickness of a band, µm. */
  bandUm: number;
  /** Thickness of a corner piece, µm. */
  cornerUm: number;
  /** Mortar left under each of them. */
  mortarUm: number;
}

/** Sizes in common practice, no source: 2 1/8 in corner, 2 7/16 in leg, 2 in lap; sheet 8 mil, mortar left 1/64 in. */
export const USUAL_PIECES: CornerPieces = {
  cornerLegMm: 54,
  bandLegMm: 61.9,
  lapMm: USUAL_LAP_MM,
  viewMm: 200,
  sheetUm: 200,
  bandUm: 200,
  cornerUm: 200,
  mortarUm: 400,
};

/** A layer with the mortar that it is set in. */
const onMortar = (kind: string, thicknessUm: number, mortarUm: number, rect: Layer['rect']): Layer[] => [
  { kind: 'mortar', thicknessUm: mortarUm, rect },
  { kind, thicknessUm, rect },
];

/** Steps that a cut at 45 degrees is made of, so that every layer stays a rectangle. */
const MITRE_STEPS = 16;

/** Where a layer lies on the plane. */
type Rect = Layer['rect'];
/** The same on the other plane of the corner. */
const mirrored = ({ xMm, yMm, widthMm, heightMm }: Rect): Rect => ({
  xMm: yMm,
  yMm: xMm,
  widthMm: heightMm,
  heightMm: widthMm,
});

/** The leg of the band along x: to the wall, or cut at 45 degrees, `past` steps beyond where the other band begins. */
function bandAlongX({ bandLegMm, cornerLegMm, lapMm, viewMm }: CornerPieces, ends: BandEnds, past: 0 | 1): Rect[] {
  if (ends === 'run-through') return [{ xMm: 0, yMm: 0, widthMm: viewMm, heightMm: bandLegMm }];
  const short = Math.max(0, cornerLegMm - lapMm);
  const step = bandLegMm / MITRE_STEPS;
  return Array.from({ length: MITRE_STEPS }, (_, k) => {
    const from = Math.max(short, (k + past) * step);
    return { xMm: from, yMm: k * step, widthMm: viewMm - from, heightMm: step };
  });
}

/**
 * What lies on the floor at an inside corner, from below: the corner piece, the band of each wall, the sheet. The corner
 * is the origin, both walls run along the axes. Bands stopped short still lap the corner piece along their creases and
 * are cut at 45 degrees, so that neither lies on the other; bands run through cross each other.
 */
export function cornerLayers(pieces: CornerPieces, ends: BandEnds): Layer[] {
  const { cornerLegMm, viewMm, mortarUm } = pieces;
  const bands = [...bandAlongX(pieces, ends, 0), ...bandAlongX(pieces, ends, 1).map(mirrored)];
  const corner = { xMm: 0, yMm: 0, widthMm: cornerLegMm, heightMm: cornerLegMm };
  const sheet = { xMm: 0, yMm: 0, widthMm: viewMm, heightMm: viewMm };
  return [
    ...onMortar('corner', pieces.cornerUm, mortarUm, corner),
    ...bands.flatMap((rect) => onMortar('band', pieces.bandUm, mortarUm, rect)),
    ...onMortar('sheet', pieces.sheetUm, mortarUm, sheet),
  ];
}
