import { beyondMm, readingFails } from '../../checks/measured';
import { stretchOn } from '../../checks/place';
import { WHOLE_SHOWER } from '../../checks/requirements';
import type { Defect } from '../../log/defect';
import type { Entry, EntryOf } from '../../log/entry';
import type { Place } from '../../log/places';
import type { ElementSize, Evidence, ShowerState } from '../../log/state';
import { byManager, thingOf } from '../../log/who';
import type { Check } from '../../rules/checks/check';
import type { MeasuredCheck } from '../../rules/checks/measured';
import { findCheck, findStage } from '../../rules/ruleBook';
import { kindOfFailure } from '../../rules/tools';
import type { ShowerModel } from '../../shower/geometry/showerModel';
import { openDefect } from './foldDefects';
import { beginStage } from './stageState';

/** After an edit, evidence stays when its seam's length changed by less than this. */
const SAME_LENGTH_MM = 25;
/** A tape's hook and a rounded place: a reading lies on its seam up to this far beyond its end, mm [common practice, no source]. */
const ON_ELEMENT_MM = 1;

/** What a model has to look at, by id. */
export type Elements = Pick<ShowerState, 'seamById' | 'elementIds' | 'sizes'>;

/** How large a face is. */
function faceSize({ loop, areaMm2 }: ShowerModel['faces'][number]): ElementSize {
  const span = (i: 0 | 1 | 2) => Math.max(...loop.map((p) => p[i])) - Math.min(...loop.map((p) => p[i]));
  const [x, y, z] = [span(0), span(1), span(2)];
  return z > 1
    ? { of: 'face', widthMm: Math.hypot(x, y), heightMm: z, areaMm2 }
    : { of: 'face', widthMm: x, heightMm: y, areaMm2 };
}

/** How large every element is. */
function sizesOf(model: ShowerModel): Map<string, ElementSize> {
  const { drain, penetrations } = model.geometry;
  const sizes = new Map<string, ElementSize>(model.faces.map((f) => [f.id, faceSize(f)]));
  sizes.set(model.drain.id, { of: 'point', at: [drain.xMm, drain.yMm] });
  for (const p of penetrations ?? []) sizes.set(`penetration:${p.id}`, { of: 'point', at: [p.alongMm, p.heightMm] });
  return sizes;
}

/** Lookup of a model's parts: its seams, everything else that can be looked at, and what faces, drain and openings measure. */
export function elementsOf(model: ShowerModel): Elements {
  const parts = [...model.corners, ...model.penetrations, ...model.faces].map((e) => e.id);
  return {
    seamById: new Map(model.seams.map((s) => [s.id, s])),
    elementIds: new Set([...parts, model.drain.id, WHOLE_SHOWER]),
    sizes: sizesOf(model),
  };
}

/** True when an element measures what it did, but for less than 25 mm: the sides and the area of a face, the place of a point. */
function sameSize(a: ElementSize, b: ElementSize): boolean {
  if (a.of === 'point') return b.of === 'point' && Math.hypot(...a.at.map((x, i) => x - b.at[i]!)) < SAME_LENGTH_MM;
  if (b.of !== 'face') return false;
  const grown = Math.max(Math.abs(a.widthMm - b.widthMm), Math.abs(a.heightMm - b.heightMm));
  return grown < SAME_LENGTH_MM && Math.abs(a.areaMm2 - b.areaMm2) < SAME_LENGTH_MM * Math.max(a.widthMm, a.heightMm);
}

/** True when the place means among these elements what it meant when the entry was made, on an element of that size. */
export function stillFits({ seamById, elementIds, sizes }: Elements, place: Place, size: ElementSize | null): boolean {
  const seam = seamById.get(place.element);
  if (!seam) {
    const now = sizes.get(place.element);
    return elementIds.has(place.element) && (!now || !size || sameSize(size, now));
  }
  const sameLength = place.lengthMm === undefined || Math.abs(place.lengthMm - seam.lengthMm) < SAME_LENGTH_MM;
  return sameLength && (place.startKey === undefined || place.startKey === seam.startKey);
}

