import { isLeftOpen, judge, rememberJudgements } from '../../checks/judge';
import { applyCorrections, type Corrected } from '../../log/corrections';
import type { Entry, EntryOf } from '../../log/entry';
import { compareEntries } from '../../log/order';
import { type Arrivals, allEvidence, instantOf, type Release, type ShowerState } from '../../log/state';
import { byManager, mayBe, mayCorrect } from '../../log/who';
import { followsStage, ruleOf } from '../../rules/checks/check';
import { combineMethods, methodsOfParts, type Pinned } from '../../rules/combineMethods';
import type { RuleBook } from '../../rules/ruleBook';
import { PARTS } from '../../shower/geometry/parts';
import { union } from '../../shower/seams/intervals';
import { isOverdue } from '../holds/defectLife';
import { askDeviation, decideDeviation } from '../holds/deviations';
import { blockedThen, noteTouched, settle, standing } from '../holds/stand';
import { applyRedo } from '../redo/redo';
import { basinChanged } from '../water/basin';
import { isUnderFlood, onClimate, onFlood, voidFlood } from '../water/foldFlood';
import { onCall } from './foldCalls';
import { addDefectFound, onDefect } from './foldDefects';
import { addLook, addReading, elementsOf, fitAgain } from './foldEvidence';
import { askedOf, modelOf } from './rememberedDrawings';
import { beginStage, stageOf, takeReleaseBack } from './stageState';

/** A version of a rule book; null where it is not known here. */
export type FindRuleBook = (id: string, version: number) => RuleBook | null;

