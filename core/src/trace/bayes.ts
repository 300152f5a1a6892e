import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';

const name = z.string().min(1).max(200);
const share = z.number().min(0).max(1);

/** A cause that is suspected, before anything was seen. */
export const TraceCause = z.object({
  name,
  /** How likely before anything was seen, against the others; they need not add up to one. */
  prior: z.number().min(0).max(1e9),
  /** How likely each piece of evidence is where this is the cause. */
  given: z.record(name, share),
});
export type TraceCause = z.infer<typeof TraceCause>;

/** What is ranked. */
export const TraceRankInput = z.object({
  causes: z.array(TraceCause).min(1).max(2000),
  /** What was looked for: seen, or looked for and not there. */
  seen: z.record(name, z.boolean()),
});
export type TraceRankInput = z.infer<typeof TraceRankInput>;

/** A cause with its probability. */
export interface Ranked {
  name: string;
  probability: number;
}

/** Causes by what was seen, likeliest first; equal ones as they came. */
export interface TraceRank {
  causes: Ranked[];
}

/** Weights that add up to one. Null where all are zero. */
export function normalised(weights: readonly number[]): number[] | null {
  const total = weights.reduce((sum, w) => sum + w, 0);
  return total > 0 ? weights.map((w) => w / total) : null;
}

/** Entropy of a distribution, bits. */
export const entropyBits = (shares: readonly number[]): number =>
  shares.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0);

/** Two causes of one name are told apart by nobody. */
function twice(causes: readonly TraceCause[]): number {
  const names = new Set<string>();
  return causes.findIndex((c) => names.has(c.name) || !names.add(c.name));
}

/**
 * The probabilities of causes in the order in which they came. What no cause explains is refused, never forced; so is evidence of
 * which a cause says nothing.
 */
export function posterior({ causes, seen }: TraceRankInput): Outcome<number[]> {
  const again = twice(causes);
  if (again >= 0) return refuse('trace-cause-twice', `causes.${again}.name`, { cause: causes[again]!.name });
  const weights: number[] = [];
  for (const [k, cause] of causes.entries()) {
    let weight = cause.prior;
    for (const [evidence, was] of Object.entries(seen)) {
      const p = Object.hasOwn(cause.given, evidence) ? cause.given[evidence]! : null;
      if (p === null) return refuse('trace-given-missing', `causes.${k}.given`, { cause: cause.name, evidence });
      weight *= was ? p : 1 - p;
    }
    weights.push(weight);
  }
  const shares = normalised(weights);
  if (shares) return done(shares);
  return causes.every((c) => c.prior === 0)
    ? refuse('trace-no-prior', 'causes')
    : refuse('trace-unexplained', 'seen', { evidence: Object.keys(seen).join(', ') });
}

/** Bayes’ rule over causes of which one is the true one, evidence independent given the cause. */
export function traceRank(input: TraceRankInput): Outcome<TraceRank> {
  const shares = posterior(input);
  if (!shares.ok) return shares;
  const causes = input.causes.map(({ name: its }, k) => ({ name: its, probability: shares.value[k]! }));
  return done({ causes: causes.sort((a, b) => b.probability - a.probability) });
}
