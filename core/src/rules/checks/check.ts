import { z } from 'zod';
import type { CheckRule } from './checkRule';
import { figureRule, NumberCheck } from './figure';
import { FilmCheck, filmRule } from './film';
import { FloodCheck, floodRule } from './flood';
import { LookedCheck, lookedRule } from './looked';
import { MeasuredCheck, measuredRule } from './measured';
import { PositionCheck, positionRule } from './position';
import { SurveyCheck, surveyRule } from './survey';
import { WaitCheck, waitRule } from './wait';

/** A check of any kind. */
export const Check = z.discriminatedUnion('kind', [
  MeasuredCheck,
  LookedCheck,
  NumberCheck,
  PositionCheck,
  FloodCheck,
  WaitCheck,
  SurveyCheck,
  FilmCheck,
]);
export type Check = z.infer<typeof Check>;
/** A kind of check by its name. */
export type CheckKind = Check['kind'];
/** The check of one kind. */
export type CheckOf<K extends CheckKind> = Extract<Check, { kind: K }>;

/** What the rule book knows of each kind of check. */
const CHECK_RULES: { readonly [K in CheckKind]: CheckRule<CheckOf<K>> } = {
  measured: measuredRule,
  looked: lookedRule,
  number: figureRule,
  position: positionRule,
  flood: floodRule,
  wait: waitRule,
  survey: surveyRule,
  film: filmRule,
};

/** What the rule book knows of the kind that this check is of. */
export const ruleOf = <C extends Check>(check: C): CheckRule<C> => CHECK_RULES[check.kind] as unknown as CheckRule<C>;

/** True for a check of this kind; where its own fields are needed, and nowhere to decide what a kind means: that stands in its rule. */
export const isOf = <K extends CheckKind>(check: Check, kind: K): check is CheckOf<K> => check.kind === kind;

/** The checks of one kind among others, in their order. */
export const checksOf = <K extends CheckKind>(checks: readonly Check[], kind: K): CheckOf<K>[] =>
  checks.filter((check) => isOf(check, kind));

/** True where the work of a stage lets this check's time begin anew. */
export const followsStage = (check: Check, stage: string): boolean => ruleOf(check).follows(check).includes(stage);

/** The question on which the trade disagrees and that this check settles, by its id; null where it asks none. */
export const questionOf = (check: Check): string | null => ruleOf(check).question(check);

/** The limit of a length that is read, mm; empty for a check that has none. */
export function lengthLimit(check: Check): { atLeastMm?: number; atMostMm?: number } {
  const figures = ruleOf(check).figures(check);
  if (figures?.in !== 'length') return {};
  const { least, most } = figures;
  return { ...(least === null ? {} : { atLeastMm: least }), ...(most === null ? {} : { atMostMm: most }) };
}
