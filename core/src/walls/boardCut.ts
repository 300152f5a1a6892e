import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { lengthMm, positiveMm } from '../units/bounded';

/** The last board of a wall, and a valve in it. */
export const BoardCutInput = z.object({
  /** The wall from bare corner to bare corner, at its top and at its foot, mm. */
  topMm: positiveMm,
  bottomMm: positiveMm,
  heightMm: positiveMm,
  boardMm: z.number().min(0).max(100),
  /** Neighbouring boards that stand before this wall's corners: 0, 1 or 2. */
  neighbours: z.number().int().min(0).max(2),
  /** How deep its foot stands in the pan's groove, mm; 0 without one. */
  grooveMm: lengthMm,
  /** Room left at the top, mm. */
  headroomMm: lengthMm,
  /** Middle of the valve from the bare corner and over the pan's edge, mm. */
  valve: z.object({ fromCornerMm: positiveMm, overPanMm: positiveMm }).optional(),
});

/** Sides that differ by more are cut to a taper, mm [common practice, no source]. */
const TAPER_MM = 1.6;

/** The board as it is cut. */
export interface BoardCut {
  /** Width at the top, mm. */
  topMm: number;
  /** Width at the foot, mm. */
  bottomMm: number;
  heightMm: number;
  /** The two differ by more than a saw is exact to. */
  taper: boolean;
  /** Middle of the valve's hole on the board, from its edge and its foot. */
  hole: { fromEdgeMm: number; fromFootMm: number } | null;
}

/**
 * Size that a wall board is cut to: less the neighbours that stand before its corners; its height and its hole for the
 * valve by what stands in the groove. [common practice, no source]
 */
export function boardCut(input: z.infer<typeof BoardCutInput>): Outcome<BoardCut> {
  const { topMm, bottomMm, heightMm, boardMm, neighbours, grooveMm, headroomMm, valve } = input;
  const less = neighbours * boardMm;
  if (Math.min(topMm, bottomMm) <= less) return refuse('no-room-for-board', 'boardMm');
  const fromEdgeMm = valve ? valve.fromCornerMm - (neighbours > 0 ? boardMm : 0) : 0;
  if (valve && (fromEdgeMm <= 0 || fromEdgeMm >= Math.max(topMm, bottomMm) || valve.overPanMm >= heightMm))
    return refuse('valve-outside', 'valve');
  return done({
    topMm: topMm - less,
    bottomMm: bottomMm - less,
    heightMm: heightMm + grooveMm - headroomMm,
    taper: Math.abs(topMm - bottomMm) > TAPER_MM,
    hole: valve ? { fromEdgeMm, fromFootMm: valve.overPanMm + grooveMm } : null,
  });
}
