import type { Severity } from '../rules/checks/checkBase';
import type { Body } from './bodies';
import type { MadeBy } from './defectBodies';
import type { PhotoUse, Place } from './places';

/** A defect given to a crew. */
export interface DefectAssignment {
  /** The crew that it was given to. */
  crewId: string;
  /** End of the day it is due, ms since 1970, or null. */
  dueAtMs: number | null;
  /** What is to be done. */
  words: string;
  /** It was looked at and sent back. */
  again: boolean;
  /** Name of who gave it. */
  by: string;
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
  /** Place in the order. */
  seq: number;
}
/** One answer to why a defect happened. */
export interface CauseTold {
  /** The family of causes, how sure it is, and words. */
  cause: NonNullable<Body<'defect-found'>['cause']>;
  /** Name of who said it. */
  by: string;
  /** When, by the clock of its device, ISO 8601. */
  at: string;
}
/** A defect from found to closed, as all entries about it come to. */
export interface Defect {
  /** The entry that it was found by. */
  id: string;
  /** Key of the stage it was found at. */
  stage: string;
  /** The check that found it, or null where somebody saw it. */
  check: string | null;
  /** All places that it lies on. */
  places: Place[];
  /** A kind of the rule book's list, or null. */
  kind: string | null;
  /** What it stops. */
  severity: Severity;
  /** What was said of it; may be empty. */
  words: string;
  /** Pictures with their marks. */
  photos: PhotoUse[];
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
  /** Name of who said it. */
  author: string;
  /** What was measured there, mm, or null. */
  valueMm: number | null;
  /** Oldest first; the last one counts. */
  assignments: DefectAssignment[];
  /** Why it happened, as it was said last. */
  cause: CauseTold['cause'] | null;
  /** All that was said of why, oldest first: a suspicion stays beside what a test showed. */
  causesTold: CauseTold[];
  /** Who made it, where somebody said; null where the work that was told says it. */
  madeBy: MadeBy | null;
  /** How it got past whoever should have seen it. */
  escape: Body<'defect-found'>['escape'] | null;
  /** The stage that it was made at, where it is another one than it was found at. */
  stageMade: string | null;
  /** An earlier defect that a person linked it to. */
  repeats: string | null;
  /** Hours and money as told at closing. */
  cost: Body<'defect-closed'>['cost'] | null;
  /** Pictures of how it was when it was closed. */
  photosAfter: PhotoUse[];
  /** Name of who closed it, or null while it is open. */
  closedBy: string | null;
  /** What the crew answered, oldest first. */
  answers: { words: string; photos: PhotoUse[]; author: string; observedAt: string; seq: number }[];
  /** Place in the order of what it was found by. */
  seq: number;
  /** When it was last built again, or null. */
  redoneAt: string | null;
  /** When it was closed, or null. */
  closedAt: string | null;
}
