import type { Problem, Values } from '@careful-seam/core/outcome/outcome';
import { refuser } from '@careful-seam/core/outcome/outcome';
import type { Language } from '../texts/language';
import { ENTRY_ERRORS } from './entriesErrors';
import { FILE_ERRORS } from './filesErrors';
import { PEOPLE_ERRORS } from './peopleErrors';
import { PLAN_ERRORS } from './planErrors';
import { REASONS, VALUE_WORDS } from './reasons';
import { BOOK_ERRORS } from './ruleBookErrors';
import type { Sentences } from './sentences';
import { SERVER_ERRORS } from './serverErrors';
import { SHOWER_ERRORS } from './showerErrors';
import { SUM_ERRORS } from './sumsErrors';
import { TABLET_ERRORS } from './tabletErrors';
import { TRACE_ERRORS } from './traceErrors';

/** The one table of errors: code, sentence in both languages, HTTP status. */
export const ERRORS = {
  ...SHOWER_ERRORS,
  ...SUM_ERRORS,
  ...PLAN_ERRORS,
  ...TRACE_ERRORS,
  ...ENTRY_ERRORS,
  ...BOOK_ERRORS,
  ...FILE_ERRORS,
  ...PEOPLE_ERRORS,
  ...SERVER_ERRORS,
  ...TABLET_ERRORS,
};
/** A code of the one table. */
export type ErrorCode = keyof typeof ERRORS;

/** Names of the values in a sentence: `{{name}}`, or `{{name|kind}}` for a value that has words of its own. */
type Holes<Text extends string> = Text extends `${string}{{${infer Hole}}}${infer Rest}`
  ? (Hole extends `${infer Name}|${string}` ? Name : Hole) | Holes<Rest>
  : never;
/** The names of the values of each error. */
export type ErrorValues = { [Code in ErrorCode]: Holes<(typeof ERRORS)[Code]['en']> };

/** An expected failure outside core: any code of the table with the values that its sentence names. */
export const refuse = refuser<ErrorValues>();

/** The sentences of a code; nothing for a code of a newer server. */
const errorOf = (code: string): Sentences | undefined => (ERRORS as Readonly<Record<string, Sentences>>)[code];

/** The HTTP status that an error is answered with; 422 for one that nobody knows. */
export const statusOf = (code: string): number => errorOf(code)?.status ?? 422;

/** What is filled in: a value, with the way it is told behind a bar. */
const HOLE = /\{\{(\w+)(?:\|(\w+))?\}\}/g;

/** A sentence with its values. */
function filled(text: string, values: Values, language: Language): string {
  return text.replace(HOLE, (_, name: string, kind: string | undefined) => {
    const value = values[name] ?? '';
    const said = kind === undefined ? undefined : VALUE_WORDS[kind]?.[value];
    if (name !== 'reason') return said?.[language] ?? String(value);
    const reason = (REASONS as Readonly<Record<string, Record<Language, string>>>)[value];
    return reason ? filled(reason[language], values, language) : String(value);
  });
}

/** What came over the wire or lies in a store, perhaps from a version that knew other codes: then `message` is what it said. */
export interface ToldProblem {
  /** Which error. */
  code: string;
  /** What fills its sentence. */
  values?: Values | undefined;
  /** The sentence as the server told it, for a code that is not known here. */
  message?: string | undefined;
}

/**
 * The sentence of an error in a language. A code that this version does not know, or one that was kept without the values that
 * its sentence names, is told with the message that came along.
 */
export function sentenceOf({ code, values = {}, message = code }: ToldProblem, language: Language): string {
  const error = errorOf(code);
  if (!error) return message;
  const lacks = [...error.en.matchAll(HOLE)].some(([, name]) => values[name!] === undefined);
  return lacks && message !== code ? message : filled(error[language], values, language);
}

/** A problem as it is sent: with its sentence, for readers that have no table. */
export const withMessage = (problem: Problem, language: Language): Problem & { message: string } => ({
  code: problem.code,
  field: problem.field,
  values: problem.values,
  message: sentenceOf(problem, language),
});
