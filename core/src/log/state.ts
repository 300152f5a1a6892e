import type { Pinned } from '../rules/combineMethods';
import type { Method, RuleBook } from '../rules/ruleBook';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { Stretch } from '../shower/seams/intervals';
import type { Seam } from '../shower/seams/seam';
import type { Body, LookAnswer } from './bodies';
import type { Defect } from './defect';
import type { Entry, EntryOf } from './entry';
import type { FloodTest } from './floodTest';
import type { Because, Blocker, Deviation, Requirement } from './judgement';
import type { PhotoUse, Place } from './places';

/** How an entry came to the server: what its device's clock was off by, when it was taken in, and whether out of a file. */
export interface Arrival {
  /** Server time less the device's time, ms. */
  skewMs: number;
  /** ms since 1970; null until the server took it. */
  receivedAtMs: number | null;
  /** It came out of a file. */
  imported: boolean;
}
/** Arrivals by entry id. What is not named came from a sound clock just now. */
export type Arrivals = ReadonlyMap<string, Arrival>;

/** How a stage stands: nothing speaks for it yet, something holds it, it is released, it was released and something speaks against it. */
export const STAGE_WORDS = ['open', 'held', 'released', 'contested'] as const;
/** One of them. */
export type StageWord = (typeof STAGE_WORDS)[number];

/** What an element measures, so that an edit can tell whether what was seen of it still holds: a face, or a point. Lengths in mm. */
export type ElementSize =
  | { of: 'face'; widthMm: number; heightMm: number; areaMm2: number }
  | { of: 'point'; at: readonly number[] };

/** One answer or reading on one element. Evidence is never removed: what a redo takes away is marked. */
export interface Evidence {
  /** Id of the entry that said it. */
  entry: string;
  /** Which kind of evidence. */
  kind: 'look' | 'reading';
  /** Key of the stage. */
  stage: string;
  /** Id of the check. */
  check: string;
  /** Id of the element. */
  element: string;
  /** Face that a lap lies on, or null where the check has no sides. */
  side: string | null;
  /** The stretch it was made for; for an element without length 0 to 1. */
  stretch: Stretch;
  /** Where along a seam, mm from its start. */
  atMm: number;
  /** What was read, mm; null for a look. */
  valueMm: number | null;
  /** Of a level survey: where the rod stood and how high. */
  shot: Body<'reading'>['shot'] | null;
  /** Of a liquid film: what was read of it. Of a place drawn at random: which. */
  film: Body<'reading'>['film'] | null;
  /** The draw and number of a place that was drawn at random. */
  drawn: Body<'reading'>['drawn'] | null;
  /** At how many places it was told with one word; null for one that was told by itself. */
  together: number | null;
  /** The answer of a look; null for a reading. */
  answer: LookAnswer | null;
  /** Why, in words. */
  reason: string | null;
  /** Of a look that told a figure, named what shows it, or said which of the trade's positions was found. */
  number: number | null;
  /** What shows it: a paper, a batch, a date. */
  shownBy: string | null;
  /** Pictures of what was seen; null for what was written when a look could hold none. */
  photos: readonly PhotoUse[] | null;
  /** The position found on a question. */
  position: string | null;
  /** What was used of each item of the take-off. */
  used: Readonly<Record<string, number>> | null;
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
  /** Name of who said it. */
  author: string;
  /** Its place in the order: greater than that of everything before it. */
  seq: number;
  /** A look that says "not applicable" to what a manager must decide, and is not a manager's. */
  waitsForManager: boolean;
  /** What its element measured when it was made; null for the shower as a whole and for seams, whose place tells. */
  size: ElementSize | null;
  /** Stretches that a later redo took away. */
  voids: Stretch[];
  /** Built again since: it shows nothing any more. */
  voided: boolean;
  /** After an edit of the dimensions it no longer fits its place. */
  lookAgain: boolean;
  /** Where, as it was told. */
  place: Place;
}

/** A stage released by a person. */
export interface Release {
  /** The entry that released it. */
  entry: string;
  /** Key of the stage. */
  stage: string;
  /** Name of who released it. */
  by: string;
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
  /** Version of the rule book it was judged by. */
  ruleVersion: number;
  /** Its corrected instant, ms since 1970. */
  atMs: number;
  /** What would have blocked it, judged with everything that is known now; stages below apart, which are judged at the end. */
  blockedBy: Blocker[];
  /** Why a manager let it stand although something spoke against it; null otherwise. */
  upheld: string | null;
  /** Came in a file whose chain nobody proved. */
  imported: boolean;
  /** Verdicts and calculations as stated: they count only where a calculation of that time is not today's. */
  stated: Pick<Body<'stage-released'>, 'verdicts' | 'calculations' | 'inputs'>;
}

/** Where a stage stands. */
export interface StageState {
  /** How the stage stands. */
  word: StageWord;
  /** Somebody looked, measured or built at it. */
  begun: boolean;
  /** Work that crews told. */
  work: EntryOf<'work-done'>[];
  /** The last one, whether it still stands or not. */
  release: Release | null;
  /** Later work that its release was judged without, or null. */
  touched: Pick<Because, 'cause' | 'entry'> | null;
  /** Why it is held or contested although it was released once; null otherwise. */
  because: Because | null;
  /** On a released stage: checks that today's calculation judges otherwise than the one it was released by. */
  beside: Extract<Blocker, { kind: 'check' }>[];
}

