import type { Judgement, Worst } from '../log/judgement';

/** A reading typed as the limit meets it, whatever the last bit of the double says. */
export const SLACK_MM = 1e-6;

/** How far a value lies beyond a limit, in the limit's unit; 0 when it keeps it. */
export function beyond(limit: { least?: number | undefined; most?: number | undefined }, value: number): number {
  return Math.max(0, (limit.least ?? -Infinity) - value, value - (limit.most ?? Infinity));
}

/** What a requirement's evidence comes to by its kind of check. */
export type Measured = Pick<
  Judgement,
  'verdict' | 'lowestMm' | 'worstAtMm' | 'worst' | 'nextAtMm' | 'measured' | 'failed'
>;

/** The same of a check that has no places along its element. */
export const plain = (verdict: Measured['verdict'], worst: Worst = {}): Measured => ({
  verdict,
  lowestMm: null,
  worstAtMm: null,
  worst,
  nextAtMm: null,
  measured: [],
  failed: [],
});
