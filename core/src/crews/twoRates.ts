import binomialPmf from '@stdlib/stats-base-dists-binomial-pmf';
import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import type { BEFORE_AFTER_WARNINGS } from './codes';
import { Counted, confidenceOf } from './exposure';
import { clopperPearson } from './rateInterval';

/** Two counts with what each is counted against. */
export const TwoRatesInput = z.object({
  a: Counted,
  b: Counted,
  confidence: confidenceOf,
  /** How many times as much as Poisson they scatter; the interval is widened by its root. */
  overdispersion: z.number().min(1).max(1e6).optional(),
});

/** How many times the rate of `a` is that of `b`. */
export interface RatesCompared {
  /** Null where `b` has none: then only the lower end says something. */
  ratio: number | null;
  /** Lower end of its interval. */
  low: number;
  /** Upper end; null where nothing bounds it. */
  high: number | null;
  /** How often a difference as odd as this one comes by chance between equal rates, 0 to 1. */
  p: number;
}

/** Of more counts than this only the outcomes that can matter are added up: a sum over all of them would take too long. */
const SUMMED_AT_MOST = 2000;
/** Two chances closer than this are the same: sums of doubles. */
const SAME_CHANCE = 1e-7;

/**
 * How odd `count` of `of` is when each is one of `a` by `share`: all outcomes that are no more likely than this one, added up (the
 * exact two-sided binomial test, as it is usual).
 */
function binomialTest(count: number, of: number, share: number): number {
  if (of === 0) return 1;
  const seen = binomialPmf(count, of, share) * (1 + SAME_CHANCE);
  const mean = of * share;
  // Outcomes far out add nothing: eleven standard deviations are less than a double can tell.
  const reach = of > SUMMED_AT_MOST ? Math.ceil(11 * Math.sqrt(mean * (1 - share))) + 1 : of;
  let p = 0;
  for (let k = Math.max(0, Math.floor(mean - reach)); k <= Math.min(of, Math.ceil(mean + reach)); k += 1) {
    const chance = binomialPmf(k, of, share);
    if (chance <= seen) p += chance;
  }
  return Math.min(1, p);
}

/**
 * Compares two rates by what share of all counts is `a`'s, given how many there are in all (Przyborowski and Wilenski, 1940): exact,
 * also for a handful of defects.
 */
export function twoRates({
  a,
  b,
  confidence,
  overdispersion = 1,
}: z.infer<typeof TwoRatesInput>): Outcome<RatesCompared> {
  if (overdispersion > 1) return clustered({ a, b, confidence }, overdispersion);
  const of = a.count + b.count;
  const scale = b.exposure / a.exposure;
  if (of === 0) return done({ ratio: null, low: 0, high: null, p: 1 });
  const share = clopperPearson(a.count, of, confidence);
  const odds = (s: number): number | null => (s >= 1 ? null : (s / (1 - s)) * scale);
  return done({
    ratio: b.count === 0 ? null : (a.count / b.count) * scale,
    low: odds(share.low)!,
    high: odds(share.high),
    p: binomialTest(a.count, of, a.exposure / (a.exposure + b.exposure)),
  });
}

/**
 * The same where defects come in clusters: as if so many times fewer had been counted in as much less. Counts are whole, so that those are
 * rounded and the ends taken to the ratio as it was counted.
 */
function clustered({ a, b, confidence }: z.infer<typeof TwoRatesInput>, over: number): Outcome<RatesCompared> {
  const plain = twoRates({ a, b, confidence });
  if (!plain.ok) return plain;
  const fewer = (x: Counted): Counted => ({ count: Math.round(x.count / over), exposure: x.exposure / over });
  const [fa, fb] = [fewer(a), fewer(b)];
  const wide = twoRates({ a: fa, b: fb, confidence });
  if (!wide.ok) return wide;
  const { ratio } = plain.value;
  // Rounding moves the ratio: its ends move along with it.
  const moved = ratio !== null && ratio > 0 && wide.value.ratio ? ratio / wide.value.ratio : 1;
  return done({
    ratio,
    low: wide.value.low * moved,
    high: wide.value.high === null ? null : wide.value.high * moved,
    p: wide.value.p,
  });
}

/** Counts before and after something was changed. */
export const BeforeAfterInput = z.object({
  before: Counted,
  after: Counted,
  confidence: confidenceOf,
  /** How many times as much as Poisson they scatter. */
  overdispersion: z.number().min(1).max(1e6).optional(),
});

/** Fewer counts than this in all say nothing either way [common practice, no source]. */
const LEAST_COUNTS = 10;

/**
 * The rate after a change as so many times the rate before. Whatever is changed because it was bad gets better by itself, since bad
 * months are followed by usual ones: an improvement carries that warning always, and few counts say that they are few.
 */
export function beforeAfter({
  before,
  after,
  confidence,
  overdispersion,
}: z.infer<typeof BeforeAfterInput>): Outcome<
  RatesCompared & { warning: (typeof BEFORE_AFTER_WARNINGS)[number] | null }
> {
  const found = twoRates({ a: after, b: before, confidence, overdispersion });
  if (!found.ok) return found;
  const { ratio } = found.value;
  const few = before.count + after.count < LEAST_COUNTS;
  const better = ratio !== null && ratio < 1;
  return done({ ...found.value, warning: few ? 'too-little' : better ? 'regression-to-the-mean' : null });
}
