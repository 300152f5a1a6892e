import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { entropyBits, normalised, posterior, TraceCause, TraceRankInput } from './bayes';

/** A test that shows water or does not. */
const TraceTest = z.object({
  name: z.string().min(1).max(200),
  /** What it takes, minutes. */
  minutes: z.number().positive().max(100_000),
  /** How likely it shows water where each cause is the true one. */
  given: z.record(z.string().min(1).max(200), z.number().min(0).max(1)),
});

/** What is suspected, what was seen, and what could be tested. */
export const TraceNextInput = TraceRankInput.extend({
  causes: z.array(TraceCause).min(1).max(2000),
  tests: z.array(TraceTest).min(1).max(200),
});
export type TraceNextInput = z.infer<typeof TraceNextInput>;

/** What a test would tell. */
export interface TestWorth {
  name: string;
  /** By how much it lowers the entropy of the causes, on the average, bits. */
  informationBits: number;
  bitsPerMinute: number;
}

/**
 * By how much the entropy of some causes falls when one learns which of several outcomes comes, on the average, bits. `given` has a row
 * for each outcome with its probability under each cause; the rows of a cause add up to one.
 */
export function informationBits(shares: readonly number[], given: readonly (readonly number[])[]): number {
  let after = 0;
  for (const row of given) {
    const joint = shares.map((p, k) => p * row[k]!);
    const chance = joint.reduce((sum, p) => sum + p, 0);
    const then = normalised(joint);
    if (then) after += chance * entropyBits(then);
  }
  // Rounding may take it below nothing: a test never takes knowledge away on the average.
  return Math.max(0, entropyBits(shares) - after);
}

/** What each test would tell now, most a minute first; equal ones as they came. */
export function traceNext({ causes, seen, tests }: TraceNextInput): Outcome<{ tests: TestWorth[] }> {
  const shares = posterior({ causes, seen });
  if (!shares.ok) return shares;
  const worth: TestWorth[] = [];
  for (const [k, { name, minutes, given }] of tests.entries()) {
    const missing = causes.find((c) => !Object.hasOwn(given, c.name));
    if (missing) return refuse('trace-test-given-missing', `tests.${k}.given`, { test: name, cause: missing.name });
    const water = causes.map((c) => given[c.name]!);
    const bits = informationBits(shares.value, [water, water.map((p) => 1 - p)]);
    worth.push({ name, informationBits: bits, bitsPerMinute: bits / minutes });
  }
  return done({ tests: worth.sort((a, b) => b.bitsPerMinute - a.bitsPerMinute) });
}
