import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';

/** How long holds stood; one that is not closed stands still, for so long at least. */
export const TimeToFixInput = z.object({
  spells: z
    .array(
      z.object({
        days: z.number().min(0).max(100_000),
        closed: z.boolean(),
        /** How many such spells; one without it. */
        count: z.number().int().min(1).max(1_000_000_000).optional(),
      }),
    )
    .min(1)
    .max(1_000_000),
});

/** From a day on, what share still stands. */
export interface OpenShare {
  /** Days since they were opened. */
  days: number;
  /** Share that still stands after that day, 0 to 1. */
  open: number;
  /** Lower end of its 95 % interval. */
  low: number;
  /** Upper end. */
  high: number;
}

/** Of a two-sided interval of 95 %. */
const Z = normalQuantile(0.975, 0, 1);

/**
 * How long holds stand, the open ones counted for as long as they have (Kaplan and Meier, 1958), with intervals by Greenwood's variance on
 * the log-log scale, which stay between 0 and 1. Leaving the open ones out would make every firm look quick. `medianDays` is null while
 * more than half still stand.
 */
export function timeToFix({ spells }: z.infer<typeof TimeToFixInput>): Outcome<{
  medianDays: number | null;
  steps: OpenShare[];
}> {
  const order = [...spells].sort((a, b) => a.days - b.days);
  let [standing, open, variance] = [order.reduce((n, s) => n + (s.count ?? 1), 0), 1, 0];
  const steps: OpenShare[] = [];
  for (let i = 0; i < order.length; ) {
    const { days } = order[i]!;
    let [closed, all] = [0, 0];
    for (; i < order.length && order[i]!.days === days; i += 1) {
      const { count = 1 } = order[i]!;
      all += count;
      if (order[i]!.closed) closed += count;
    }
    if (closed > 0) {
      open *= (standing - closed) / standing;
      variance += standing === closed ? 0 : closed / (standing * (standing - closed));
      steps.push({ days, open, ...interval(open, variance) });
    }
    standing -= all;
  }
  // A share that is one half but for the rounding of a double is one half.
  const median = steps.find((s) => s.open <= 0.5 + 1e-12);
  return done({ medianDays: median?.days ?? null, steps });
}

/** Interval of a share on the log-log scale; where none stands any more there is nothing to be unsure of below. */
function interval(open: number, variance: number): { low: number; high: number } {
  if (open <= 0) return { low: 0, high: 0 };
  const width = (Z * Math.sqrt(variance)) / Math.abs(Math.log(open));
  return { low: open ** Math.exp(width), high: open ** Math.exp(-width) };
}
