import type { PROBLEMS } from './problems';

/** What a sentence is filled with: words that somebody typed, counts and figures with the unit that their name says. */
export type Values = Readonly<Record<string, string | number>>;

/**
 * The one shape of an expected failure. `code` names what is wrong, `field` is a dotted path into the input, `values` fill the
 * sentence that stands beside the code in `words/src/errors`: nobody builds one where something is found to be wrong.
 */
export interface Problem {
  /** What is wrong, as a code of the one table. */
  code: string;
  /** Where, as a dotted path; empty for the whole. */
  field: string;
  /** What fills its sentence. */
  values: Values;
}

/** What a function returns whose caller is expected to handle a failure; it throws only for a bug in the caller. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; problem: Problem };

/** A success with its value. */
export function done<T>(value: T): Outcome<T> {
  return { ok: true, value };
}

/** An outcome of a part, told of the whole: its field stands below `field`. */
export function below<T>(field: string, outcome: Outcome<T>): Outcome<T> {
  if (outcome.ok) return outcome;
  const parts = [field, outcome.problem.field].filter((part) => part !== '');
  return { ok: false, problem: { ...outcome.problem, field: parts.join('.') } };
}

/** Values by their names; nothing where a code has none. */
export type Filling<Names extends string> = [Names] extends [never]
  ? []
  : [values: Readonly<Record<Names, string | number>> & Values];

/** Makes the function that refuses by the codes of a table, each with the values that its sentence names. */
export const refuser =
  <Table extends Record<string, string>>() =>
  <Code extends keyof Table & string>(
    code: Code,
    field: string,
    ...[values]: Filling<Table[Code]>
  ): Outcome<never> => ({ ok: false, problem: { code, field, values: values ?? {} } });

/** An expected failure of core: its code, the dotted field it concerns, the values of its sentence. */
export const refuse = refuser<{ [Code in keyof typeof PROBLEMS]: (typeof PROBLEMS)[Code][number] }>();
