import type { Entry, EntryOf } from '../entries/entry';
import { begin, stageOf } from './stageState';
import type { Defect, ShowerState } from './state';

/** Opens a defect under the entry's id; on a released stage it contests the release, unless it is a mere note. */
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
    escape: null,
    stageMade: null,
    repeats: null,
    cost: null,
    photosAfter: [],
    closedBy: null,
    answers: [],
    redoneAt: null,
    closedAt: null,
  });
  const stage = stageOf(state, from.stage);
  if (stage.word === 'released' && from.severity !== 'note') stage.word = 'contested';
}

/** Lists an entry whose target is unknown or was withdrawn: never dropped. */
export function orphan(state: ShowerState, e: Entry, target: string, withdrawn: ReadonlySet<string>): void {
  state.orphans.push({ entry: e.id, why: withdrawn.has(target) ? 'target-withdrawn' : 'target-unknown' });
}

/** A defect recorded by a person: a new one, or kind, words and pictures for one that a reading or look opened. */
export function addDefectFound(state: ShowerState, e: EntryOf<'defect-found'>, withdrawn: ReadonlySet<string>): void {
  begin(state, e.body.stage);
  const { about, stage, place, kind, severity, words, photos } = e.body;
  if (about === undefined)
    openDefect(state, e, { stage, check: null, places: [place], kind, severity, words, photos, valueMm: null });
  const defect = state.defects.get(about ?? e.id);
  if (!defect) return orphan(state, e, about!, withdrawn);
  if (about !== undefined) Object.assign(defect, { kind, severity, words, photos: [...defect.photos, ...photos] });
  Object.assign(defect, {
    cause: e.body.cause ?? defect.cause,
    escape: e.body.escape ?? defect.escape,
    stageMade: e.body.stageMade ?? defect.stageMade,
    repeats: e.body.repeats ?? defect.repeats,
  });
}

function assign(defect: Defect, e: EntryOf<'defect-assigned'>): void {
  const { crewId, dueAt, words = '', again = false } = e.body;
  const dueAtMs = dueAt === undefined ? null : Date.parse(dueAt);
  defect.assignments.push({ crewId, dueAtMs, words, again, by: e.author.name, observedAt: e.observedAt });
  // Sent back: what was built again did not put it right.
  if (again) defect.redoneAt = null;
}

function close(defect: Defect, e: EntryOf<'defect-closed'>): void {
  Object.assign(defect, {
    closedAt: e.observedAt,
    closedBy: e.author.name,
    cause: e.body.cause ?? defect.cause,
    escape: e.body.escape ?? defect.escape,
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
  if (e.kind === 'defect-assigned') assign(defect, e);
  else if (e.kind === 'defect-closed') close(defect, e);
  else
    defect.answers.push({
      words: e.body.words,
      photos: e.body.photos,
      author: e.author.name,
      observedAt: e.observedAt,
    });
}
