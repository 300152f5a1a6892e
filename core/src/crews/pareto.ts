import { z } from 'zod';
import { done, type Outcome } from '../outcome/outcome';
import { countOf } from './exposure';

/** Kinds or causes, with how often and at what cost. */
export const ParetoInput = z.object({
  items: z
    .array(z.object({ name: z.string().max(200), count: countOf, cost: z.number().min(0).max(1e12).optional() }))
    .max(10_000),
  by: z.enum(['count', 'cost']),
});

/** One of them, in its place. */
export interface ParetoItem {
  /** As it came. */
  name: string;
  /** Its count or its cost. */
  value: number;
  /** Of all together, 0 to 1; 0 where there is nothing. */
  share: number;
  /** With all before it, 0 to 1. */
  cumulative: number;
}

/** The few that make the most, largest first; equals stay in the order in which they came. One without a cost has cost nothing. */
export function pareto({ items, by }: z.infer<typeof ParetoInput>): Outcome<{ items: ParetoItem[] }> {
  const values = items.map(({ name, count, cost }) => ({ name, value: by === 'count' ? count : (cost ?? 0) }));
  const all = values.reduce((sum, i) => sum + i.value, 0);
  let before = 0;
  return done({
    items: [...values]
      .sort((a, b) => b.value - a.value)
      .map(({ name, value }) => {
        before += value;
        return { name, value, share: all === 0 ? 0 : value / all, cumulative: all === 0 ? 0 : before / all };
      }),
  });
}
