/**
 * The one shape of an expected failure: a closed code, the field it concerns, a sentence a person can act on.
 * Functions return an Outcome when the caller is expected to handle the failure, and throw only for a bug in the caller.
 */
export const PROBLEM_CODES = [
  'length-unreadable',
  'length-out-of-range',
  'footprint-invalid',
  'edge-invalid',
  'drain-outside',
  'penetration-outside',
  'joint-outside',
  'niche-invalid',
  'bench-invalid',
  'ceiling-invalid',
  'shots-invalid',
  'name-taken',
  'rule-book-invalid',
  'input-invalid',
  'range-invalid',
  'entry-invalid',
  'version-too-new',
  'chain-broken',
  'id-taken',
] as const;
export type ProblemCode = (typeof PROBLEM_CODES)[number];

/** `field` is a dotted path into the input, `message` one sentence with the way out. */
export interface Problem {
  code: ProblemCode;
  field: string;
  message: string;
}

export type Outcome<T> = { ok: true; value: T } | { ok: false; problem: Problem };

/** A success with its value. */
export function done<T>(value: T): Outcome<T> {
  return { ok: true, value };
}

/** An expected failure: closed code, dotted field, sentence with the way out. */
export function refuse<T = never>(code: ProblemCode, field: string, message: string): Outcome<T> {
  return { ok: false, problem: { code, field, message } };
}
