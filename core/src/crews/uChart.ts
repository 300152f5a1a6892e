import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import type { SIGNALS } from './codes';
import { countOf, together } from './exposure';

/** Months in their order, each with what was made in it; and how much more defects scatter than chance alone. */
export const UChartInput = z.object({
  months: z
    .array(z.object({ count: countOf, exposure: z.number().min(0).max(1e12) }))
    .min(1)
    .max(1200),
  overdispersion: z.number().min(1).max(1e6).optional(),
});

/** One month of the chart. */
export interface ChartPoint {
  /** Its rate; null without exposure. */
  rate: number | null;
  /** Three standard deviations below the centre, 0 at least; null without exposure. */
  low: number | null;
  /** Three above. */
  high: number | null;
  /** Why it stands out; null where it does not. */
  signal: (typeof SIGNALS)[number] | null;
}

/** Standard deviations of a limit, as usual [NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.3.1, value from memory]. */
const SIGMAS = 3;
/** As many months in a row on one side are no chance [Western Electric rules, eight points, value from memory]. */
const RUN = 8;

/**
 * Rates by month against their own level, each month with limits by how much was made in it. A month without work has no rate and
 * neither makes a run nor breaks one. Refused where nothing was made at all.
 */
export function uChart({ months, overdispersion = 1 }: z.infer<typeof UChartInput>): Outcome<{
  centre: number;
  points: ChartPoint[];
}> {
  const worked = months.filter((m) => m.exposure > 0);
  if (worked.length === 0) return refuse('no-exposure', 'months');
  const wrong = months.findIndex((m) => m.exposure === 0 && m.count > 0);
  if (wrong >= 0) return refuse('no-exposure', `months.${wrong}.exposure`);
  const { count, exposure } = together(worked);
  const centre = count / exposure;
  let [side, run] = [0, 0];
  const points = months.map((month): ChartPoint => {
    if (month.exposure === 0) return { rate: null, low: null, high: null, signal: null };
    const rate = month.count / month.exposure;
    const width = SIGMAS * Math.sqrt((overdispersion * centre) / month.exposure);
    const [low, high] = [Math.max(0, centre - width), centre + width];
    const here = Math.sign(rate - centre);
    run = here !== 0 && here === side ? run + 1 : here === 0 ? 0 : 1;
    side = here;
    return { rate, low, high, signal: rate > high || rate < low ? 'beyond' : run >= RUN ? 'run' : null };
  });
  return done({ centre, points });
}
