import { judge } from '../../checks/judge';
import type { Deviation } from '../../log/judgement';
import type { Evidence, ShowerState } from '../../log/state';

/** What waits for a manager in one shower. */
export interface DecisionsWaiting {
  /** Deviations that were asked for and neither decided nor overtaken. */
  deviations: Deviation[];
  /** "Not applicable" said of what a manager decides: the places of each look together. */
  looks: Evidence[][];
  /** Keys of stages whose release is contested. */
  contested: string[];
}

function waitingLooks(state: ShowerState): Evidence[][] {
  const waits = new Map<string, Evidence[]>();
  for (const r of state.requirements) {
    if (!judge(state, r).waitsForManager) continue;
    const look = (state.evidence.get(r.element) ?? []).findLast(
      (e) => e.waitsForManager && !e.voided && !e.lookAgain && e.check === r.check.id && e.stage === r.stage.key,
    );
    if (look) waits.set(look.entry, [...(waits.get(look.entry) ?? []), look]);
  }
  return [...waits.values()];
}

/** Everything in a shower that a manager is asked to decide. */
export function decisionsWaiting(state: ShowerState): DecisionsWaiting {
  return {
    deviations: [...state.deviations.values()].filter((d) => d.decision === null && !d.ended),
    looks: waitingLooks(state),
    contested: [...state.stages].flatMap(([key, s]) => (s.word === 'contested' ? [key] : [])),
  };
}

/** How many decisions these are. */
export const countDecisions = ({ deviations, looks, contested }: DecisionsWaiting): number =>
  deviations.length + looks.length + contested.length;
