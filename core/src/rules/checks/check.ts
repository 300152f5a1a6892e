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
