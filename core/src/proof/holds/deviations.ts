import { whereOpen } from '../../checks/acceptance';
import { judge } from '../../checks/judge';
import { stretchOn } from '../../checks/place';
import type { EntryOf } from '../../log/entry';
import type { ShowerState } from '../../log/state';
import { mayBe } from '../../log/who';
import { subtract } from '../../shower/seams/intervals';
import { orphan } from '../fold/foldDefects';

/** An acceptance asked for: what was shown then is written down with it. */
export function askDeviation(state: ShowerState, e: EntryOf<'deviation-asked'>): void {
  const { stage, check, place } = e.body;
  const requirement = state.requirements.find(
    (r) =>
      r.stage.key === stage && r.check.id === check && r.element === place.element && r.side === (place.side ?? null),
  );
  const found = requirement ? judge(state, requirement) : null;
  const seam = state.seamById.get(place.element);
  const asked = (seam && stretchOn(seam, place)) ?? { fromMm: 0, toMm: requirement?.lengthMm ?? 1 };
  const open = requirement && found ? whereOpen(requirement, found) : [];
  state.deviations.set(e.id, {
    id: e.id,
    asked: e.body,
    askedBy: e.author.id,
    askedByName: e.author.name,
    askedAt: e.observedAt,
    decision: null,
    worst: found?.worst ?? {},
    covers: open.flatMap((s) => subtract([s], subtract([s], [asked]))),
    ended: false,
  });
}

/**
 * A manager's answer, never the asker's own. It answers what was asked when it was given: `corrected` names the asks that
 * were changed after it.
 */
export function decideDeviation(
  state: ShowerState,
  e: EntryOf<'deviation-decided'>,
  withdrawn: ReadonlySet<string>,
  correctedAt: ReadonlyMap<string, string>,
): void {
  const deviation = state.deviations.get(e.body.asked);
  if (!deviation || deviation.askedBy === e.author.id) return orphan(state, e, e.body.asked, withdrawn);
  const changed = correctedAt.get(e.body.asked);
  if (!mayBe(e) || (changed !== undefined && changed > e.orderAt)) {
    state.orphans.push({ entry: e.id, why: 'not-allowed' });
    return;
  }
  const { accepted, reason } = e.body;
  deviation.decision = { accepted, by: e.author.name, reason, at: e.observedAt };
}
