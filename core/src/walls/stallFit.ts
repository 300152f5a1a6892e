import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { anyMm, lengthMm, positiveMm } from '../units/bounded';

/** A bought pan or stall, and the frame it goes into. */
export const StallFitInput = z.object({
  /** Width of the frame at several heights, and of what goes in, mm. */
  framesMm: z.array(positiveMm).min(1).max(40),
  panMm: positiveMm,
  /** Least and greatest gap on each side, mm. */
  leastMm: lengthMm,
  mostMm: lengthMm,
});
export type StallFitInput = z.infer<typeof StallFitInput>;

/** The gaps that are left. */
export interface StallFit {
  /** Gap on each side where the frame is narrowest and widest, the pan in the middle, mm. */
  leastGapMm: number;
  mostGapMm: number;
  /** How much the frame's widths differ, mm. */
  outOfSquareMm: number;
  verdict: 'pass' | 'fail';
}

/** Whether a pan fits its frame at every height: the gap on each side between its least and its greatest. */
export function stallFit({ framesMm, panMm, leastMm, mostMm }: StallFitInput): Outcome<StallFit> {
  if (leastMm > mostMm) return refuse('gap-range-reversed', 'leastMm');
  const [narrow, wide] = [Math.min(...framesMm), Math.max(...framesMm)];
  const [leastGapMm, mostGapMm] = [(narrow - panMm) / 2, (wide - panMm) / 2];
  const fits = leastGapMm >= leastMm - 1e-6 && mostGapMm <= mostMm + 1e-6;
  return done({ leastGapMm, mostGapMm, outOfSquareMm: wide - narrow, verdict: fits ? 'pass' : 'fail' });
}

/** Studs that shall stand in one plane. */
export const StudShimsInput = z.object({
  /** How far each stud stands behind (+) or before (-) a string or laser line along the wall, mm. */
  behindMm: z.array(anyMm).min(2).max(60),
  limitMm: lengthMm,
});
export type StudShimsInput = z.infer<typeof StudShimsInput>;

/** What is packed before each stud. */
export interface StudShims {
  /** What is packed in front of each stud so that all stand in one plane with the foremost, mm. */
  shimsMm: number[];
  /** Most that a stud stands out of the straight line between its neighbours, mm. */
  worstMm: number;
  /** Which stud that is, by its place in the list. */
  worstStud: number;
  verdict: 'pass' | 'fail';
}

/** The list of shims that brings the studs of a wall into one plane, and the stud that is worst now. */
export function studShims({ behindMm, limitMm }: StudShimsInput): Outcome<StudShims> {
  const front = Math.min(...behindMm);
  const off = behindMm.map((b, i) => {
    const [before, after] = [behindMm[i - 1], behindMm[i + 1]];
    return before === undefined || after === undefined ? 0 : Math.abs(b - (before + after) / 2);
  });
  const worst = off.reduce((best, v, i) => (v > off[best]! ? i : best), 0);
  const spread = Math.max(...off);
  return done({
    shimsMm: behindMm.map((b) => b - front),
    worstMm: spread,
    worstStud: worst,
    verdict: spread > limitMm + 1e-9 ? 'fail' : 'pass',
  });
}
