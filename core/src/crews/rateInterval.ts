import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import gammaQuantile from '@stdlib/stats-base-dists-gamma-quantile';
import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { Counted, confidenceOf, countOf } from './exposure';

/** A count with what it is counted against. */
export const RateIntervalInput = Counted.extend({ confidence: confidenceOf });

/** A figure with its interval. */
export interface Interval {
  /** Its lower end, never below zero. */
  low: number;
  /** Its upper end. */
  high: number;
}

/**
 * The rate of a count, per unit of its exposure, with the exact interval of Garwood (1936): the rates that such a count does not
 * speak against. No count at all still leaves an upper end: nothing found in 10 ft says little.
 */
export function rateInterval({
  count,
  exposure,
  confidence,
}: z.infer<typeof RateIntervalInput>): Outcome<{ rate: number } & Interval> {
  const tail = (1 - confidence) / 2;
  return done({
    rate: count / exposure,
    low: count === 0 ? 0 : gammaQuantile(tail, count, 1) / exposure,
    high: gammaQuantile(1 - tail, count + 1, 1) / exposure,
  });
}

/** So many of so many. */
export const ShareIntervalInput = z.object({ count: countOf, of: countOf.min(1), confidence: confidenceOf });

/** The exact interval of a share by Clopper and Pearson (1934). Both are whole; `of` is one at least. */
export function clopperPearson(count: number, of: number, confidence: number): Interval {
  const tail = (1 - confidence) / 2;
  return {
    low: count === 0 ? 0 : betaQuantile(tail, count, of - count + 1),
    high: count === of ? 1 : betaQuantile(1 - tail, count + 1, of - count),
  };
}

/** A share with its exact interval. Refused by `count` where there are more than there can be. */
export function shareInterval({
  count,
  of,
  confidence,
}: z.infer<typeof ShareIntervalInput>): Outcome<{ share: number } & Interval> {
  if (count > of) return refuse('more-than-all', 'count', { count, of });
  return done({ share: count / of, ...clopperPearson(count, of, confidence) });
}
