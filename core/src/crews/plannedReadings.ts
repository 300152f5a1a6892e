import type { Requirement } from '../log/judgement';
import type { ShowerState } from '../log/state';
import { patternPlaces } from '../membrane/laps';
import { isOf } from '../rules/checks/check';
import { type ElementGroup, elementGroup } from './elementGroup';
import { crewAt } from './maker';

/** So many times the usual number of places on the seams of one kind that one crew makes. */
export interface PlannedSeams {
  crew: string;
  group: ElementGroup;
  times: number;
}

/**
 * How many places the firm's plan asks for on a seam: so many times those that its check's pattern asks for, a whole number and never
 * fewer than that. Null where the plan says nothing of these seams, or no more than is usual.
 */
export function plannedReadings(
  state: ShowerState,
  plan: readonly PlannedSeams[],
  { check, stage, element, hasLength, lengthMm }: Requirement,
): number | null {
  if (!hasLength || !isOf(check, 'measured') || !state.geometry) return null;
  const crew = crewAt(state, stage.key, state.seq) ?? state.created?.body.crewId;
  const group = elementGroup(state.geometry.model, element);
  const times = plan.find((p) => p.crew === crew && p.group === group)?.times ?? 1;
  if (times <= 1) return null;
  return Math.ceil(patternPlaces(lengthMm, check.pattern).length * times);
}
