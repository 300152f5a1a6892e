import { stretchOn } from '../../checks/place';
import { WHOLE_SHOWER } from '../../checks/requirements';
import type { Body } from '../../log/bodies';
import type { Defect } from '../../log/defect';
import type { Entry, EntryOf } from '../../log/entry';
import type { Place } from '../../log/places';
import type { ShowerState } from '../../log/state';
import { byManager, isMilder } from '../../log/who';
import { subtract } from '../../shower/seams/intervals';
import { beginStage, stageOf } from './stageState';

/** Opens a defect under the entry's id; a release of its stage is judged with it at the end. */
export function openDefect(
  state: ShowerState,
  e: Entry,
  from: Pick<Defect, 'stage' | 'check' | 'places' | 'kind' | 'severity' | 'words' | 'photos' | 'valueMm'>,
): void {
  state.defects.set(e.id, {
    ...from,
    id: e.id,
    observedAt: e.observedAt,
    author: e.author.name,
    assignments: [],
    cause: null,
    causesTold: [],
    madeBy: null,
    escape: null,
    stageMade: null,
    repeats: null,
    cost: null,
    photosAfter: [],
    closedBy: null,
    answers: [],
    redoneAt: null,
    closedAt: null,
    seq: state.seq,
  });
  stageOf(state, from.stage);
}

/** Lists an entry whose target is unknown or was withdrawn: never dropped. */
export function orphan(state: ShowerState, e: Entry, target: string, withdrawn: ReadonlySet<string>): void {
  state.orphans.push({ entry: e.id, why: withdrawn.has(target) ? 'target-withdrawn' : 'target-unknown' });
}

/**
 * A defect recorded by a person: a new one, or kind, words and pictures for one that a reading or look opened. Only a manager
 * makes it milder: from anybody else the rest counts, and the severity stays.
 */
export function addDefectFound(state: ShowerState, e: EntryOf<'defect-found'>, withdrawn: ReadonlySet<string>): void {
  beginStage(state, e.body.stage);
  const { about, stage, place, kind, severity, words, photos } = e.body;
  if (about === undefined)
    openDefect(state, e, { stage, check: null, places: [place], kind, severity, words, photos, valueMm: null });
  const defect = state.defects.get(about ?? e.id);
  if (!defect) return orphan(state, e, about!, withdrawn);
  if (about !== undefined) {
    const kept = isMilder(severity, defect.severity) && !byManager(e) ? defect.severity : severity;
    Object.assign(defect, { kind, severity: kept, words, photos: [...defect.photos, ...photos] });
    if (kept !== severity) state.orphans.push({ entry: e.id, why: 'not-allowed' });
  }
  tellOf(defect, e);
  defect.repeats = e.body.repeats ?? defect.repeats;
}

/** What an entry says of why a defect happened, why it got past, where and by whom it was made; the rest stays as it was. */
function tellOf(
  defect: Defect,
  e: EntryOf<'defect-found'> | EntryOf<'defect-answered'> | EntryOf<'defect-closed'>,
): void {
  const { cause } = e.body;
  if (cause) {
    defect.cause = cause;
    defect.causesTold = [...defect.causesTold, { cause, by: e.author.name, at: e.observedAt }];
  }
  if (e.kind === 'defect-answered') return;
  defect.escape = e.body.escape ?? defect.escape;
  defect.stageMade = e.body.stageMade ?? defect.stageMade;
  defect.madeBy = e.body.madeBy ?? defect.madeBy;
}

/** Given to a crew, or sent back to it. */
function assign(state: ShowerState, defect: Defect, e: EntryOf<'defect-assigned'>): void {
  const { crewId, dueAt, words = '', again = false } = e.body;
  const dueAtMs = dueAt === undefined ? null : Date.parse(dueAt);
  defect.assignments.push({
    crewId,
    dueAtMs,
    words,
    again,
    by: e.author.name,
    observedAt: e.observedAt,
    seq: state.seq,
  });
  // Sent back: what was built again did not put it right.
  if (again) defect.redoneAt = null;
}

/** As near as this to an end of a defect's place is its end, mm. */
const AT_END_MM = 1;