/** Sets evidence right for a new drawing: whether it still fits its place, and which stretch of its seam it covers. */
export function fitAgain(state: ShowerState, evidence: Evidence): void {
  evidence.lookAgain = !stillFits(state, evidence.place, evidence.size);
  const seam = state.seamById.get(evidence.element);
  if (seam) evidence.stretch = stretchOn(seam, evidence.place) ?? evidence.stretch;
}

/** Keeps a piece of evidence with its element. */
function addEvidence(state: ShowerState, evidence: Evidence): void {
  const list = state.evidence.get(evidence.element);
  if (list) list.push(evidence);
  else state.evidence.set(evidence.element, [evidence]);
}

/** Kinds of check that prove a whole at once: that one does not apply is never for one person to say. */
const WHOLE_KINDS: readonly Check['kind'][] = ['wait', 'film', 'flood'];

/** What the sizes were on the drawing that the entry was made on, as far as it is known. */
function sizeThen(state: ShowerState, e: Entry, element: string): ElementSize | null {
  const then = state.drawings.get(e.geometryVersion);
  return (then ? elementsOfDrawing(then).sizes : state.sizes).get(element) ?? null;
}

/** Elements by their drawing. */
const remembered = new WeakMap<ShowerModel, Elements>();
/** All elements of a drawing. */
function elementsOfDrawing(model: ShowerModel): Elements {
  const known = remembered.get(model) ?? elementsOf(model);
  remembered.set(model, known);
  return known;
}

/** True for a look that only a manager can make count. */
function waitsForManager(state: ShowerState, e: EntryOf<'look'>, check: string): boolean {
  if (e.body.answer !== 'not-applicable' || byManager(e)) return false;
  const rule = checkIn(state, e.body.stage, check);
  if (!rule || rule.severity === 'stop' || WHOLE_KINDS.includes(rule.kind)) return true;
  const model = state.geometry?.model;
  return model !== undefined && new Set(e.body.places.map((p) => thingOf(model, p.element))).size > 1;
}

/** Since this version a look can hold pictures. */
const HOLDS_PICTURES = 4;

/** A piece of evidence, as it is judged. */
function evidenceOf(
  state: ShowerState,
  e: EntryOf<'look'> | EntryOf<'reading'>,
  check: string,
  place: Place,
): Evidence {
  const seam = state.seamById.get(place.element);
  const lengthMm = seam?.lengthMm ?? 1;
  const reading = e.kind === 'reading' ? e.body : null;
  const look = e.kind === 'look' ? e.body : null;
  const size = sizeThen(state, e, place.element);
  return {
    entry: e.id,
    kind: e.kind,
    stage: e.body.stage,
    check,
    element: place.element,
    side: place.side ?? null,
    stretch: (seam && stretchOn(seam, place)) ?? { fromMm: 0, toMm: lengthMm },
    atMm: Math.min(reading?.atMm ?? 0, lengthMm),
    valueMm: reading?.valueMm ?? null,
    shot: reading?.shot ?? null,
    film: reading?.film ?? null,
    drawn: reading?.drawn ?? null,
    together: reading?.together ?? null,
    answer: look?.answer ?? null,
    reason: look?.reason ?? null,
    number: look?.number ?? null,
    shownBy: look?.shownBy ?? null,
    photos: look && e.v >= HOLDS_PICTURES ? (look.photos ?? []) : null,
    position: look?.position ?? null,
    used: look?.used ?? null,
    observedAt: e.observedAt,
    author: e.author.name,
    seq: state.seq,
    waitsForManager: e.kind === 'look' && waitsForManager(state, e, check),
    size,
    voids: [],
    voided: false,
    lookAgain: !stillFits(state, place, size),
    place,
  };
}

/** True when no part of a place lies on its seam, as it is drawn now or as long as the entry says it was. */
function liesBeside(state: ShowerState, place: Place, atMm: number | null): boolean {
  const seam = state.seamById.get(place.element);
  if (!seam) return false;
  const lengthMm = Math.max(seam.lengthMm, place.lengthMm ?? 0) + ON_ELEMENT_MM;
  return atMm === null ? stretchOn({ lengthMm }, place) === null : atMm > lengthMm;
}

