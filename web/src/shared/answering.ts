import type { Check, CheckKind } from '@careful-seam/core/rules/checks/check';

/** What answers a check on the tablet: the fraction pad, a typed figure, look keys, the ways of building, or a screen of its own. */
type AnsweredBy = 'pad' | 'figure' | 'keys' | 'ways' | 'screen';
/** Screens on which checks are answered. */
type ToolScreen = 'flood' | 'cure' | 'survey' | 'film';

/** How a kind of check is answered. */
interface Answering {
  /** By what. */
  by: AnsweredBy;
  /** The screen of its own; null where it is answered on the card. */
  screen: ToolScreen | null;
}

/** Answered on the card of its element. */
const onCard = (by: AnsweredBy): Answering => ({ by, screen: null });
/** Answered on a screen of its own. */
const onScreen = (screen: ToolScreen): Answering => ({ by: 'screen', screen });

/** How each kind of check is answered. A new kind does not compile until it says so here. */
const ANSWERING: Readonly<Record<CheckKind, Answering>> = {
  measured: onCard('pad'),
  looked: onCard('keys'),
  number: onCard('figure'),
  position: onCard('ways'),
  flood: onScreen('flood'),
  wait: onScreen('cure'),
  survey: onScreen('survey'),
  film: onScreen('film'),
};

/** What answers this check; a look that must name what shows it is answered by typing that. */
export const answeredBy = (check: Check): AnsweredBy =>
  check.kind === 'looked' && check.proof ? 'figure' : ANSWERING[check.kind].by;

/** The screen on which it is answered, or null. */
export const screenOf = (check: Check): ToolScreen | null => ANSWERING[check.kind].screen;

/** Whether it is asked at a place; questions on which the trade disagrees are answered once, for the whole stage. */
export const isAsked = (check: Check): boolean => ANSWERING[check.kind].by !== 'ways';
