import { applyCorrections } from '../entries/corrections';
import type { Entry, EntryOf, Place } from '../entries/entry';
import { compareEntries } from '../entries/order';
import { showerModel } from '../geometry/showerModel';
import { findCheck, findMethod, findStage, type RuleBook } from '../rules/ruleBook';
import { union } from './intervals';
import { judge, outsideLimit } from './judge';
import { applyRedo } from './redo';
import { blockersOf } from './release';
import { requirementsOf } from './requirements';
import { allEvidence, type Defect, type Evidence, type ShowerState, type StageState } from './state';

/** After an edit, evidence stays when its seam's length changed by less than this. */
const SAME_LENGTH_MM = 25;

export type FindRuleBook = (id: string, version: number) => RuleBook | null;

function emptyState(): ShowerState {
  return {
    created: null,
    geometry: null,
    rules: null,
    seamById: new Map(),
    elementIds: new Set(),
    requirements: [],
    evidence: new Map(),
    defects: new Map(),
    deviations: new Map(),
    stages: new Map(),
    releases: [],
    redos: [],
    redone: new Map(),
    covered: new Map(),
    flood: null,
    notes: [],
    photos: [],
    climate: [],
    signed: [],
    lookRequests: [],
    orphans: [],
    lastOrderAt: null,
  };
}

function stageOf(state: ShowerState, key: string): StageState {
  let stage = state.stages.get(key);
  if (!stage) {
    stage = { word: 'open', begun: false, work: [], release: null };
    state.stages.set(key, stage);
  }
  return stage;
}

function begin(state: ShowerState, key: string): StageState {
  const stage = stageOf(state, key);
  stage.begun = true;
  if (stage.word === 'open') stage.word = 'held';
  return stage;
}

/** True when the place still means what it meant when the entry was made. */
function stillFits(state: ShowerState, place: Place): boolean {
  const model = state.geometry?.model;
  if (!model) return false;
  const seam = state.seamById.get(place.element);
  if (!seam) return state.elementIds.has(place.element);
  const sameLength = place.lengthMm === undefined || Math.abs(place.lengthMm - seam.lengthMm) < SAME_LENGTH_MM;
  return sameLength && (place.startKey === undefined || place.startKey === seam.startKey);
}

function indexGeometry(state: ShowerState): void {
  const model = state.geometry!.model;
  state.seamById = new Map(model.seams.map((s) => [s.id, s]));
  state.elementIds = new Set(
    [...model.corners, ...model.penetrations, ...model.faces].map((e) => e.id).concat(model.drain.id),
  );
}

function refreshRequirements(state: ShowerState): void {
  state.requirements = state.geometry && state.rules ? requirementsOf(state.geometry.model, state.rules.method) : [];
}

function contestTouched(state: ShowerState): void {
  for (const [key, stage] of state.stages) {
    if (stage.word !== 'released') continue;
    const blockers = blockersOf(state, key).filter((b) => b.kind !== 'lower-stage');
    if (blockers.length === 0) continue;
    stage.word = 'contested';
    if (stage.release) stage.release.blockedBy = blockers;
  }
}

function setGeometry(state: ShowerState, e: EntryOf<'geometry-set'>): void {
  const model = showerModel(e.body.geometry);
  if (!model.ok) {
    state.orphans.push({ entry: e.id, why: 'geometry-invalid' });
    return;
  }
  state.geometry = { version: e.body.version, model: model.value, setAt: e.observedAt };
  indexGeometry(state);
  for (const evidence of allEvidence(state)) evidence.lookAgain = !stillFits(state, evidence.place);
  refreshRequirements(state);
  contestTouched(state);
}

function pinRules(state: ShowerState, e: EntryOf<'rules-pinned'>, find: FindRuleBook): void {
  const book = find(e.body.ruleBook, e.body.version);
  const method = book && findMethod(book, e.body.method);
  if (!book || !method) {
    state.orphans.push({ entry: e.id, why: 'rules-unknown' });
    return;
  }
  state.rules = { book, method };
  for (const stage of method.stages) stageOf(state, stage.key);
  refreshRequirements(state);
}

