import type { EntryOf } from '../../log/entry';
import type { ShowerState } from '../../log/state';

/** A call about water, a test on it, or what was found. A test or an end whose call is gone is listed and not applied. */
export function onCall(
  state: ShowerState,
  e: EntryOf<'call-opened'> | EntryOf<'call-tested'> | EntryOf<'call-closed'>,
  withdrawn: ReadonlySet<string>,
): void {
  if (e.kind === 'call-opened') {
    state.calls.set(e.id, { opened: e, tests: [], closed: null });
    return;
  }
  const call = state.calls.get(e.body.call);
  if (!call) {
    state.orphans.push({ entry: e.id, why: withdrawn.has(e.body.call) ? 'target-withdrawn' : 'target-unknown' });
    return;
  }
  if (e.kind === 'call-tested') call.tests.push(e);
  else call.closed = e;
}
