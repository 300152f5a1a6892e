import { isWorse } from '../../checks/acceptance';
import { askedOfKind } from '../../checks/asked';
import type { LayerReady } from '../../checks/cureOfShower';
import { judge, judgeStage } from '../../checks/judge';
import { judgedByOlder, judgingVersions } from '../../checks/judgedBy';
import { judgeOf } from '../../checks/judges';
import { waitLayers } from '../../checks/wait';
import type { Body } from '../../log/bodies';
import type { Blocker, Judgement } from '../../log/judgement';
import type { Release, ShowerState, StageState } from '../../log/state';
import { isOf } from '../../rules/checks/check';
import type { WaitCheck } from '../../rules/checks/wait';
import { lowerBlockersOf, ownBlockersOf } from './release';

type CheckBlocker = Extract<Blocker, { kind: 'check' }>;

/** The name of a requirement in a release's verdicts. */
const verdictKey = ({ requirement: r }: Pick<Judgement, 'requirement'>): string =>
  [r.check.id, r.element, r.side ?? ''].join(' ');

/** The entries that a judgement rests on. */
function inputsOf(state: ShowerState, { requirement: r }: Pick<Judgement, 'requirement'>): string[] {
  const mine = (state.evidence.get(r.element) ?? []).filter(
    (e) => e.stage === r.stage.key && e.check === r.check.id && (e.side === r.side || e.side === null),
  );
  return [...mine.map((e) => e.entry), ...(judgeOf(r.check).standsOn?.(state) ?? [])];
}

/** What a release of a stage states: the entries it rests on, each verdict, and the calculations that gave them. */
export function releaseStatement(
  state: ShowerState,
  stageKey: string,
): Pick<Body<'stage-released'>, 'inputs' | 'verdicts' | 'ruleVersion' | 'calculations'> {
  const judged = judgeStage(state, stageKey);
  return {
    inputs: [...new Set(judged.flatMap((j) => inputsOf(state, j)))],
    verdicts: Object.fromEntries(judged.map((j) => [verdictKey(j), j.verdict])),
    ruleVersion: state.rules?.book.version ?? 0,
    calculations: judgingVersions(),
  };
}

/**
 * True for a check that today's calculation does not pass, that passed by the one of the release's own time, and whose
 * ground is still what it was: nothing was added, taken away or moved since.
 */
function stoodByOlder(state: ShowerState, release: Release, blocker: CheckBlocker): boolean {
  const { judgement } = blocker;
  const { check, element } = judgement.requirement;
  const { verdicts, calculations, inputs } = release.stated;
  if (verdicts[verdictKey(judgement)] !== 'pass') return false;
  if (!judgedByOlder(check.kind, calculations, release.atMs)) return false;
  const stated = new Set(inputs);
  if (inputsOf(state, judgement).some((id) => !stated.has(id))) return false;
  if (judgeOf(check).isGone?.(state)) return false;
  return (state.evidence.get(element) ?? []).every((e) => !stated.has(e.entry) || (!e.lookAgain && !e.voided));
}

/** What an uphold was given over: the same blocker, and nothing worse. */
function isUpheld(over: readonly Blocker[], now: Blocker): boolean {
  return over.some((b) => {
    if (b.kind === 'check' && now.kind === 'check')
      return (
        verdictKey(b.judgement) === verdictKey(now.judgement) &&
        b.verdict === now.verdict &&
        !isWorse(now.judgement.worst, b.judgement.worst)
      );
    if (b.kind === 'defect' && now.kind === 'defect') return b.defect.id === now.defect.id;
    if (b.kind === 'deviation-pending' && now.kind === 'deviation-pending') return b.deviation.id === now.deviation.id;
    return b.kind === 'look-again' && now.kind === 'look-again';
  });
}

/** What speaks against a release now, and what only today's calculation says. */
function against(state: ShowerState, key: string, release: Release): { own: Blocker[]; beside: CheckBlocker[] } {
  const all = ownBlockersOf(state, key);
  const beside = all.filter((b): b is CheckBlocker => b.kind === 'check' && stoodByOlder(state, release, b));
  const own = all.filter((b) => !beside.some((x) => x === b));
  const standing = release.upheld === null ? own : own.filter((b) => !isUpheld(release.blockedBy, b));
  return { own: standing.every((b) => b.kind === 'look-again') ? [] : standing, beside };
}