/** Why an entry is listed and not applied. */
export const ORPHAN_REASONS = [
  'target-withdrawn',
  'target-unknown',
  'geometry-invalid',
  'rules-unknown',
  'not-allowed',
  'off-element',
  'answers-missing',
] as const;
/** One of them. */
export type OrphanReason = (typeof ORPHAN_REASONS)[number];

/** A shower that stands lets water through: the call, what was tried, what was found. */
export interface Call {
  /** The entry that opened it. */
  opened: EntryOf<'call-opened'>;
  /** Tests in their order. */
  tests: EntryOf<'call-tested'>[];
  /** Parts that were taken out, in their order. */
  stripped: EntryOf<'part-stripped'>[];
  /** The floor as it was watched, in its order. */
  watched: EntryOf<'floor-watched'>[];
  /** What was found; null while it is open. */
  closed: EntryOf<'call-closed'> | null;
}

/** Everything the entries say about one shower. Built by `foldShower`, read by all screens and by the record. */
export interface ShowerState {
  /** The first entry; null where it has not come yet. */
  created: EntryOf<'shower-created'> | null;
  /** The drawing that holds, with its model and version; null before one. */
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
  /** Drawings by their version, as far as they could be built. */
  drawings: Map<number, ShowerModel>;
  /** Lookup of the geometry's parts by id; set with the geometry. */
  seamById: Map<string, Seam>;
  /** All elements of the drawing. */
  elementIds: Set<string>;
  /** How large each element is, so that a changed one is looked at again. */
  sizes: Map<string, ElementSize>;
  /** Everything that the rules ask of this drawing. */
  requirements: Requirement[];
  /** By element, in the order in which it counts. */
  evidence: Map<string, Evidence[]>;
  /** By the id of the entry that opened them. */
  defects: Map<string, Defect>;
  /** By the id of the entry that asked. */
  deviations: Map<string, Deviation>;
  /** By their keys. */
  stages: Map<string, StageState>;
  /** All of them, also those that were taken back. */
  releases: Release[];
  /** What was built again, in its order. */
  redos: EntryOf<'redo'>[];
  /** Places in the order of redos, of asked looks and of work that was told, by entry. */
  seqOf: Map<string, number>;
  /** Redo's entry → what it took the proof from: to be shown again. */
  provedAgain: Map<string, Pick<Evidence, 'stage' | 'check' | 'element' | 'side'>[]>;
  /** Element → stretches built again, as they were typed, with the order of the stage that was redone: measured anew there. */
  redone: Map<string, { place: Place; stageOrder: number; seq: number }[]>;
  /** Element → stretches that a later layer covered before their checks were satisfied. Never taken back. */
  covered: Map<string, Stretch[]>;
  /** The last flood test, or null. */
  flood: FloodTest | null;
  /** Flood tests before it, oldest first. */
  earlierFloods: FloodTest[];
  /** Calls about water, in their order, by the entry that opened them. */
  calls: Map<string, Call>;
  /** Notes, in their order. */
  notes: EntryOf<'note'>[];
  /** Pictures that belong to no defect. */
  photos: EntryOf<'photo'>[];
  /** Readings of the air, in their order. */
  climate: EntryOf<'climate-reading'>[];
  /** Signatures under the record. */
  signed: EntryOf<'record-signed'>[];
  /** Calls for a look. */
  lookRequests: EntryOf<'look-requested'>[];
  /** Entries whose target is unknown or was withdrawn. */
  orphans: { entry: string; why: OrphanReason }[];
  /** How entries came, by id. */
  arrivals: Arrivals;
  /** Entries folded so far. */
  seq: number;
  /** The moment the state is judged at, ms since 1970: of the last entry, or later when the screen's clock says so. */
  clockMs: number;
  /** Highest orderAt folded, or null. */
  lastOrderAt: string | null;
}

/** All evidence of a shower, also what a redo or an edit took out of force. */
export function allEvidence(state: ShowerState): Evidence[] {
  return [...state.evidence.values()].flat();
}

/**
 * When an entry was written, ms since 1970: by its device's clock, set right by what that was off by, and never later than
 * the server took it.
 */
export function instantOf(state: Pick<ShowerState, 'arrivals'>, e: Pick<Entry, 'id' | 'observedAt'>): number {
  return corrected(state, e.id, e.observedAt);
}

/** An instant that a person typed into an entry, by the clock of the same device. */
export function typedInstant(
  state: Pick<ShowerState, 'arrivals'>,
  e: Pick<Entry, 'id' | 'observedAt'>,
  at: string | undefined,
): number {
  return at === undefined ? instantOf(state, e) : Math.min(corrected(state, e.id, at), instantOf(state, e));
}

/** A moment by the clock of a device, put right by what that clock was off, ms since 1970. */
function corrected({ arrivals }: Pick<ShowerState, 'arrivals'>, id: string, at: string): number {
  const arrival = arrivals.get(id);
  return Math.min(Date.parse(at) + (arrival?.skewMs ?? 0), arrival?.receivedAtMs ?? Infinity);
}
