import type { ShowerState } from '../log/state';

/** What let water through, as a call ended. */
export interface FoundFact {
  /** The entry that opened the call. */
  call: string;
  /** Kind of what was found; `unknown` where the path stayed unknown. */
  kind: string;
  /** The element, or the name of what is no part of the surface; empty where the path stayed unknown. */
  element: string;
}

/** What calls came to. A call that is open, or whose end was taken back, counts for nothing. */
export const foundOf = (state: ShowerState): FoundFact[] =>
  [...state.calls.values()].flatMap(({ opened, closed }) =>
    closed
      ? [{ call: opened.id, kind: closed.body.found?.kind ?? 'unknown', element: closed.body.found?.element ?? '' }]
      : [],
  );
