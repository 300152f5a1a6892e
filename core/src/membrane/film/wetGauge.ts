import { done, type Outcome, refuse } from '../../outcome/outcome';
import { MM_PER_INCH } from '../../units/length';

/** Teeth of a notch gauge in mils, as commonly sold [common practice, no source]. */
export const GAUGE_MILS = [4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30, 35, 40, 45, 50, 60] as const;
/** A mil is a thousandth of an inch, so that µm per mil is mm per inch. */
export const UM_PER_MIL = MM_PER_INCH;

/** A wet film as a notch gauge shows it: between the last tooth that was wetted and the next, µm [ASTM D4414]. */
export interface WetInterval {
  /** The deepest tooth that was wet, µm. */
  wettedUm: number;
  /** The next one, which stayed dry, µm. */
  nextUm: number;
}

/**
 * The interval of a gauge reading by the number of the last tooth that was wetted, counted from 0; -1: not even the
 * first. Above the last tooth there is no upper end: refused, a larger gauge is wanted.
 */
export function wetInterval(teethUm: readonly number[], wetted: number): Outcome<WetInterval> {
  if (wetted >= teethUm.length - 1) return refuse('film-over-gauge', 'wetted');
  return done({ wettedUm: wetted < 0 ? 0 : teethUm[wetted]!, nextUm: teethUm[wetted + 1]! });
}

/** An interval against a least and a greatest wet film: only what lies wholly on one side is decided. */
export function judgeWet(
  { wettedUm, nextUm }: WetInterval,
  limits: { leastUm: number | null; mostUm: number | null },
): 'pass' | 'thin' | 'thick' | 'undecided' {
  const { leastUm, mostUm } = limits;
  if (leastUm !== null && nextUm <= leastUm) return 'thin';
  if (mostUm !== null && wettedUm >= mostUm) return 'thick';
  const above = leastUm === null || wettedUm >= leastUm;
  const below = mostUm === null || nextUm <= mostUm;
  return above && below ? 'pass' : 'undecided';
}
