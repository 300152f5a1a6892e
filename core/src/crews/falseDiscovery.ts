import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';

/** Chances of many comparisons on one screen, and how many of what is named may be wrong. */
export const FalseDiscoveryInput = z.object({
  p: z.array(z.number().min(0).max(1)).max(100_000),
  level: z.number().gt(0).lt(1),
});

/**
 * Of many comparisons those that may be named, so that at most this share of the named ones is chance (Benjamini and Hochberg, 1995).
 * `adjusted` is the level at which each would just be named; both in the order of `p`.
 */
export function falseDiscovery({ p, level }: z.infer<typeof FalseDiscoveryInput>): Outcome<{
  found: boolean[];
  adjusted: number[];
}> {
  const order = p.map((_, i) => i).sort((a, b) => p[a]! - p[b]!);
  const adjusted = new Array<number>(p.length).fill(1);
  let least = 1;
  // From the oddest back: one that is named names all that are odder.
  for (let rank = order.length; rank >= 1; rank -= 1) {
    const i = order[rank - 1]!;
    least = Math.min(least, (p[i]! * p.length) / rank);
    adjusted[i] = least;
  }
  return done({ found: adjusted.map((a) => a <= level), adjusted });
}