/** Marks what a layer covers while checks below it were not satisfied. */
function markCovered(state: ShowerState, stageKey: string): void {
  const order = state.rules?.method.stages.find((s) => s.key === stageKey)?.order;
  if (order === undefined) return;
  for (const requirement of state.requirements) {
    if (requirement.stage.order >= order || !requirement.stage.holdPoint) continue;
    if (state.stages.get(requirement.stage.key)?.word === 'released' || requirement.check.severity === 'note') continue;
    const judgement = judge(state, requirement);
    if (judgement.satisfied) continue;
    const gaps = judgement.missing.length > 0 ? judgement.missing : [{ fromMm: 0, toMm: requirement.lengthMm }];
    state.covered.set(requirement.element, union([...(state.covered.get(requirement.element) ?? []), ...gaps]));
  }
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
    answer: look?.answer ?? null,
    reason: look?.reason ?? null,
    observedAt: e.observedAt,
    author: e.author.name,
    voids: [],
    voided: false,
    lookAgain: !stillFits(state, place),
    place,
  };
}

function openDefect(
  state: ShowerState,
  e: Entry,
  from: Pick<Defect, 'stage' | 'check' | 'places' | 'kind' | 'severity' | 'words' | 'photos' | 'valueMm'>,
): void {
  state.defects.set(e.id, {
    ...from,
    id: e.id,
    observedAt: e.observedAt,
    author: e.author.name,
    assignedTo: null,
    answers: [],
    redoneAt: null,
    closedAt: null,
  });
  const stage = stageOf(state, from.stage);
  if (stage.word === 'released' && from.severity !== 'note') stage.word = 'contested';
}

function checkIn(state: ShowerState, stageKey: string, checkId: string) {
  const stage = state.rules && findStage(state.rules.method, stageKey);
  return stage ? findCheck(stage, checkId) : null;
}

