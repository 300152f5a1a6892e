import { judge } from '../../checks/judge';
import { live } from '../../checks/looks';
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
  // Hardly any shower has such a look: only where one stands is anything judged.
  const waiting = new Map<string, Evidence[]>();
  for (const [element, list] of state.evidence) {
    const looks = list.filter((e) => e.waitsForManager && live(e));
    if (looks.length > 0) waiting.set(element, looks);
  }
  if (waiting.size === 0) return [];
  for (const r of state.requirements) {
    const looks = waiting.get(r.element);
    if (!looks || !judge(state, r).waitsForManager) continue;
    const look = looks.findLast((e) => e.check === r.check.id && e.stage === r.stage.key);
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
