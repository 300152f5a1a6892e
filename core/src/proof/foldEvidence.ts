import type { EntryOf, Place } from '../entries/entry';
import type { ShowerModel } from '../geometry/showerModel';
import { findCheck, findStage } from '../rules/ruleBook';
import { openDefect } from './foldDefects';
import { outsideLimit } from './judge';
import { WHOLE_SHOWER } from './requirements';
import { begin } from './stageState';
import type { Evidence, ShowerState } from './state';

/** After an edit, evidence stays when its seam's length changed by less than this. */
const SAME_LENGTH_MM = 25;

/** What a model has to look at, by id. */
export type Elements = Pick<ShowerState, 'seamById' | 'elementIds'>;

/** Lookup of a model's parts: its seams, and everything else that can be looked at. */
export function elementsOf(model: ShowerModel): Elements {
  const parts = [...model.corners, ...model.penetrations, ...model.faces].map((e) => e.id);
  return {
    seamById: new Map(model.seams.map((s) => [s.id, s])),
    elementIds: new Set([...parts, model.drain.id, WHOLE_SHOWER]),
  };
}

/** True when the place means among these elements what it meant when the entry was made. */
export function stillFits({ seamById, elementIds }: Elements, place: Place): boolean {
  const seam = seamById.get(place.element);
  if (!seam) return elementIds.has(place.element);
  const sameLength = place.lengthMm === undefined || Math.abs(place.lengthMm - seam.lengthMm) < SAME_LENGTH_MM;
  return sameLength && (place.startKey === undefined || place.startKey === seam.startKey);
}

function addEvidence(state: ShowerState, evidence: Evidence): void {
  const list = state.evidence.get(evidence.element);
  if (list) list.push(evidence);
  else state.evidence.set(evidence.element, [evidence]);
}

function evidenceOf(
  state: ShowerState,
  e: EntryOf<'look'> | EntryOf<'reading'>,
  check: string,
  place: Place,
): Evidence {
  const seam = state.seamById.get(place.element);
  const lengthMm = seam?.lengthMm ?? 1;
  const stretch = seam
    ? { fromMm: Math.min(place.fromMm ?? 0, lengthMm), toMm: Math.min(place.toMm ?? lengthMm, lengthMm) }
    : { fromMm: 0, toMm: 1 };
  const reading = e.kind === 'reading' ? e.body : null;
  const look = e.kind === 'look' ? e.body : null;
  return {
    entry: e.id,
    kind: e.kind,
    stage: e.body.stage,
    check,
    element: place.element,
    side: place.side ?? null,
    stretch,
    atMm: Math.min(reading?.atMm ?? 0, lengthMm),
    valueMm: reading?.valueMm ?? null,
    shot: reading?.shot ?? null,
    film: reading?.film ?? null,
    drawn: reading?.drawn ?? null,
    answer: look?.answer ?? null,
    reason: look?.reason ?? null,
    number: look?.number ?? null,
    shownBy: look?.shownBy ?? null,
    position: look?.position ?? null,
    used: look?.used ?? null,
    observedAt: e.observedAt,
    author: e.author.name,
    voids: [],
    voided: false,
    lookAgain: !stillFits(state, place),
    place,
  };
}

function checkIn(state: ShowerState, stageKey: string, checkId: string) {
  const stage = state.rules && findStage(state.rules.method, stageKey);
  return stage ? findCheck(stage, checkId) : null;
}

/** A reading is evidence; one outside its limit opens a defect round its place. */
export function addReading(state: ShowerState, e: EntryOf<'reading'>): void {
  begin(state, e.body.stage);
  addEvidence(state, evidenceOf(state, e, e.body.check, e.body.place));
  const check = checkIn(state, e.body.stage, e.body.check);
  if (check?.kind !== 'measured' || !outsideLimit(check, e.body.valueMm)) return;
  const reach = check.pattern.speaksForMm / 2;
  const seam = state.seamById.get(e.body.place.element);
  const place = seam
    ? { ...e.body.place, fromMm: Math.max(0, e.body.atMm - reach), toMm: Math.min(seam.lengthMm, e.body.atMm + reach) }
    : e.body.place;
  openDefect(state, e, {
    stage: e.body.stage,
    check: check.id,
    places: [place],
    kind: null,
    severity: check.severity,
    words: '',
    photos: [],
    valueMm: e.body.valueMm,
  });
}

/** A look is evidence on every place and check it names; the answer "defect" opens one. */
export function addLook(state: ShowerState, e: EntryOf<'look'>): void {
  begin(state, e.body.stage);
  for (const place of e.body.places)
    for (const check of e.body.checks) addEvidence(state, evidenceOf(state, e, check, place));
  if (e.body.answer !== 'defect') return;
  const checks = e.body.checks.map((id) => checkIn(state, e.body.stage, id)).filter((c) => c !== null);
  const severity = (['stop', 'fix', 'note'] as const).find((s) => checks.some((c) => c.severity === s)) ?? 'fix';
  openDefect(state, e, {
    stage: e.body.stage,
    check: e.body.checks[0]!,
    places: e.body.places,
    kind: null,
    severity,
    words: e.body.reason ?? '',
    photos: [],
    valueMm: null,
  });
}
