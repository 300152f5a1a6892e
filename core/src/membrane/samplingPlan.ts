import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { numbers } from '../units/randomNumbers';

/** How sure a sample of places shall make one. */
export const SamplingPlanInput = z.object({
  /** The share of places that may be short at most, and how sure one wants to be of it. */
  mostShare: z.number().gt(0).lt(1),
  confidence: z.number().gt(0).lt(1),
});

/**
 * Readings at random places, none of them short, that show with this confidence that at most this share of all places
 * is short: n = ln(1 - C) / ln(1 - p). [zero-failure binomial plan, any statistics handbook: 59 for 5 % at 95 %]
 * It says nothing of readings that were taken where somebody feared the worst.
 */
export function samplingPlan({ mostShare, confidence }: z.infer<typeof SamplingPlanInput>): Outcome<{
  readings: number;
}> {
  const exact = Math.log1p(-confidence) / Math.log1p(-mostShare);
  return done({ readings: Math.max(1, Math.ceil(exact - 1e-9)) });
}

/** How sure so many clean readings at random places make one that at most this share is short: 1 - (1 - p)^n. */
export const samplingConfidence = (readings: number, mostShare: number): number =>
  -Math.expm1(readings * Math.log1p(-mostShare));

/** A place drawn at random on what a check asks. */
export interface DrawnPlace {
  /** Id of the seam. */
  element: string;
  /** Its side; null where both are one. */
  side: string | null;
  /** Where along it, mm. */
  atMm: number;
}

/** Places drawn at random over the whole length of the lines given, each inch as likely as any other; the same seed draws the same. */
export function drawPlaces(
  lines: readonly { element: string; side: string | null; lengthMm: number }[],
  count: number,
  seed: number,
): DrawnPlace[] {
  const total = lines.reduce((sum, l) => sum + l.lengthMm, 0);
  if (total <= 0) return [];
  const { uniform } = numbers(seed);
  return Array.from({ length: count }, () => {
    let left = uniform() * total;
    const line = lines.find((l) => {
      if (left <= l.lengthMm) return true;
      left -= l.lengthMm;
      return false;
    });
    const { element, side } = line ?? lines.at(-1)!;
    return { element, side, atMm: Math.round(left) };
  });
}