/** True when the places given reach over the whole of another one: on a seam every millimetre of it. */
function reachOver(state: ShowerState, given: readonly Place[], place: Place): boolean {
  const here = given.filter((p) => p.element === place.element);
  const seam = state.seamById.get(place.element);
  const asked = seam && stretchOn(seam, place);
  if (!seam || !asked) return here.length > 0;
  const reached = here.flatMap((p) => stretchOn(seam, p) ?? []);
  return (
    subtract(
      [asked],
      reached.map((r) => ({ fromMm: r.fromMm - AT_END_MM, toMm: r.toMm + AT_END_MM })),
    ).length === 0
  );
}

/** Half of what a tape shows as one place, mm. */
const ONE_PLACE_MM = 0.5;

/** Where a defect must be built again or looked at anew: its places; of one that a reading opened, where it was read. */
function heartsOf(state: ShowerState, defect: Defect): readonly Place[] {
  return defect.places.map((place) => {
    const read = (state.evidence.get(place.element) ?? []).find((x) => x.entry === defect.id && x.kind === 'reading');
    if (!read || !state.seamById.has(place.element)) return place;
    const [fromMm, toMm] = [Math.max(0, read.atMm - ONE_PLACE_MM), read.atMm + ONE_PLACE_MM];
    return { ...place, fromMm, toMm };
  });
}

/** True when all of each place of a defect was built again, or looked at and found good, after it was found. */
function seenSince(state: ShowerState, defect: Defect): boolean {
  const orderOf = (key: string) => state.rules?.method.stages.find((s) => s.key === key)?.order ?? 0;
  const order = orderOf(defect.stage);
  // What is built again above a defect leaves it where it is.
  const redone = state.redos
    .filter((r) => (state.seqOf.get(r.id) ?? 0) > defect.seq && orderOf(r.body.stage) <= order)
    .flatMap((r) => r.body.places);
  if (redone.some((p) => p.element === WHOLE_SHOWER)) return true;
  const asked = (check: string) => defect.check === null || defect.check === check;
  return heartsOf(state, defect).every((place) => {
    const looked = (state.evidence.get(place.element) ?? []).filter(
      (x) =>
        x.answer === 'ok' &&
        x.seq > defect.seq &&
        x.stage === defect.stage &&
        asked(x.check) &&
        !x.lookAgain &&
        !x.voided,
    );
    return reachOver(state, [...redone, ...looked.map((x) => x.place)], place);
  });
}

/** Whether a defect may be closed: one that stops by a manager only, until its place was built again or looked at anew. */
export function mayClose(state: ShowerState, defect: Defect, isManager: boolean): boolean {
  return isManager || defect.severity !== 'stop' || seenSince(state, defect);
}

/** Closings of an earlier version may lack them. */
const WITH_BOTH_ANSWERS = 3;

/** True for a closing after which it is still not said why the defect happened, or why nothing caught it before; a note may go without. */
export const lacksAnswers = (
  defect: Pick<Defect, 'severity' | 'cause' | 'escape'>,
  said: Body<'defect-closed'>,
): boolean => defect.severity !== 'note' && !((said.cause ?? defect.cause) && (said.escape ?? defect.escape));

/** Closed, with the two answers. */
function close(state: ShowerState, defect: Defect, e: EntryOf<'defect-closed'>): void {
  if (!mayClose(state, defect, byManager(e))) {
    state.orphans.push({ entry: e.id, why: 'not-allowed' });
    return;
  }
  if (e.v >= WITH_BOTH_ANSWERS && lacksAnswers(defect, e.body)) {
    state.orphans.push({ entry: e.id, why: 'answers-missing' });
    return;
  }
  tellOf(defect, e);
  Object.assign(defect, {
    closedAt: e.observedAt,
    closedBy: e.author.name,
    cost: e.body.cost ?? null,
    photosAfter: e.body.photos ?? [],
  });
}

/** Assigned, answered or closed. */
export function onDefect(
  state: ShowerState,
  e: EntryOf<'defect-assigned'> | EntryOf<'defect-answered'> | EntryOf<'defect-closed'>,
  withdrawn: ReadonlySet<string>,
): void {
  const defect = state.defects.get(e.body.defect);
  if (!defect) return orphan(state, e, e.body.defect, withdrawn);
  if (e.kind === 'defect-assigned') assign(state, defect, e);
  else if (e.kind === 'defect-closed') close(state, defect, e);
  else {
    tellOf(defect, e);
    defect.answers.push({
      words: e.body.words,
      photos: e.body.photos,
      author: e.author.name,
      observedAt: e.observedAt,
      seq: state.seq,
    });
  }
}
