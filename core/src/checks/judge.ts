import type { Judgement, Requirement } from '../log/judgement';
import type { ShowerState } from '../log/state';
import { standingDeviation } from './acceptance';
import type { Measured } from './found';
import { judgeOf } from './judges';
import { judgeLooks, type Looked, lastLook, live, showsProof } from './looks';
import { byFigure } from './measured';

/** True for what nothing has to be shown of yet: a survey that nobody began and the rule book does not demand. */
export function isLeftOpen({ requirement: { check }, verdict }: Pick<Judgement, 'requirement' | 'verdict'>): boolean {
  return verdict === 'unseen' && judgeOf(check).isOptional?.(check) === true;
}

/** What failed stays failed; else "not applicable" passes, or waits for a manager. */
function withNotApplicable(verdict: Measured['verdict'], looked: Looked): Measured['verdict'] {
  if (verdict === 'fail') return 'fail';
  if (looked.notApplicable) return 'pass';
  return looked.onlyWaits && looked.waits ? 'undecided' : verdict;
}

/** Judgements of one state in which nothing that they depend on changes any more, those that go by the clock apart. */
interface Memory {
  /** Judgements that no clock changes. */
  timeless: WeakMap<Requirement, Judgement>;
  /** Judgements at the moment that the state is judged at. */
  timed: WeakMap<Requirement, Judgement>;
}
/** What was judged of a state, as long as it is held. */
const remembered = new WeakMap<ShowerState, Memory>();

/**
 * From here on each judgement on this state is worked out once, whoever asks for it: a fold calls this when all entries are in,
 * and nothing may be added to the state after it. With the same state at an `earlier` moment it shares all but what goes by the
 * clock.
 */
export function rememberJudgements(state: ShowerState, earlier?: ShowerState): void {
  const timeless = (earlier && remembered.get(earlier)?.timeless) ?? new WeakMap();
  remembered.set(state, { timeless, timed: new WeakMap() });
}

/** The verdict on one requirement from the evidence that stands, with the stretches behind it. */
export function judge(state: ShowerState, asked: Requirement): Judgement {
  const memory = remembered.get(state)?.[judgeOf(asked.check).byClock ? 'timed' : 'timeless'];
  const known = memory?.get(asked);
  if (known) return known;
  const judgement = judgeAnew(state, asked);
  memory?.set(asked, judgement);
  return judgement;
}

/** The evidence on a requirement that counts, oldest first: looks and readings. */
export function evidenceOn(state: ShowerState, { element, stage, check, side }: Requirement) {
  const mine = (state.evidence.get(element) ?? []).filter(
    (e) =>
      live(e) &&
      e.stage === stage.key &&
      e.check === check.id &&
      (e.side === side || (e.kind === 'look' && e.side === null)),
  );
  return {
    looks: mine.filter((e) => e.kind === 'look' && showsProof(check, e)),
    readings: mine.filter((e) => e.kind === 'reading'),
  };
}

/** A judgement that was not remembered. */
function judgeAnew(state: ShowerState, asked: Requirement): Judgement {
  const requirement = byFigure(state, asked);
  const { looks, readings } = evidenceOn(state, requirement);
  const looked = judgeLooks(requirement, looks);
  const { measured, readyAtMs = null } = judgeOf(requirement.check).judge({
    state,
    requirement,
    readings,
    looks,
    looked,
  });
  const verdict = withNotApplicable(measured.verdict, looked);
  const found = { ...measured, verdict, missing: looked.missing };
  const deviation = verdict === 'pass' ? null : standingDeviation(state, requirement, found);
  return {
    requirement,
    ...found,
    satisfied: verdict === 'pass' || deviation !== null,
    deviation,
    waitsForManager: verdict !== 'pass' && looked.waits,
    seen: looked.seen,
    readings,
    number: lastLook(looks)?.number ?? null,
    position: lastLook(looks)?.position ?? null,
    readyAtMs,
    zone: state.created?.body.timeZone ?? null,
  };
}

/** Judgements of a stage. */
export function judgeStage(state: ShowerState, stageKey: string): Judgement[] {
  return state.requirements.filter((r) => r.stage.key === stageKey).map((r) => judge(state, r));
}
