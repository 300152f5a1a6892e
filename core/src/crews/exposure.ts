import { z } from 'zod';

/** Defects, looks or answers: a whole number of them. */
export const countOf = z.number().int().min(0).max(1_000_000_000);
/** What they are counted against, in whatever unit the caller counts: ft of seam, corners, showers. */
export const exposureOf = z.number().positive().max(1e12);
/** How sure an interval is, such as 0.95. */
export const confidenceOf = z.number().gt(0).lt(1);

/** So many in so much. */
export const Counted = z.object({ count: countOf, exposure: exposureOf });
/** So many in so much. */
export type Counted = z.infer<typeof Counted>;

/** All of them together. */
export const together = (parts: readonly Counted[]): { count: number; exposure: number } => ({
  count: parts.reduce((sum, p) => sum + p.count, 0),
  exposure: parts.reduce((sum, p) => sum + p.exposure, 0),
});
