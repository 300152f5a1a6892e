import { SIGNS, type Sign, WHENS, type When } from '../log/callBodies';
import {
  ANYWHERE,
  BEHAVIOURS,
  type Behaviour,
  FALSE_WATER,
  RUNNING_SHOWS,
  SIGN_GIVEN,
  STANDING_SHOWS,
  WHEN_GIVEN,
} from './startingValues';

/** Probabilities that tracing works with: what is seen, and what tests show, where something lets water through. */
export interface Odds {
  /** How likely each behaviour shows at each time; rows add up to one. */
  when: Readonly<Record<Behaviour, Readonly<Record<When, number>>>>;
  /** How likely each sign is with each behaviour. */
  sign: Readonly<Record<Sign, Readonly<Record<Behaviour, number>>>>;
  /** How often water shows anywhere, far from its hole. */
  anywhere: number;
  /** How often a test shows water that it does not wet; that it wets, with water standing; with water running. */
  falseWater: number;
  standing: number;
  running: number;
}

/** As shipped. */
export const STARTING_ODDS: Odds = {
  when: WHEN_GIVEN,
  sign: SIGN_GIVEN,
  anywhere: ANYWHERE,
  falseWater: FALSE_WATER,
  standing: STANDING_SHOWS,
  running: RUNNING_SHOWS,
};

/** Those that stand alone. */
export const SINGLE_ODDS = ['anywhere', 'falseWater', 'standing', 'running'] as const;
/** The name of one of a time, and of a sign. */
export const whenKey = (behaviour: Behaviour, when: When): string => `when ${behaviour} ${when}`;
export const signKey = (sign: Sign, behaviour: Behaviour): string => `sign ${sign} ${behaviour}`;

/** Every probability that a firm can set, by its name, with what is shipped. */
export const SHIPPED_ODDS: Readonly<Record<string, number>> = Object.fromEntries([
  ...BEHAVIOURS.flatMap((b) => WHENS.map((w) => [whenKey(b, w), WHEN_GIVEN[b][w]] as const)),
  ...SIGNS.flatMap((s) => BEHAVIOURS.map((b) => [signKey(s, b), SIGN_GIVEN[s][b]] as const)),
  ...SINGLE_ODDS.map((key) => [key, STARTING_ODDS[key]] as const),
]);

/** What a firm set in the place of what is shipped; times of one behaviour are shares of one, whatever was typed. */
export function oddsOf(own: Readonly<Partial<Record<string, number>>>): Odds {
  if (Object.keys(own).length === 0) return STARTING_ODDS;
  const of = (key: string) => own[key] ?? SHIPPED_ODDS[key]!;
  const when = (b: Behaviour) => {
    const all = WHENS.reduce((sum, w) => sum + of(whenKey(b, w)), 0);
    return Object.fromEntries(WHENS.map((w) => [w, of(whenKey(b, w)) / all])) as Record<When, number>;
  };
  const sign = (s: Sign) =>
    Object.fromEntries(BEHAVIOURS.map((b) => [b, of(signKey(s, b))])) as Record<Behaviour, number>;
  return {
    when: Object.fromEntries(BEHAVIOURS.map((b) => [b, when(b)])) as Odds['when'],
    sign: Object.fromEntries(SIGNS.map((s) => [s, sign(s)])) as Odds['sign'],
    ...{ anywhere: of('anywhere'), falseWater: of('falseWater'), standing: of('standing'), running: of('running') },
  };
}
