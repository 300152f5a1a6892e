import type { Severity } from '../rules/checks/checkBase';
import type { Body } from './bodies';
import type { PhotoUse, Place } from './places';

export interface DefectAssignment {
  crewId: string;
  /** End of the day it is due, ms since 1970, or null. */
  dueAtMs: number | null;
  words: string;
  /** It was looked at and sent back. */
  again: boolean;
  by: string;
  observedAt: string;
  seq: number;
}
export interface Defect {
  id: string;
  stage: string;
  check: string | null;
  places: Place[];
  kind: string | null;
  severity: Severity;
  words: string;
  photos: PhotoUse[];
  observedAt: string;
  author: string;
  valueMm: number | null;
  /** Oldest first; the last one counts. */
  assignments: DefectAssignment[];
  cause: Body<'defect-found'>['cause'] | null;
  escape: Body<'defect-found'>['escape'] | null;
  stageMade: string | null;
  /** An earlier defect that a person linked it to. */
  repeats: string | null;
  cost: Body<'defect-closed'>['cost'] | null;
  /** Pictures of how it was when it was closed. */
  photosAfter: PhotoUse[];
  closedBy: string | null;
  answers: { words: string; photos: PhotoUse[]; author: string; observedAt: string; seq: number }[];
  /** Place in the order of what it was found by. */
  seq: number;
  redoneAt: string | null;
  closedAt: string | null;
}