/** What would have blocked a release at its own place in the order, with everything known now; stages below apart. */
export function blockedThen(state: ShowerState, key: string, release: Release): Blocker[] {
  return against(state, key, { ...release, upheld: null }).own;
}

/** True for a wait that only a guess at the air between far readings makes longer: no reason to doubt what somebody released. */
function isGuess(state: ShowerState, blocker: Blocker): boolean {
  const check = blocker.kind === 'check' ? blocker.judgement.requirement.check : null;
  if (!check || !isOf(check, 'wait') || (blocker as CheckBlocker).verdict !== 'undecided') return false;
  return isBridged(check, waitLayers(state, check)?.at(-1));
}

/** Hours without a reading near make up more than a quarter of a wait. */
const isBridged = (check: WaitCheck, slowest: LayerReady | undefined): boolean =>
  slowest !== undefined && slowest.bridgedHours > check.hours / 4;

/** Waits that were released before they were over, as the air that was read later shows; what spoke against it then is named already. */
function releasedEarly(state: ShowerState, key: string, release: Release): Blocker[] {
  return askedOfKind(state.requirements, 'wait').flatMap((r): Blocker[] => {
    const { check } = r;
    if (r.stage.key !== key) return [];
    const slowest = waitLayers(state, check)?.at(-1);
    if (!slowest || isBridged(check, slowest)) return [];
    if ((slowest.readyAtMs ?? Infinity) <= release.atMs) return [];
    if (release.blockedBy.some((b) => b.kind === 'check' && b.check === check.id && b.element === r.element)) return [];
    const judgement = judge(state, r);
    if (judgement.deviation !== null) return [];
    const { element, side } = r;
    return [{ kind: 'check', stage: key, check: check.id, element, side, verdict: judgement.verdict, judgement }];
  });
}

function settleOne(state: ShowerState, key: string, stage: StageState): void {
  const { release } = stage;
  if (!release) return;
  stage.because = null;
  stage.word = 'released';
  if (!state.rules?.method.stages.some((s) => s.key === key)) {
    stage.word = 'held';
    stage.because = { cause: 'rules', entry: null, blockers: [] };
    return;
  }
  const { own: all, beside } = against(state, key, release);
  const own = all.filter((b) => !isGuess(state, b));
  const then = release.upheld === null ? [...release.blockedBy, ...releasedEarly(state, key, release)] : [];
  const lower = lowerBlockersOf(state, key);
  stage.beside = beside;
  if (own.length === 0) stage.touched = null;
  if (then.length > 0) {
    stage.word = 'contested';
    stage.because = { cause: 'came-to-light', entry: null, blockers: own.length > 0 ? own : then };
  } else if (own.length > 0) {
    stage.word = stage.touched ? 'held' : 'contested';
    const { cause, entry } = stage.touched ?? { cause: 'came-to-light', entry: null };
    stage.because = { cause, entry, blockers: own };
  } else if (lower.length > 0) {
    const isContested = lower.some((b) => state.stages.get(b.lower)?.word === 'contested');
    stage.word = isContested ? 'contested' : 'held';
    stage.because = { cause: 'lower-stage', entry: null, blockers: lower };
  }
}

/**
 * Judges every release anew on what is known now, from the lowest stage up: a release stands only while its judgement
 * holds. What was done later holds the stage; what came to light contests it; a stage that stands on another goes with it.
 */
export function settle(state: ShowerState): void {
  const order = new Map(state.rules?.method.stages.map((s) => [s.key, s.order]) ?? []);
  const keys = [...state.stages.keys()].sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  for (const key of keys) settleOne(state, key, state.stages.get(key)!);
}

/** Stages whose release nothing of their own speaks against just now. */
export function standing(state: ShowerState): Set<string> {
  return new Set(
    [...state.stages]
      .filter(([key, { release }]) => release !== null && against(state, key, release).own.length === 0)
      .map(([key]) => key),
  );
}

/** Notes later work on the stages that stood `before` it and do not after it, so that it is named as the reason. */
export function noteTouched(
  state: ShowerState,
  before: ReadonlySet<string>,
  touched: NonNullable<StageState['touched']>,
): void {
  for (const [key, stage] of state.stages) {
    if (!stage.release) continue;
    if (against(state, key, stage.release).own.length === 0) stage.touched = null;
    else if (before.has(key)) stage.touched = touched;
  }
}
