import { applyCorrections } from '../entries/corrections';
import type { Entry, EntryOf } from '../entries/entry';
import { compareEntries, orderMs } from '../entries/order';
import { combineMethods } from '../rules/combineMethods';
import type { RuleBook } from '../rules/ruleBook';
import { addDefectFound, onDefect, orphan } from './foldDefects';
import { addLook, addReading, elementsOf, stillFits } from './foldEvidence';
import { onClimate, onFlood } from './foldFlood';
import { union } from './intervals';
import { isLeftOpen, judge } from './judge';
import { waitLayers } from './judgeWater';
import { applyRedo } from './redo';
import { blockersOf } from './release';
import { askedOf, modelOf } from './rememberedDrawings';
import { begin, stageOf } from './stageState';
import { allEvidence, type ShowerState } from './state';

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
    provedAgain: new Map(),
    redone: new Map(),
    covered: new Map(),
    flood: null,
    earlierFloods: [],
    clockMs: 0,
    notes: [],
    photos: [],
    climate: [],
    signed: [],
    lookRequests: [],
    orphans: [],
    lastOrderAt: null,
  };
}

/** The rules as they apply to this drawing. */
function refreshRequirements(state: ShowerState): void {
  const { geometry, rules } = state;
  if (!rules) return;
  const asked = geometry && askedOf(rules.book, rules.pinned, geometry.model);
  state.requirements = asked?.requirements ?? [];
  rules.method = asked?.method ?? combineMethods(rules.book, rules.pinned, []) ?? rules.method;
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

/** A wait that was released is contested when the air that is read later shows that it was not over. */
function contestCures(state: ShowerState): void {
  for (const requirement of state.requirements) {
    const { check, stage } = requirement;
    const here = state.stages.get(stage.key);
    if (check.kind !== 'wait' || here?.word !== 'released' || !here.release || here.release.upheld !== null) continue;
    const slowest = waitLayers(state, check)?.at(-1);
    // Hours without a reading near are a guess, and no reason to doubt what somebody released.
    if (!slowest || slowest.bridgedHours > check.hours / 4) continue;
    if ((slowest.readyAtMs ?? Infinity) <= Date.parse(here.release.observedAt)) continue;
    here.word = 'contested';
    here.release.blockedBy = blockersOf(state, stage.key).filter((b) => b.kind !== 'lower-stage');
  }
}

function setGeometry(state: ShowerState, e: EntryOf<'geometry-set'>): void {
  const model = modelOf(e.body.geometry);
  if (!model.ok) {
    state.orphans.push({ entry: e.id, why: 'geometry-invalid' });
    return;
  }
  const { version, drawing, from } = e.body;
  state.geometry = {
    version,
    model: model.value,
    setAt: e.observedAt,
    drawing: drawing ?? null,
    from: from ?? null,
  };
  Object.assign(state, elementsOf(model.value));
  for (const evidence of allEvidence(state)) evidence.lookAgain = !stillFits(state, evidence.place);
  refreshRequirements(state);
  contestTouched(state);
}

function pinRules(state: ShowerState, e: EntryOf<'rules-pinned'>, find: FindRuleBook): void {
  const book = find(e.body.ruleBook, e.body.version);
  const method = book && combineMethods(book, e.body, []);
  if (!book || !method) {
    state.orphans.push({ entry: e.id, why: 'rules-unknown' });
    return;
  }
  state.rules = { book, method, pinned: e.body };
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
    if (requirement.check.kind === 'wait') continue;
    const judgement = judge(state, requirement);
    if (judgement.satisfied || isLeftOpen(judgement)) continue;
    const gaps = judgement.missing.length > 0 ? judgement.missing : [{ fromMm: 0, toMm: requirement.lengthMm }];
    state.covered.set(requirement.element, union([...(state.covered.get(requirement.element) ?? []), ...gaps]));
  }
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
  state.deviations.set(e.id, {
    id: e.id,
    asked: e.body,
    askedBy: e.author.id,
    askedByName: e.author.name,
    askedAt: e.observedAt,
    decision: null,
    lowestMm,
    ended: false,
  });
}

function decideDeviation(state: ShowerState, e: EntryOf<'deviation-decided'>, withdrawn: ReadonlySet<string>): void {
  const deviation = state.deviations.get(e.body.asked);
  if (!deviation || deviation.askedBy === e.author.id) return orphan(state, e, e.body.asked, withdrawn);
  deviation.decision = {
    accepted: e.body.accepted,
    by: e.author.name,
    reason: e.body.reason,
    at: e.observedAt,
  };
}

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
      onClimate(state, e);
      return contestCures(state);
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
    case 'flood-event':
    case 'moisture-look':
    case 'flood-ended':
      return onFlood(state, e);
    case 'note':
      state.notes.push(e);
      return;
    case 'record-signed':
      state.signed.push(e);
      return;
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
  for (const e of corrected.entries) {
    state.clockMs = Math.max(state.clockMs, orderMs(e.orderAt));
    apply(state, e, find, corrected.withdrawn);
  }
  for (const stray of corrected.stray) state.orphans.push({ entry: stray.id, why: 'target-unknown' });
  state.lastOrderAt = sorted.at(-1)?.orderAt ?? null;
  return state;
}

/** The same state judged at a later moment: waits run on. An earlier one changes nothing. */
export function atMoment(state: ShowerState, nowMs: number): ShowerState {
  return nowMs > state.clockMs ? { ...state, clockMs: nowMs } : state;
}
