import type { z } from 'zod';
import { issueValues } from '../outcome/issueValues';
import { type Outcome, refuse } from '../outcome/outcome';
import { type CalculationName, versionOf } from '../outcome/versions';
import { anyMm } from '../units/bounded';

/** One public calculation. The registry is the one list: command line, API and docs all come from it. */
export interface Calculation {
  /** As the API and the command line know it. */
  name: string;
  /** What it works out, in words. */
  title: string;
  /** Goes up when the same input may give another result. */
  version: string;
  /** Where its formula and constants come from. */
  source: string;
  /** What it takes; refuses all else. */
  input: z.ZodType;
  /** What it gives. */
  output: z.ZodType;
  /** Works it out; input that can not be is refused with its field. */
  run: (input: unknown) => Outcome<unknown>;
}

/** Makes one: input is checked against its schema before it is computed with. */
export function calculation<I extends z.ZodType>(
  name: CalculationName,
  title: string,
  source: string,
  input: I,
  output: z.ZodType,
  compute: (input: z.infer<I>) => Outcome<unknown>,
): Calculation {
  const run = (raw: unknown): Outcome<unknown> => {
    const read = input.safeParse(raw);
    if (read.success) return compute(read.data);
    const issue = read.error.issues[0]!;
    const field = issue.path.join('.') || 'input';
    return refuse('input-invalid', field, issueValues(issue, field));
  };
  return { name, title, version: versionOf(name), source, input, output, run };
}

/** A length in mm that a shower can have. */
export const mm = anyMm;
