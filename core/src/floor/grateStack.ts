import { done, type Outcome, refuse } from '../outcome/outcome';

/** A grate's frame is 3/16 in high, its spacers 1/2 to 3/4 in [common practice, no source; the maker's parts come first]. */
export const FRAME_MM = (3 * 25.4) / 16;
/** Heights that spacers come in, mm: 1/2 and 3/4 in [common practice, no source]. */
const SPACER_MM = [12.7, 19.05] as const;

/** What goes between flange and frame so that the grate comes flush with the tile. */
export interface GrateStack {
  /** Height that spacers must make up between the flange and the frame, mm. */
  spacerMm: number;
  /** One spacer does it, none is needed, several are stacked, or the frame stands too high as it is. */
  parts: 'one' | 'none' | 'stacked' | 'too-high';
}

/** Spacers between the flange and the grate's frame, so that the grate ends with the tile. */
export function grateStack({
  tileMm,
  mortarMm,
  frameMm,
}: {
  tileMm: number;
  mortarMm: number;
  frameMm: number;
}): Outcome<GrateStack> {
  if (!(tileMm > 0 && mortarMm >= 0 && frameMm > 0)) return refuse('tile-not-positive', 'tileMm');
  const spacerMm = tileMm + mortarMm - frameMm;
  if (spacerMm < -0.5) return done({ spacerMm, parts: 'too-high' });
  if (spacerMm < SPACER_MM[0] / 2) return done({ spacerMm: Math.max(0, spacerMm), parts: 'none' });
  return done({ spacerMm, parts: spacerMm <= SPACER_MM[1] + 0.5 ? 'one' : 'stacked' });
}