/** A check by its id; null where the rules have none. */
function checkIn(state: ShowerState, stageKey: string, checkId: string) {
  const stage = state.rules && findStage(state.rules.method, stageKey);
  return stage ? findCheck(stage, checkId) : null;
}

/** The kind that checks which failed together have in common; null where they have none, or several. */
function kindOf(checks: readonly Check[]): string | null {
  const kinds = new Set(checks.map(kindOfFailure));
  return kinds.size === 1 ? [...kinds][0]! : null;
}

/**
 * The open defect that a failing reading of a check at an element is one more place of: the same check failed there, nobody was given it
 * or built there again since, and it was made no milder. Null where a defect of its own is opened.
 */
export function defectToJoin(state: ShowerState, stage: string, check: Check, element: string): Defect | null {
  for (const d of state.defects.values())
    if (
      d.check === check.id &&
      d.stage === stage &&
      d.severity === check.severity &&
      d.valueMm !== null &&
      d.closedAt === null &&
      d.redoneAt === null &&
      d.assignments.length + d.answers.length === 0 &&
      d.places.every((p) => p.element === element)
    )
      return d;
  return null;
}

/** The value that lies farther beyond the limit of its check, mm. */
const worse = (check: MeasuredCheck, a: number, b: number): number =>
  beyondMm(check, a) >= beyondMm(check, b) ? a : b;

/** A reading is evidence; one outside its limit opens a defect round its place. One beside its element is listed, not counted. */
export function addReading(state: ShowerState, e: EntryOf<'reading'>): void {
  beginStage(state, e.body.stage);
  if (liesBeside(state, e.body.place, e.body.atMm)) {
    state.orphans.push({ entry: e.id, why: 'off-element' });
    return;
  }
  addEvidence(state, evidenceOf(state, e, e.body.check, e.body.place));
  const { stage: stageKey, check: id, place: at } = e.body;
  // With its limit as this drawing asks it: the shower head may stand higher than the book's figure.
  const asked = state.requirements.find(
    (r) => r.stage.key === stageKey && r.check.id === id && r.element === at.element,
  );
  const check = asked?.check ?? checkIn(state, stageKey, id);
  if (!check || !readingFails(check, e.body.valueMm)) return;
  const reach = check.pattern.speaksForMm;
  const seam = state.seamById.get(e.body.place.element);
  const place = seam
    ? { ...e.body.place, fromMm: Math.max(0, e.body.atMm - reach), toMm: Math.min(seam.lengthMm, e.body.atMm + reach) }
    : e.body.place;
  const joined = e.body.defect === undefined ? null : defectToJoin(state, stageKey, check, at.element);
  // What it says that it belongs to is what it would belong to, or it stands by itself.
  if (joined && joined.id === e.body.defect) {
    joined.places.push(place);
    joined.valueMm = worse(check, joined.valueMm!, e.body.valueMm);
    return;
  }
  openDefect(state, e, {
    stage: e.body.stage,
    check: check.id,
    places: [place],
    kind: kindOfFailure(check),
    severity: check.severity,
    words: '',
    photos: [],
    valueMm: e.body.valueMm,
  });
}

/** A look is evidence on every place and check it names; the answer "defect" opens one. */
export function addLook(state: ShowerState, e: EntryOf<'look'>): void {
  beginStage(state, e.body.stage);
  const places = e.body.places.filter((p) => !liesBeside(state, p, null));
  if (places.length < e.body.places.length) state.orphans.push({ entry: e.id, why: 'off-element' });
  for (const place of places) for (const check of e.body.checks) addEvidence(state, evidenceOf(state, e, check, place));
  if (e.body.answer !== 'defect') return;
  const checks = e.body.checks.map((id) => checkIn(state, e.body.stage, id)).filter((c) => c !== null);
  const severity = (['stop', 'fix', 'note'] as const).find((s) => checks.some((c) => c.severity === s)) ?? 'fix';
  openDefect(state, e, {
    stage: e.body.stage,
    check: e.body.checks[0]!,
    places: e.body.places,
    kind: kindOf(checks),
    severity,
    words: e.body.reason ?? '',
    photos: [],
    valueMm: null,
  });
}
