import negativeBinomialCdf from '@stdlib/stats-base-dists-negative-binomial-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import poissonCdf from '@stdlib/stats-base-dists-poisson-cdf';
import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import type { FunnelGroup } from './codes';
import { Counted, countOf, together } from './exposure';
import { falseDiscovery } from './falseDiscovery';
import { betweenGroups, shrunkRate } from './shrinkage';

/** What one crew (or kind, or method) has made, shower by shower where that is known. */
const Group = z.object({
  name: z.string().max(200),
  count: countOf,
  /** Zero: it has made nothing yet, and nothing can be said of it. */
  exposure: z.number().min(0).max(1e12),
  byShower: z.array(Counted).max(100_000).optional(),
});
type Group = z.infer<typeof Group>;

/** Groups that are compared with each other. */
export const FunnelInput = z.object({
  groups: z.array(Group).min(1).max(5000),
  /** How many times as much as Poisson defects scatter between showers; worked out from `byShower` where it is not given. */
  overdispersion: z.number().min(1).max(1e6).optional(),
});

/** Rates between which 95 and 99.8 of 100 equal groups of this size lie. */
type Interval4 = Pick<FunnelGroup, 'low95' | 'high95' | 'low998' | 'high998'>;

/** One of twenty that are named may be chance. */
const NAMED_WRONGLY = 0.05;
/** Less than this over Poisson is Poisson: the sum of a shape that is none would lose its digits. */
const LEAST_OVER = 1e-6;

/**
 * How much more defects scatter between showers of one group than chance alone: a shower with one has others. Pearson's statistic
 * round each group's own rate, so that a group that is really worse does not hide itself; 1 at least, and 1 where no shower is known.
 */
export function overdispersionOf(groups: readonly Pick<Group, 'byShower'>[]): number {
  let [sum, freedom] = [0, 0];
  for (const { byShower = [] } of groups) {
    const { count, exposure } = together(byShower);
    if (count === 0 || byShower.length < 2) continue;
    const rate = count / exposure;
    for (const shower of byShower) sum += (shower.count - rate * shower.exposure) ** 2 / (rate * shower.exposure);
    freedom += byShower.length - 1;
  }
  return freedom === 0 ? 1 : Math.max(1, sum / freedom);
}

/** What the showers of a group come to, without one by one: with sums, hundreds of thousands of showers are one line each group. */
export interface ScatterSums {
  /** Defects in all. */
  count: number;
  /** Exposure in all. */
  exposure: number;
  /** Showers with any exposure. */
  showers: number;
  /** Sum over them of the square of the count by the exposure. */
  squares: number;
}

/** The same as `overdispersionOf`, from sums: Pearson's statistic round a group's own rate is squares / rate − count. */
export function overdispersionFromSums(groups: readonly ScatterSums[]): number {
  const known = groups.filter((g) => g.count > 0 && g.showers >= 2);
  const freedom = known.reduce((sum, g) => sum + g.showers - 1, 0);
  const statistic = known.reduce((sum, g) => sum + (g.squares * g.exposure) / g.count - g.count, 0);
  return freedom === 0 ? 1 : Math.max(1, statistic / freedom);
}

/** Chance of at most so many where the mean is known, scattering so many times as much as Poisson. */
function chanceOfAtMost(count: number, mean: number, over: number): number {
  if (count < 0) return 0;
  if (over - 1 < LEAST_OVER) return poissonCdf(count, mean);
  // A gamma between showers makes a negative binomial: mean μ, variance φ·μ.
  return negativeBinomialCdf(count, mean / (over - 1), 1 / over);
}

/** The least count that at least this share of equal groups does not exceed: looked for near where a normal shape would have it. */
function quantile(share: number, mean: number, over: number): number {
  const enough = (count: number) => chanceOfAtMost(count, mean, over) >= share;
  const guess = Math.max(0, Math.round(mean + normalQuantile(share, 0, 1) * Math.sqrt(over * mean)));
  let [low, high] = [guess, guess];
  if (enough(guess))
    for (let step = 1; low >= 0 && enough(low); step *= 2) [high, low] = [low, Math.max(-1, low - step)];
  else for (let step = 1; !enough(high); step *= 2) [low, high] = [high, high + step];
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (enough(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/**
 * Groups against all together: is one really different, or is it chance? Limits widen for little work and for defects that come in
 * clusters; a group within them is never named. `shrunk` is the mean of a gamma-Poisson (Spiegelhalter, 2005, and any handbook). Refused
 * where nobody has made anything, or where the showers of a group do not add up to it.
 */
export function funnel({ groups, overdispersion }: z.infer<typeof FunnelInput>): Outcome<{
  overall: number;
  overdispersion: number;
  groups: FunnelGroup[];
}> {
  const working = groups.filter((g) => g.exposure > 0);
  if (working.length === 0) return refuse('no-exposure', 'groups');
  for (const [i, g] of groups.entries()) {
    if (g.exposure === 0 && g.count > 0) return refuse('no-exposure', `groups.${i}.exposure`);
    if (g.byShower && g.byShower.length > 0) {
      const sum = together(g.byShower);
      if (sum.count !== g.count || Math.abs(sum.exposure - g.exposure) > 1e-6 * g.exposure)
        return refuse('parts-do-not-add-up', `groups.${i}.byShower`);
    }
  }
  const { count, exposure } = together(working);
  const overall = count / exposure;
  const over = overdispersion ?? overdispersionOf(groups);
  const between = betweenGroups(working, overall, over);
  const told = groups.map((g) => groupOf(g, overall, over, between));
  const named = falseDiscovery({ p: told.map((g) => g.p), level: NAMED_WRONGLY });
  return done({
    overall,
    overdispersion: over,
    groups: told.map((g, i) => ({ ...g, discovery: named.ok && g.outside && named.value.found[i]! })),
  });
}

/** Rates between which equal groups of some size lie, at a level of all and a scatter; the size is above zero. */
export function limitsAt(overall: number, over: number, exposure: number): { [K in keyof Interval4]: number } {
  const limit = (share: number) => quantile(share, overall * exposure, over) / exposure;
  return { low95: limit(0.025), high95: limit(0.975), low998: limit(0.001), high998: limit(0.999) };
}

function groupOf(
  { name, count, exposure }: Group,
  overall: number,
  over: number,
  between: number,
): Omit<FunnelGroup, 'discovery'> {
  const nothing = { low95: null, high95: null, low998: null, high998: null };
  if (exposure === 0) return { name, rate: null, shrunk: overall, ...nothing, outside: false, side: null, p: 1 };
  const mean = overall * exposure;
  const rate = count / exposure;
  const limits = limitsAt(overall, over, exposure);
  const { low998, high998 } = limits;
  const above = 1 - chanceOfAtMost(count - 1, mean, over);
  const outside = rate < low998 || rate > high998;
  return {
    name,
    rate,
    shrunk: shrunkRate({ count, exposure }, overall, between, over),
    ...limits,
    outside,
    side: outside ? (rate > overall ? 'above' : 'below') : null,
    p: Math.min(1, 2 * Math.min(above, chanceOfAtMost(count, mean, over))),
  };
}
