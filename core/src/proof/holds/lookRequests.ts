import type { EntryOf } from '../../log/entry';
import { allEvidence, type ShowerState } from '../../log/state';

/** Requests for a look that nobody has answered yet: no look or reading on the stage since, and no release. Oldest first. */
export function openLookRequests(state: ShowerState): EntryOf<'look-requested'>[] {
  const latest = new Map<string, EntryOf<'look-requested'>>();
  for (const request of state.lookRequests) latest.set(request.body.stage, request);
  const evidence = allEvidence(state);
  return [...latest.values()].filter((request) => {
    const { stage } = request.body;
    const looked = evidence.some((e) => e.stage === stage && e.seq > (state.seqOf.get(request.id) ?? 0));
    return !looked && state.stages.get(stage)?.word !== 'released';
  });
}