/** A shower of which nothing is known. */
function emptyState(arrivals: Arrivals): ShowerState {
  return {
    created: null,
    geometry: null,
    rules: null,
    drawings: new Map(),
    seamById: new Map(),
    elementIds: new Set(),
    sizes: new Map(),
    requirements: [],
    evidence: new Map(),
    defects: new Map(),
    deviations: new Map(),
    stages: new Map(),
    releases: [],
    redos: [],
    seqOf: new Map(),
    provedAgain: new Map(),
    redone: new Map(),
    covered: new Map(),
    flood: null,
    earlierFloods: [],
    clockMs: 0,
    calls: new Map(),
    notes: [],
    photos: [],
    climate: [],
    signed: [],
    lookRequests: [],
    orphans: [],
    arrivals,
    seq: 0,
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

/** Another drawing: what was proved of what changed is looked at again. */
function setGeometry(state: ShowerState, e: EntryOf<'geometry-set'>): void {
  const model = modelOf(e.body.geometry);
  if (!model.ok) {
    state.orphans.push({ entry: e.id, why: 'geometry-invalid' });
    return;
  }
  const before = { stood: standing(state), model: state.geometry?.model };
  const { version, drawing, from } = e.body;
  state.geometry = {
    version,
    model: model.value,
    setAt: e.observedAt,
    drawing: drawing ?? null,
    from: from ?? null,
  };
  state.drawings.set(version, model.value);
  Object.assign(state, elementsOf(model.value));
  for (const evidence of allEvidence(state)) fitAgain(state, evidence);
  refreshRequirements(state);
  if (before.model && state.flood && basinChanged(before.model, model.value, state.flood.waterLineMm))
    voidFlood(state, { cause: 'dimensions', entry: e.id, at: e.observedAt });
  noteTouched(state, before.stood, { cause: 'dimensions', entry: e.id });
}

/** True when a pin asks less of what was seen than the one before: a later first stage, other methods, a way of building left out. */
function asksLess(state: ShowerState, next: Pinned): boolean {
  const { rules } = state;
  const stands = allEvidence(state).filter((x) => !x.voided);
  if (!rules || stands.length === 0) return false;
  const orders = new Map(rules.method.stages.map((s) => [s.key, s.order]));
  const begins = next.beginsAt === undefined ? -1 : (orders.get(next.beginsAt) ?? -1);
  if (stands.some((x) => (orders.get(x.stage) ?? 0) < begins)) return true;
  const [was, is] = [methodsOfParts(rules.pinned), methodsOfParts(next)];
  if (PARTS.some((part) => was[part] !== is[part]) || rules.pinned.method !== next.method) return true;
  return (rules.pinned.variants ?? []).some((v) => !(next.variants ?? []).includes(v));
}

function pinRules(state: ShowerState, e: EntryOf<'rules-pinned'>, find: FindRuleBook): void {
  const book = find(e.body.ruleBook, e.body.version);
  const method = book && combineMethods(book, e.body, []);
  if (!book || !method) {
    state.orphans.push({ entry: e.id, why: 'rules-unknown' });
    return;
  }
  if (!byManager(e) && asksLess(state, e.body)) {
    state.orphans.push({ entry: e.id, why: 'not-allowed' });
    return;
  }
  const before = standing(state);
  state.rules = { book, method, pinned: e.body };
  for (const stage of method.stages) stageOf(state, stage.key);
  refreshRequirements(state);
  noteTouched(state, before, { cause: 'rules', entry: e.id });
}

/** Marks what a layer covers while checks below it were not satisfied. */
function markCovered(state: ShowerState, stageKey: string): void {
  const order = state.rules?.method.stages.find((s) => s.key === stageKey)?.order;
  if (order === undefined) return;
  for (const requirement of state.requirements) {
    if (requirement.stage.order >= order || !requirement.stage.holdPoint) continue;
    if (requirement.check.severity === 'note' || !ruleOf(requirement.check).isOfWork) continue;
    if (state.stages.get(requirement.stage.key)?.release?.upheld) continue;
    const judgement = judge(state, requirement);
    if (judgement.satisfied || isLeftOpen(judgement)) continue;
    const gaps = judgement.missing.length > 0 ? judgement.missing : [{ fromMm: 0, toMm: requirement.lengthMm }];
    state.covered.set(requirement.element, union([...(state.covered.get(requirement.element) ?? []), ...gaps]));
  }
}

/** Work told: what it covers, what waits for it anew, and the flood whose basin it changes. */
function workDone(state: ShowerState, e: EntryOf<'work-done'>): void {
  const { stage } = e.body;
  markCovered(state, stage);
  beginStage(state, stage).work.push(e);
  state.seqOf.set(e.id, state.seq);
  const waits = state.requirements.filter((r) => followsStage(r.check, stage));
  for (const wait of waits) if (!judge(state, wait).satisfied) takeReleaseBack(state, wait.stage.key, 'work', e.id);
  if (isUnderFlood(state, stage)) voidFlood(state, { cause: 'work', entry: e.id, at: e.observedAt });
}

/** A release, judged at its own place in the order. Only a manager upholds one that something speaks against. */
function release(state: ShowerState, e: EntryOf<'stage-released'>): void {
  const stage = beginStage(state, e.body.stage);
  const wanted = e.body.upholds ?? null;
  if (wanted !== null && !byManager(e)) state.orphans.push({ entry: e.id, why: 'not-allowed' });
  const { verdicts, calculations, inputs } = e.body;
  const made: Release = {
    entry: e.id,
    stage: e.body.stage,
    by: e.author.name,
    observedAt: e.observedAt,
    atMs: instantOf(state, e),
    ruleVersion: e.body.ruleVersion,
    blockedBy: [],
    upheld: byManager(e) ? wanted : null,
    imported: state.arrivals.get(e.id)?.imported ?? false,
    stated: { verdicts, calculations, inputs },
  };
  made.blockedBy = blockedThen(state, e.body.stage, made);
  stage.release = made;
  stage.touched = null;
  stage.because = null;
  stage.word = 'released';
  state.releases.push(made);
}

function apply(state: ShowerState, e: Entry, find: FindRuleBook, corrected: Corrected): void {
  const { withdrawn } = corrected;
  if (!mayBe(e)) {
    state.orphans.push({ entry: e.id, why: 'not-allowed' });
    return;
  }
  switch (e.kind) {
    case 'shower-created':
      state.created ??= e;
      return;
    case 'geometry-set':
      return setGeometry(state, e);
    case 'rules-pinned':
      return pinRules(state, e, find);
    case 'work-done':
      return workDone(state, e);
    case 'look-requested':
      state.lookRequests.push(e);
      state.seqOf.set(e.id, state.seq);
      beginStage(state, e.body.stage);
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
      return onClimate(state, e);
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
      return decideDeviation(state, e, withdrawn, corrected.replacedAt);
    case 'stage-released':
      return release(state, e);
    case 'stage-reopened':
      beginStage(state, e.body.stage);
      return takeReleaseBack(state, e.body.stage, 'reopened', e.id);
    case 'flood-started':
    case 'flood-reading':
    case 'flood-event':
    case 'moisture-look':
    case 'flood-ended':
      return onFlood(state, e);
    case 'call-opened':
    case 'call-tested':
    case 'part-stripped':
    case 'floor-watched':
    case 'call-closed':
      return onCall(state, e, withdrawn);
    case 'note':
      state.notes.push(e);
      return;
    case 'record-signed':
      state.signed.push(e);
      return;
    case 'correction':
      return;
    default:
      // A new kind that nobody folds does not compile.
      e satisfies never;
  }
}

/**
 * The state of a shower: a fold over its entries in their one order, corrections applied. The same entries give the
 * same state in whatever order they arrived; the input is not changed. A release is judged at its own place in the order
 * with everything known now, and again at the end: it stands only while its judgement holds. `arrivals` tells how entries
 * came, so that a wrong clock shortens no wait.
 */
export function foldShower(entries: readonly Entry[], find: FindRuleBook, arrivals: Arrivals = new Map()): ShowerState {
  const sorted = [...entries].sort(compareEntries);
  const corrected = applyCorrections(sorted, mayCorrect);
  const state = emptyState(arrivals);
  for (const e of corrected.entries) {
    state.seq += 1;
    state.clockMs = Math.max(state.clockMs, instantOf(state, e));
    apply(state, e, find, corrected);
  }
  for (const stray of corrected.stray) state.orphans.push({ entry: stray.id, why: 'target-unknown' });
  for (const id of corrected.refused) state.orphans.push({ entry: id, why: 'not-allowed' });
  state.lastOrderAt = sorted.at(-1)?.orderAt ?? null;
  rememberJudgements(state);
  settle(state);
  return state;
}

/** True when a day that something was due by passes between two moments. */
function somethingFallsDue(state: ShowerState, fromMs: number, toMs: number): boolean {
  return [...state.defects.values()].some((d) => isOverdue(d, toMs) && !isOverdue(d, fromMs));
}

/** The same state judged at a later moment: waits run on, days pass by which something was due. An earlier one changes nothing. */
export function atMoment(state: ShowerState, nowMs: number): ShowerState {
  if (nowMs <= state.clockMs) return state;
  const later = { ...state, clockMs: nowMs };
  rememberJudgements(later, state);
  if (!somethingFallsDue(state, state.clockMs, nowMs)) return later;
  later.stages = new Map([...state.stages].map(([key, stage]) => [key, { ...stage }]));
  settle(later);
  return later;
}
