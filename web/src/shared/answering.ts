import { judgeOf } from '@careful-seam/core/checks/judges';
import type { Check, CheckKind } from '@careful-seam/core/rules/checks/check';

/** Screens on which checks are answered. */
type ToolScreen = 'flood' | 'cure' | 'survey' | 'film';

/** The screen of its own on which a kind of check is answered; null where the card answers it. A new kind does not compile until it says so here. */
const SCREENS: Readonly<Record<CheckKind, ToolScreen | null>> = {
  measured: null,
  looked: null,
  number: null,
  position: null,
  flood: 'flood',
  wait: 'cure',
  survey: 'survey',
  film: 'film',
};

/** What answers this check. */
export const answeredBy = (check: Check) => judgeOf(check).answeredBy(check);

/** The screen on which it is answered, or null. */
export const screenOf = (check: Check): ToolScreen | null => SCREENS[check.kind];

/** Whether it is asked at a place; questions on which the trade disagrees are answered once, for the whole stage. */
export const isAsked = (check: Check): boolean => answeredBy(check) !== 'way';
