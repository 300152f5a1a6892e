import type { EntryOf } from '../../log/entry';
import type { ShowerState } from '../../log/state';

/** Entries about a call. */
type OnCall =
  | EntryOf<'call-opened'>
  | EntryOf<'call-tested'>
  | EntryOf<'part-stripped'>
  | EntryOf<'floor-watched'>
  | EntryOf<'call-closed'>;

/** A call about water, what was tried, taken out or watched for it, or what was found. What belongs to a call that is gone is listed and not applied. */
export function onCall(state: ShowerState, e: OnCall, withdrawn: ReadonlySet<string>): void {
  if (e.kind === 'call-opened') {
    state.calls.set(e.id, { opened: e, tests: [], stripped: [], watched: [], closed: null });
    return;
  }
  const call = state.calls.get(e.body.call);
  if (!call) {
    state.orphans.push({ entry: e.id, why: withdrawn.has(e.body.call) ? 'target-withdrawn' : 'target-unknown' });
    return;
  }
  if (e.kind === 'call-tested') call.tests.push(e);
  else if (e.kind === 'part-stripped') call.stripped.push(e);
  else if (e.kind === 'floor-watched') call.watched.push(e);
  else call.closed = e;
}
