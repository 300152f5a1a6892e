import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { lengthMm, positiveMm } from '../units/bounded';
import { USUAL_LAP_MM } from './usualLap';

/** Widths that liner is sold in, mm: 4, 5 and 6 ft [common practice, no source]. */
export const LINER_ROLLS_MM = [1219.2, 1524, 1828.8] as const;

/** A pan liner of one piece. */
export const LinerWidthInput = z.object({
  openingWidthMm: positiveMm,
  openingDepthMm: positiveMm,
  /** How high it is turned up at each wall, mm: to the top of the blocking. */
  turnUpMm: lengthMm,
  /** What it takes to go over the curb, mm, on one side; 0 without one. */
  overCurbMm: lengthMm,
  rollsMm: z.array(positiveMm).min(1).max(20).optional(),
  /** Lap of a welded seam where no roll is wide enough, mm. */
  seamLapMm: lengthMm.optional(),
});

/** A seam of two widths: 2 in [common practice, no source]. */

export interface LinerWidth {
  /** Liner needed across and along the roll. */
  acrossMm: number;
  /** Along the roll, mm. */
  alongMm: number;
  /** Roll to buy, or the widest where none is wide enough. */
  rollMm: number;
  /** Turn-up that the roll gives on each side across it, if it is bought. */
  turnUpGivenMm: number;
  /** Missing across the widest roll; 0 where one is wide enough. */
  shortMm: number;
  /** Where the seam falls from the left or the front, mm; null without one. */
  seamAtMm: number | null;
  /** The roll runs along the opening's depth instead of its width. */
  turned: boolean;
}

/** Width of liner to buy: opening and twice the turn-up, laid the way that fits a roll with the least waste. */
export function linerWidth(input: z.infer<typeof LinerWidthInput>): Outcome<LinerWidth> {
  const { openingWidthMm, openingDepthMm, turnUpMm, overCurbMm, seamLapMm = USUAL_LAP_MM } = input;
  const rolls = [...(input.rollsMm ?? LINER_ROLLS_MM)].sort((a, b) => a - b);
  const widest = rolls.at(-1)!;
  if (turnUpMm > 2000) return refuse('turn-up-too-high', 'turnUpMm');
  const wide = openingWidthMm + 2 * turnUpMm;
  const deep = openingDepthMm + turnUpMm + (overCurbMm > 0 ? overCurbMm : turnUpMm);
  const ways = [
    { acrossMm: deep, alongMm: wide, openMm: openingDepthMm, turned: false },
    { acrossMm: wide, alongMm: deep, openMm: openingWidthMm, turned: true },
  ].map((way) => {
    const roll = rolls.find((r) => r >= way.acrossMm - 1e-6) ?? null;
    const bought = roll ?? widest;
    const strips = roll ? 1 : Math.ceil((way.acrossMm - seamLapMm) / (widest - seamLapMm));
    return { ...way, roll, bought, areaMm2: bought * way.alongMm * strips };
  });
  const fitting = ways.filter((w) => w.roll !== null);
  // The least waste where a roll is wide enough, else the way that lacks least.
  const best =
    fitting.length > 0
      ? fitting.reduce((a, b) => (b.areaMm2 < a.areaMm2 - 1e-6 ? b : a))
      : ways.reduce((a, b) => (b.acrossMm < a.acrossMm ? b : a));
  const shortMm = Math.max(0, best.acrossMm - widest);
  return done({
    acrossMm: best.acrossMm,
    alongMm: best.alongMm,
    rollMm: best.bought,
    turnUpGivenMm: turnUpMm + (best.bought - best.acrossMm) / 2,
    shortMm,
    seamAtMm: shortMm > 0 ? Math.max(0, widest - turnUpMm - seamLapMm / 2) : null,
    turned: best.turned,
  });
}
