import type { Body, CheckVerdict, EntryOf, LookAnswer, PhotoUse, Place } from '../entries/entry';
import type { ShowerModel } from '../geometry/showerModel';
import type { Pinned } from '../rules/combineMethods';
import type { Check, Method, RuleBook, Severity, Stage } from '../rules/ruleBook';
import type { Seam } from '../seams/seam';
import type { FloodTest } from './floodTest';
import type { Stretch } from './intervals';

export const STAGE_WORDS = ['open', 'held', 'released', 'contested'] as const;
export type StageWord = (typeof STAGE_WORDS)[number];

/** One answer or reading on one element. Evidence is never removed: what a redo takes away is marked. */
export interface Evidence {
  entry: string;
  kind: 'look' | 'reading';
  stage: string;
  check: string;
  element: string;
  /** Face that a lap lies on, or null where the check has no sides. */
  side: string | null;
  /** The stretch it was made for; for an element without length 0 to 1. */
  stretch: Stretch;
  atMm: number;
  valueMm: number | null;
  /** Of a level survey: where the rod stood and how high. */
  shot: Body<'reading'>['shot'] | null;
  /** Of a liquid film: what was read of it. Of a place drawn at random: which. */
  film: Body<'reading'>['film'] | null;
  drawn: Body<'reading'>['drawn'] | null;
  answer: LookAnswer | null;
  reason: string | null;
  /** Of a look that told a figure, named what shows it, or said which of the trade's positions was found. */
  number: number | null;
  shownBy: string | null;
  position: string | null;
  /** What was used of each item of the take-off. */
  used: Readonly<Record<string, number>> | null;
  observedAt: string;
  author: string;
  /** Stretches that a later redo took away. */
  voids: Stretch[];
  voided: boolean;
  /** After an edit of the dimensions it no longer fits its place. */
  lookAgain: boolean;
  place: Place;
}

export interface DefectAssignment {
  crewId: string;
  /** End of the day it is due, ms since 1970, or null. */
  dueAtMs: number | null;
  words: string;
  /** It was looked at and sent back. */
  again: boolean;
  by: string;
  observedAt: string;
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
  answers: { words: string; photos: PhotoUse[]; author: string; observedAt: string }[];
  redoneAt: string | null;
  closedAt: string | null;
}

export interface Deviation {
  id: string;
  asked: Body<'deviation-asked'>;
  /** The asker's id, name, and when. */
  askedBy: string;
  askedByName: string;
  askedAt: string;
  decision: { accepted: boolean; by: string; reason: string; at: string } | null;
  /** Lowest reading when it was asked: a lower one ends it. */
  lowestMm: number | null;
  ended: boolean;
}

export interface Release {
  entry: string;
  stage: string;
  by: string;
  observedAt: string;
  ruleVersion: number;
  /** What would have blocked it, judged with everything that is known now. */
  blockedBy: Blocker[];
  upheld: string | null;
}

export interface StageState {
  word: StageWord;
  begun: boolean;
  work: EntryOf<'work-done'>[];
  release: Release | null;
}

/** One thing that must be shown before a stage may be released. */
export interface Requirement {
  stage: Stage;
  check: Check;
  element: string;
  side: string | null;
  /** mm; 1 for elements without length. */
  lengthMm: number;
  hasLength: boolean;
}

export interface Judgement {
  requirement: Requirement;
  verdict: CheckVerdict;
  /** pass, or not applicable with its reason, or accepted by a deviation. */
  satisfied: boolean;
  deviation: Deviation | null;
  lowestMm: number | null;
  worstAtMm: number | null;
  nextAtMm: number | null;
  /** Stretches looked at and found ok (or not applicable). */
  seen: Stretch[];
  /** Stretches that readings speak for. */
  measured: Stretch[];
  failed: Stretch[];
  /** Stretches still without any answer. */
  missing: Stretch[];
  readings: Evidence[];
  /** Of a single figure, and of a question on which the trade disagrees: what stands. */
  number: number | null;
  position: string | null;
  /** For a wait: when it is over, ms since 1970; null while the work it follows is not known. */
  readyAtMs: number | null;
}

export type Blocker =
  | {
      kind: 'check';
      stage: string;
      check: string;
      element: string;
      side: string | null;
      verdict: CheckVerdict;
      judgement: Judgement;
    }
  | { kind: 'defect'; stage: string; defect: Defect }
  | { kind: 'deviation-pending'; stage: string; deviation: Deviation }
  | { kind: 'lower-stage'; stage: string; lower: string }
  | { kind: 'look-again'; stage: string; count: number };

/** Everything the entries say about one shower. Built by `foldShower`, read by all screens and by the record. */
export interface ShowerState {
  created: EntryOf<'shower-created'> | null;
  geometry: {
    version: number;
    model: ShowerModel;
    setAt: string;
    /** The form that it was drawn by, so that it can be changed there; null when it came from elsewhere. */
    drawing: Body<'geometry-set'>['drawing'] | null;
    /** The shower whose type it follows, with the version it was taken at. */
    from: Body<'geometry-set'>['from'] | null;
  } | null;
  /** The book, what was pinned of it, and the one method that its parts come to on this drawing. */
  rules: { book: RuleBook; method: Method; pinned: Pinned } | null;
  /** Lookup of the geometry's parts by id; set with the geometry. */
  seamById: Map<string, Seam>;
  elementIds: Set<string>;
  requirements: Requirement[];
  evidence: Map<string, Evidence[]>;
  defects: Map<string, Defect>;
  deviations: Map<string, Deviation>;
  stages: Map<string, StageState>;
  releases: Release[];
  redos: EntryOf<'redo'>[];
  /** Redo's entry → what it took the proof from: to be shown again. */
  provedAgain: Map<string, Pick<Evidence, 'stage' | 'check' | 'element' | 'side'>[]>;
  /** Element → stretches built again, with the order of the stage that was redone: measured anew there. */
  redone: Map<string, (Stretch & { stageOrder: number })[]>;
  /** Element → stretches that a later layer covered before their checks were satisfied. Never taken back. */
  covered: Map<string, Stretch[]>;
  /** The last flood test, or null. */
  flood: FloodTest | null;
  /** Flood tests before it, oldest first. */
  earlierFloods: FloodTest[];
  notes: EntryOf<'note'>[];
  photos: EntryOf<'photo'>[];
  climate: EntryOf<'climate-reading'>[];
  signed: EntryOf<'record-signed'>[];
  lookRequests: EntryOf<'look-requested'>[];
  /** Entries whose target is unknown or was withdrawn. */
  orphans: { entry: string; why: 'target-withdrawn' | 'target-unknown' | 'geometry-invalid' | 'rules-unknown' }[];
  /** The moment the state is judged at, ms since 1970: of the last entry, or later when the screen's clock says so. */
  clockMs: number;
  /** Highest orderAt folded, or null. */
  lastOrderAt: string | null;
}

/** All evidence of a shower, also what a redo or an edit took out of force. */
export function allEvidence(state: ShowerState): Evidence[] {
  return [...state.evidence.values()].flat();
}
