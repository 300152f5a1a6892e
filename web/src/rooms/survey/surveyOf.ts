import { askedOfKind } from '@careful-seam/core/checks/asked';
import { type KeptShot, standingShots } from '@careful-seam/core/checks/survey';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { Evidence, ShowerState } from '@careful-seam/core/log/state';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';

/** The survey of a stage. */
export interface Survey {
  /** What is asked: the check, the element it is asked of, and the side of a seam. */
  requirement: Requirement;
  /** What the rule book asks, with its limits. */
  check: SurveyCheck;
  /** The shots that stand, in the order in which they were taken. */
  shots: KeptShot[];
  /** Reading of the rod on the drain's rim or the place that all counts from; null before it was read. */
  datumMm: number | null;
}

/** It counts: neither taken back, nor of a place that changed. */
const stands = (e: Evidence): boolean => !e.voided && !e.lookAgain;

/** The survey that a stage asks for, with the shots that stand; null where it asks for none. */
export function surveyOf(state: ShowerState, stage: string): Survey | null {
  const requirement = askedOfKind(state.requirements, 'survey').find((r) => r.stage.key === stage);
  if (!requirement) return null;
  const { check } = requirement;
  const of = (element: string) =>
    (state.evidence.get(element) ?? []).filter(
      (e) => stands(e) && e.kind === 'reading' && e.stage === stage && e.check === check.id && e.shot,
    );
  return {
    requirement,
    check,
    shots: standingShots(of(requirement.element)),
    datumMm: of(state.geometry!.model.drain.id).at(-1)?.valueMm ?? null,
  };
}
