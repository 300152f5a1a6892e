import { isLeftOpen, judgeStage } from '../../checks/judge';
import type { Defect } from '../../log/defect';
import type { Blocker } from '../../log/judgement';
import { allEvidence, type ShowerState } from '../../log/state';
import { isOpen, isOverdue } from './defectLife';

function holds(state: ShowerState, defect: Defect, stageOrder: number, stageKey: string): boolean {
  if (!isOpen(defect) || defect.severity === 'note') return false;
  if (defect.stage === stageKey) return true;
  const made = state.rules?.method.stages.find((s) => s.key === defect.stage)?.order ?? 0;
  return (defect.severity === 'stop' || isOverdue(defect, state.clockMs)) && made < stageOrder;
}

const findStage = (state: ShowerState, key: string) => state.rules?.method.stages.find((s) => s.key === key);

/** What keeps a stage from being released by itself, the stages below it apart; worst first. */
export function ownBlockersOf(state: ShowerState, stageKey: string): Blocker[] {
  const stage = findStage(state, stageKey);
  if (!stage) return [];
  const checks: Blocker[] = judgeStage(state, stageKey)
    .filter((j) => !j.satisfied && j.requirement.check.severity !== 'note' && !isLeftOpen(j))
    .map((j) => ({
      kind: 'check',
      stage: stageKey,
      check: j.requirement.check.id,
      element: j.requirement.element,
      side: j.requirement.side,
      verdict: j.verdict,
      judgement: j,
    }));
  const defects: Blocker[] = [...state.defects.values()]
    .filter((d) => holds(state, d, stage.order, stageKey))
    .map((defect) => ({ kind: 'defect', stage: stageKey, defect }));
  const pending: Blocker[] = [...state.deviations.values()]
    .filter((d) => d.asked.stage === stageKey && d.decision === null && !d.ended)
    .map((deviation) => ({ kind: 'deviation-pending', stage: stageKey, deviation }));
  // Of a stage that lacks nothing nobody asks what is to be looked at again.
  const stale =
    checks.length === 0 ? 0 : allEvidence(state).filter((e) => e.lookAgain && !e.voided && e.stage === stageKey).length;
  const again: Blocker[] = stale > 0 ? [{ kind: 'look-again', stage: stageKey, count: stale }] : [];
  const rank = (b: Blocker) => (b.kind === 'check' && b.verdict === 'fail' ? 0 : 1);
  return [...defects, ...checks.sort((a, b) => rank(a) - rank(b)), ...pending, ...again];
}

/** Hold points below a stage that ask for something and do not stand released. */
export function lowerBlockersOf(state: ShowerState, stageKey: string): Extract<Blocker, { kind: 'lower-stage' }>[] {
  const stage = findStage(state, stageKey);
  if (!stage) return [];
  return state
    .rules!.method.stages.filter(
      (s) =>
        s.order < stage.order && s.holdPoint && s.checks.length > 0 && state.stages.get(s.key)?.word !== 'released',
    )
    .map((s) => ({ kind: 'lower-stage', stage: stageKey, lower: s.key }));
}

/**
 * What keeps a stage from being released, worst first; an empty list means it may be. A check holds unless it passes,
 * is not applicable with a reason, or a deviation was accepted; open defects hold by severity (`stop` also holds the
 * stages above); a hold point below must be released first.
 */
export function blockersOf(state: ShowerState, stageKey: string): Blocker[] {
  return [...ownBlockersOf(state, stageKey), ...lowerBlockersOf(state, stageKey)];
}
