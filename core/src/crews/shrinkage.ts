import type { Counted } from './exposure';

/**
 * Variance of the true rates between groups, by moments (as DerSimonian and Laird, 1986, for rates): what is left of the scatter round
 * `overall` when chance is taken away, which scatters `over` times as much as Poisson; 0 where nothing is left. In rates squared.
 */
export function betweenGroups(groups: readonly Counted[], overall: number, over = 1): number {
  const all = groups.reduce((sum, g) => sum + g.exposure, 0);
  const scatter = groups.reduce((sum, g) => sum + g.exposure * (g.count / g.exposure - overall) ** 2, 0);
  const divisor = all - groups.reduce((sum, g) => sum + g.exposure ** 2, 0) / all;
  return divisor <= 0 ? 0 : Math.max(0, (scatter - (groups.length - 1) * over * overall) / divisor);
}

/** The mean of a gamma-Poisson: a rate drawn towards that of all as far as little work makes it uncertain. */
export function shrunkRate({ count, exposure }: Counted, overall: number, between: number, over = 1): number {
  if (exposure === 0 || between === 0) return overall;
  const weight = between / (between + (over * overall) / exposure);
  return overall + weight * (count / exposure - overall);
}
