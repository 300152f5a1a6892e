import type { z } from 'zod';
import type { Values } from './outcome';

/** What a schema found. */
type Issue = z.core.$ZodIssue;
/** What a value can be at fault with; each has its words in `words/src/errors/reasons.ts`. */
export type Reason =
  | 'missing'
  | 'wrong-type'
  | 'too-small'
  | 'too-short'
  | 'too-few'
  | 'too-large'
  | 'too-long'
  | 'too-many'
  | 'wrong-form'
  | 'not-one-of'
  | 'unknown-key'
  | 'fits-nothing'
  | Fault;

/** Faults that a schema can't tell by its shape alone: a schema names them in place of a message. */
export const FAULTS = [
  'levels-miscounted',
  'air-miscounted',
  'reason-missing',
  'replacement-without-body',
  'limit-without-side',
  'range-without-side',
  'range-reversed',
  'sign-in-letters',
  'time-zone-unknown',
  'hours-reversed',
  'level-missing',
] as const;
/** One of them. */
type Fault = (typeof FAULTS)[number];

/** How a size is told, by what has it. */
const SIZES = {
  too_small: { number: 'too-small', string: 'too-short', array: 'too-few' },
  too_big: { number: 'too-large', string: 'too-long', array: 'too-many' },
} as const;

/** Why something is too small or too large. */
function sizeOf(issue: Extract<Issue, { code: 'too_small' | 'too_big' }>): { reason: Reason } & Values {
  const words: Record<string, Reason> = SIZES[issue.code];
  const bound = issue.code === 'too_small' ? issue.minimum : issue.maximum;
  return { reason: words[issue.origin] ?? words.number!, bound: Number(bound) };
}

/** Why something was refused, as a code with its values. */
function reasonOf(issue: Issue): { reason: Reason } & Values {
  if ((FAULTS as readonly string[]).includes(issue.message)) return { reason: issue.message as Fault };
  switch (issue.code) {
    case 'invalid_type':
      // The value itself is not told: only the message says that there was none.
      return issue.message.endsWith('received undefined')
        ? { reason: 'missing', expected: issue.expected }
        : { reason: 'wrong-type', expected: issue.expected };
    case 'too_small':
    case 'too_big':
      return sizeOf(issue);
    case 'invalid_value':
      return { reason: 'not-one-of', choices: issue.values.map(String).join(', ') };
    case 'unrecognized_keys':
      return { reason: 'unknown-key', keys: issue.keys.join(', ') };
    case 'invalid_format':
      return { reason: 'wrong-form' };
    default:
      return { reason: 'fits-nothing' };
  }
}

/**
 * What a schema found wrong with a field, as the values of a sentence: `name` of the field (dotted), `reason` and what belongs to
 * it (`bound`, `expected`, `choices` or `keys`).
 */
export function issueValues(issue: Issue, field: string): { name: string; reason: Reason } & Values {
  return { name: field, ...reasonOf(issue) };
}
