import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { anyMm, lengthMm, positiveMm } from '../units/bounded';

/** A band that is to be laid over a change of plane. */
export const BandPlanInput = z.object({
  bandWidthMm: positiveMm,
  /** What the crease or the gap between the boards takes, mm. */
  lossMm: lengthMm,
  /** How far its crease lies off the seam, towards the first side, mm. */
  offCentreMm: anyMm,
  /** On each side, how far from the seam the other layer ends, mm: the sheet's or the neighbouring board's edge. */
  otherEdgeMm: z.tuple([lengthMm, lengthMm]),
  /** Leg of the preformed corner along the seam, and how far from the corner the band stops, mm. */
  cornerLegMm: lengthMm,
  stopShortMm: lengthMm,
  limitMm: positiveMm,
});

/** What a band leaves on each side. */
export interface BandPlan {
  /** Width on each side of the crease, mm. */
  legsMm: [number, number];
  /** Lap on the other layer on each side. */
  lapsMm: [number, number];
  /** Lap onto the corner piece, along the seam. */
  onCornerMm: number;
  /** Fails where a lap or the corner is short. */
  verdict: 'pass' | 'fail';
  /** How far off centre the band may lie before a lap is short, mm; negative: it is too narrow wherever it lies. */
  roomMm: number;
  /** How far from the corner it may stop at most, mm. */
  stopAtMostMm: number;
}

/** Legs of a creased band, its laps on both sides and onto the corner piece, and what room there is for error. [common practice, no source] */
export function bandPlan(input: z.infer<typeof BandPlanInput>): Outcome<BandPlan> {
  const { bandWidthMm, lossMm, offCentreMm, otherEdgeMm, cornerLegMm, stopShortMm, limitMm } = input;
  if (lossMm >= bandWidthMm) return refuse('crease-over-band', 'lossMm');
  const half = (bandWidthMm - lossMm) / 2;
  if (Math.abs(offCentreMm) > half) return refuse('band-misses-side', 'offCentreMm');
  const legsMm: [number, number] = [half + offCentreMm, half - offCentreMm];
  const lapsMm: [number, number] = [legsMm[0] - otherEdgeMm[0], legsMm[1] - otherEdgeMm[1]];
  const onCornerMm = cornerLegMm - stopShortMm;
  const slack = 1e-6;
  const good = Math.min(...lapsMm, onCornerMm) >= limitMm - slack;
  return done({
    legsMm,
    lapsMm,
    onCornerMm,
    verdict: good ? 'pass' : 'fail',
    roomMm: Math.min(half - otherEdgeMm[0], half - otherEdgeMm[1]) - limitMm,
    stopAtMostMm: cornerLegMm - limitMm,
  });
}
