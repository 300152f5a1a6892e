import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { anyMm, lengthMm, positiveMm } from '../units/bounded';

/** A board that is fastened to studs. */
export const FastenerGridInput = z.object({
  widthMm: z.number().positive().max(100_000),
  heightMm: z.number().positive().max(100_000),
  /** Places of the studs from the wall's left end, mm. */
  studsAtMm: z.array(anyMm).min(1).max(400),
  /** Height of the lowest row over the wall's foot, mm. */
  firstRowMm: lengthMm,
  /** Greatest distance between rows, mm. */
  spacingMm: positiveMm,
});
export type FastenerGridInput = z.infer<typeof FastenerGridInput>;

/** How many fasteners, and in which rows. */
export interface FastenerGrid {
  count: number;
  /** Heights of the rows over the foot, mm. */
  rowsAtMm: number[];
}

/** Face of a nominal 2-by stud [common practice, no source]. */
const STUD_MM = 38;
const SLACK_MM = 1e-6;

/** Rows from the first one up to the top at the spacing, one fastener on each stud in each row. */
export function fastenerGrid({
  widthMm,
  heightMm,
  studsAtMm,
  firstRowMm,
  spacingMm,
}: FastenerGridInput): Outcome<FastenerGrid> {
  if (firstRowMm > heightMm) return refuse('first-row-over-wall', 'firstRowMm');
  const outside = studsAtMm.findIndex((x) => x < 0 || x > widthMm + SLACK_MM);
  if (outside >= 0) return refuse('stud-outside', `studsAtMm.${outside}`);
  const rowsAtMm: number[] = [];
  for (let z = firstRowMm; z <= heightMm + SLACK_MM; z += spacingMm) rowsAtMm.push(z);
  return done({ count: rowsAtMm.length * new Set(studsAtMm).size, rowsAtMm });
}

/** Studs at a spacing from the left end, and one at the right end. */
export function studsAt(widthMm: number, spacingMm: number): number[] {
  const studs: number[] = [];
  for (let x = 0; x < widthMm - STUD_MM; x += spacingMm) studs.push(x);
  return [...studs, widthMm];
}
