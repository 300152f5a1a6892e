import { allEvidence, type Evidence, type ShowerState } from '../../log/state';
import type { ShowerModel } from '../../shower/geometry/showerModel';
import { elementsOf, stillFits } from './foldEvidence';

/** What an edit of the dimensions would do to the evidence that counts now. */
export interface Kept {
  kept: number;
  /** Looks and readings that no longer fit their place and must be made again. */
  lost: Evidence[];
}

/** Tells before an edit is written what keeps its place and what can't. */
export function keptAfter(state: ShowerState, next: ShowerModel): Kept {
  const counting = allEvidence(state).filter((e) => !e.voided && !e.lookAgain);
  const elements = elementsOf(next);
  const lost = counting.filter((e) => !stillFits(elements, e.place, e.size));
  return { kept: counting.length - lost.length, lost };
}
