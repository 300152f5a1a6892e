import type { Requirement } from '../log/judgement';
import type { Evidence, ShowerState } from '../log/state';
import type { Measured } from './found';
import type { Looked } from './looks';

/** What is judged: the requirement with the evidence on it that stands, oldest first. */
export interface Asked<C> {
  /** The shower so far. */
  state: ShowerState;
  /** What is asked, with the limits of this drawing. */
  requirement: Requirement & { check: C };
  /** Readings that stand, oldest first. */
  readings: readonly Evidence[];
  /** Looks that stand, oldest first. */
  looks: readonly Evidence[];
  /** What the looks come to. */
  looked: Looked;
}

/** What answers a check: readings at places, a told figure or the name of what shows it, a look, the way of building that was found, or work of its own such as a test by water. */
export type AnsweredBy = 'reading' | 'figure' | 'look' | 'way' | 'work';

/** How a kind of check is judged, and what it means to those that draw, ask and fold. What is left out is "no". */
export interface Judge<C> {
  /** What the evidence comes to; `readyAtMs` of a kind that waits, ms since 1970. */
  judge: (asked: Asked<C>) => { measured: Measured; readyAtMs?: number | null };
  /** By what it is answered. */
  answeredBy: (check: C) => AnsweredBy;
  /** Its readings say where along a seam it was measured, and are drawn there. */
  measuresPlaces?: boolean;
  /** A look alone answers it, wholly or in part. */
  wantsLook?: (check: C) => boolean;
  /** It passes or fails by the clock alone, with no new evidence. */
  byClock?: boolean;
  /** It is asked while something is built, and not only of what stands. */
  buildsOn?: boolean;
  /** Nothing has to be shown of it until something was. */
  isOptional?: (check: C) => boolean;
  /** Entries beside its own evidence that a judgement stands on. */
  standsOn?: (state: ShowerState) => string[];
  /** What it was judged by is not there any more. */
  isGone?: (state: ShowerState) => boolean;
}
