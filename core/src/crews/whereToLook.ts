import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { countOf, together } from './exposure';
import { betweenGroups, shrunkRate } from './shrinkage';

/** What each crew made of each kind of element so far, and how much of it is coming. */
export const WhereToLookInput = z.object({
  cells: z
    .array(
      z.object({
        crew: z.string().max(200),
        kind: z.string().max(200),
        count: countOf,
        /** What the count is counted against so far; zero for a crew or kind that is new. */
        exposure: z.number().min(0).max(1e12),
        /** What is to be looked at now, mm. */
        lengthMm: z.number().min(0).max(1e9),
      }),
    )
    .min(1)
    .max(20_000),
  /** How many places are measured in all. */
  readings: z.number().int().min(0).max(10_000_000),
  /** What one reading speaks for, mm. */
  speaksForMm: z.number().positive().max(100_000).default(305),
});

/** Where one crew's work of one kind stands. */
export interface LookCell {
  /** As it came. */
  crew: string;
  /** As it came. */
  kind: string;
  /** Its rate so far, drawn towards that of all as far as little work makes it uncertain. */
  rate: number;
  /** Its share of the readings, 0 to 1. */
  share: number;
  /** Places to measure; one at least where there is anything to look at. */
  readings: number;
}

/** Halvings until the price of a reading is known to the last digit of a double. */
const HALVINGS = 200;

/** Rates drawn towards that of all; all alike where nothing was made yet. */
function drawnRates(cells: readonly { count: number; exposure: number }[]): number[] {
  const worked = cells.filter((c) => c.exposure > 0);
  const { count, exposure } = together(worked);
  if (exposure === 0) return cells.map(() => 0);
  const overall = count / exposure;
  const between = betweenGroups(worked, overall);
  return cells.map((c) => shrunkRate(c, overall, between));
}

/**
 * Where a number of readings finds the most. A reading at random speaks for a stretch, so that n of them leave the share exp(-n·w/L) of a
 * length L unseen; what is left of all defects is least where the last reading finds as much everywhere, which a price tells (found by
 * halving). Nobody's work is left out: one reading at least where there is anything. `riskLeft` is the share of the defects to be expected
 * that nothing would be measured near, 0 to 1.
 */
export function whereToLook({ cells, readings, speaksForMm }: z.infer<typeof WhereToLookInput>): Outcome<{
  cells: LookCell[];
  riskLeft: number;
}> {
  const wrong = cells.findIndex((c) => c.exposure === 0 && c.count > 0);
  if (wrong >= 0) return refuse('no-exposure', `cells.${wrong}.exposure`);
  const rates = drawnRates(cells);
  const there = cells.map((c) => c.lengthMm > 0);
  const least = there.filter(Boolean).length;
  if (readings < least) return refuse('readings-fewer-than-cells', 'readings', { least });
  // Where nobody has ever found anything, all lengths are alike.
  const worth = rates.every((r) => r === 0) ? rates.map(() => 1) : rates;
  const wanted = (price: number) =>
    cells.map(({ lengthMm }, i) =>
      there[i] ? Math.max(1, worth[i]! <= 0 ? 1 : (lengthMm / speaksForMm) * Math.log(worth[i]! / price)) : 0,
    );
  const total = (list: readonly number[]) => list.reduce((sum, n) => sum + n, 0);
  let [low, high] = [-700, Math.log(Math.max(...worth))];
  for (let k = 0; k < HALVINGS; k += 1) {
    const middle = (low + high) / 2;
    if (total(wanted(Math.exp(middle))) > readings) low = middle;
    else high = middle;
  }
  const whole = inWholes(wanted(Math.exp(high)), readings);
  const expected = cells.map((c, i) => worth[i]! * c.lengthMm);
  const left = cells.map((c, i) =>
    c.lengthMm === 0 ? 0 : expected[i]! * Math.exp((-whole[i]! * speaksForMm) / c.lengthMm),
  );
  return done({
    cells: cells.map(({ crew, kind }, i) => ({
      crew,
      kind,
      rate: rates[i]!,
      share: readings === 0 ? 0 : whole[i]! / readings,
      readings: whole[i]!,
    })),
    riskLeft: total(expected) === 0 ? 0 : total(left) / total(expected),
  });
}

/** Whole readings with the same sum: the largest remainders are rounded up. What can not be spread goes to the largest. */
function inWholes(wanted: readonly number[], readings: number): number[] {
  const whole = wanted.map(Math.floor);
  let over = readings - whole.reduce((sum, n) => sum + n, 0);
  const order = wanted
    .map((_, i) => i)
    .sort((a, b) => wanted[b]! - whole[b]! - (wanted[a]! - whole[a]!) || wanted[b]! - wanted[a]!);
  const open = order.filter((i) => wanted[i]! > 0);
  for (let k = 0; over > 0 && open.length > 0; k += 1, over -= 1) whole[open[k % open.length]!]! += 1;
  return whole;
}
