import type { Shot } from './shots';
import { heightWeights } from './weights';

/** A shot this far off its neighbours is asked about, mm at least and in multiples of what is usual here [common practice, no source]. */
const LEAST_MM = 8;
/** A shot that lies further off than so many times the usual is wild [common practice, no source]. */
const TIMES = 6;

/** A shot that its neighbours do not bear out: a misreading, or a lump. */
export interface WildShot {
  /** Its place in the list. */
  shot: number;
  /** Over (+) or under (-) the plane through its neighbours, mm. */
  offMm: number;
}

/** The middle one of some values. */
const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

/** Shots that lie far off the plane through those round them: asked about, never dropped. Worst first. */
export function wildShots(shots: readonly Shot[]): WildShot[] {
  if (shots.length < 6) return [];
  const off = shots.map((s, i) => {
    const others = shots.filter((_, k) => k !== i);
    const plane = heightWeights(s, [...others.entries()]).reduce((sum, [k, w]) => sum + w * others[k]!.zMm, 0);
    return { shot: i, offMm: s.zMm - plane };
  });
  const usual = median(off.map((o) => Math.abs(o.offMm)));
  return off
    .filter((o) => Math.abs(o.offMm) > Math.max(LEAST_MM, TIMES * usual))
    .sort((a, b) => Math.abs(b.offMm) - Math.abs(a.offMm));
}
