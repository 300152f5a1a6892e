import { done, type Outcome, refuse } from '../outcome/outcome';

/** Room for sealant that a foam curb is cut short by, mm: 1/8 in, at each end or in all [common practice, no source; the trade disagrees, A39]. */
const GAP_MM = 3.175;
/** Whether the gap is meant at each end or for both together. */
export const CURB_GAPS = ['each-end', 'in-all'] as const;

/** A curb between two walls. */
export interface CurbCutInput {
  /** Distance between the walls where the curb lies, at each place it was measured, mm. */
  distancesMm: readonly number[];
  gap: (typeof CURB_GAPS)[number];
}

/** The length that a curb is cut to. */
export interface CurbCut {
  /** That length, mm. */
  cutMm: number;
  /** How much the distances differ, mm: an opening out of square leaves one end wider. */
  spreadMm: number;
  /** Widest gap at both ends together that the cut leaves, mm; more than twice what was meant wants a wedge cut. */
  widestGapMm: number;
}

/** The length a curb is cut to: the least distance between its walls less room for sealant. */
export function curbCut({ distancesMm, gap }: CurbCutInput): Outcome<CurbCut> {
  if (distancesMm.length === 0 || distancesMm.some((d) => !(d > 50))) return refuse('curb-not-measured', 'distancesMm');
  const [least, most] = [Math.min(...distancesMm), Math.max(...distancesMm)];
  const cutMm = least - GAP_MM * (gap === 'each-end' ? 2 : 1);
  return done({ cutMm, spreadMm: most - least, widestGapMm: most - cutMm });
}