function addReading(state: ShowerState, e: EntryOf<'reading'>): void {
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

function addLook(state: ShowerState, e: EntryOf<'look'>): void {
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

function orphan(state: ShowerState, e: Entry, target: string, withdrawn: ReadonlySet<string>): void {
  state.orphans.push({ entry: e.id, why: withdrawn.has(target) ? 'target-withdrawn' : 'target-unknown' });
}

function addDefectFound(state: ShowerState, e: EntryOf<'defect-found'>, withdrawn: ReadonlySet<string>): void {
  begin(state, e.body.stage);
  const { about, stage, place, kind, severity, words, photos } = e.body;
  if (about === undefined) {
    openDefect(state, e, { stage, check: null, places: [place], kind, severity, words, photos, valueMm: null });
    return;
  }
  const defect = state.defects.get(about);
  if (!defect) return orphan(state, e, about, withdrawn);
  Object.assign(defect, { kind, severity, words, photos: [...defect.photos, ...photos] });
}

function onDefect(
  state: ShowerState,
  e: EntryOf<'defect-assigned'> | EntryOf<'defect-answered'> | EntryOf<'defect-closed'>,
  withdrawn: ReadonlySet<string>,
): void {
  const defect = state.defects.get(e.body.defect);
  if (!defect) return orphan(state, e, e.body.defect, withdrawn);
  if (e.kind === 'defect-assigned') defect.assignedTo = e.body.crewId;
  else if (e.kind === 'defect-closed') defect.closedAt = e.observedAt;
  else
    defect.answers.push({
      words: e.body.words,
      photos: e.body.photos,
      author: e.author.name,
      observedAt: e.observedAt,
    });
}

function release(state: ShowerState, e: EntryOf<'stage-released'>): void {
  const stage = begin(state, e.body.stage);
  const blockedBy = blockersOf(state, e.body.stage);
  const upheld = e.body.upholds ?? null;
  stage.release = {
    entry: e.id,
    stage: e.body.stage,
    by: e.author.name,
    observedAt: e.observedAt,
    ruleVersion: e.body.ruleVersion,
    blockedBy,
    upheld,
  };
  stage.word = blockedBy.length > 0 && upheld === null ? 'contested' : 'released';
  state.releases.push(stage.release);
}

function askDeviation(state: ShowerState, e: EntryOf<'deviation-asked'>): void {
  const requirement = state.requirements.find(
    (r) =>
      r.stage.key === e.body.stage &&
      r.check.id === e.body.check &&
      r.element === e.body.place.element &&
      r.side === (e.body.place.side ?? null),
  );
  const lowestMm = requirement ? judge(state, requirement).lowestMm : null;
  state.deviations.set(e.id, { id: e.id, asked: e.body, askedBy: e.author.id, decision: null, lowestMm, ended: false });
}

function decideDeviation(state: ShowerState, e: EntryOf<'deviation-decided'>, withdrawn: ReadonlySet<string>): void {
  const deviation = state.deviations.get(e.body.asked);
  if (!deviation || deviation.askedBy === e.author.id) return orphan(state, e, e.body.asked, withdrawn);
  deviation.decision = { accepted: e.body.accepted, by: e.author.name, reason: e.body.reason };
}

function onFlood(
  state: ShowerState,
  e: EntryOf<'flood-started'> | EntryOf<'flood-reading'> | EntryOf<'flood-ended'>,
): void {
  if (e.kind === 'flood-started') {
    state.flood = { running: true, waterLineMm: e.body.waterLineMm, provedBelowMm: null, voids: new Map() };
    return;
  }
  if (!state.flood?.running) return;
  if (e.kind === 'flood-reading') state.flood.waterLineMm = Math.min(state.flood.waterLineMm, e.body.levelMm);
  else {
    state.flood.running = false;
    const lowest = Math.min(state.flood.waterLineMm, e.body.lowestLevelMm);
    state.flood.provedBelowMm = e.body.verdict === 'pass' ? lowest - FLOOD_MARGIN_MM : null;
  }
}
/** A flood proves what lies at least this far below its lowest water line. */
const FLOOD_MARGIN_MM = 5;

function apply(state: ShowerState, e: Entry, find: FindRuleBook, withdrawn: ReadonlySet<string>): void {
  switch (e.kind) {
    case 'shower-created':
      state.created ??= e;
      return;
    case 'geometry-set':
      return setGeometry(state, e);
    case 'rules-pinned':
      return pinRules(state, e, find);
    case 'work-done':
      markCovered(state, e.body.stage);
      begin(state, e.body.stage).work.push(e);
      return;
    case 'look-requested':
      state.lookRequests.push(e);
      begin(state, e.body.stage);
      return;
    case 'reading':
      return addReading(state, e);
    case 'look':
      return addLook(state, e);
    case 'photo':
      state.photos.push(e);
      return;
    case 'climate-reading':
      state.climate.push(e);
      return;
    case 'defect-found':
      return addDefectFound(state, e, withdrawn);
    case 'defect-assigned':
    case 'defect-answered':
    case 'defect-closed':
      return onDefect(state, e, withdrawn);
    case 'redo':
      return applyRedo(state, e);
    case 'deviation-asked':
      return askDeviation(state, e);
    case 'deviation-decided':
      return decideDeviation(state, e, withdrawn);
    case 'stage-released':
      return release(state, e);
    case 'stage-reopened': {
      const stage = begin(state, e.body.stage);
      stage.word = 'held';
      stage.release = null;
      return;
    }
    case 'flood-started':
    case 'flood-reading':
    case 'flood-ended':
      return onFlood(state, e);
    case 'note':
      state.notes.push(e);
      return;
    case 'record-signed':
      state.signed.push(e);
      return;
    case 'flood-event':
    case 'moisture-look':
    case 'correction':
      return;
  }
}

/**
 * The state of a shower: a fold over its entries in their one order, corrections applied. The same entries give the
 * same state in whatever order they arrived; the input is not changed. A release is judged at its own place in the
 * order with everything known now, so that an entry that arrives late makes it `contested`.
 */
export function foldShower(entries: readonly Entry[], find: FindRuleBook): ShowerState {
  const sorted = [...entries].sort(compareEntries);
  const corrected = applyCorrections(sorted);
  const state = emptyState();
  for (const e of corrected.entries) apply(state, e, find, corrected.withdrawn);
  for (const stray of corrected.stray) state.orphans.push({ entry: stray.id, why: 'target-unknown' });
  state.lastOrderAt = sorted.at(-1)?.orderAt ?? null;
  return state;
}
