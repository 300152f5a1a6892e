import type { EntryOf } from '../entries/entry';
import { orphan } from './foldDefects';
import { type Stretch, subtract, union } from './intervals';
import { judge } from './judge';
import { stretchOn } from './place';
import type { Deviation, Judgement, Requirement, ShowerState, Worst } from './state';
import { mayBe } from './who';

const SLACK = 1e-6;

/** Where a finding fails or lacks something. A check without places: its whole element. */
export function whereOpen(
  requirement: Requirement,
  found: Pick<Judgement, 'verdict' | 'failed' | 'missing'>,
): Stretch[] {
  const whole = [{ fromMm: 0, toMm: requirement.lengthMm }];
  if (!requirement.hasLength) return whole;
  if (found.verdict === 'fail') return found.failed.length > 0 ? union(found.failed) : whole;
  return found.verdict === 'unseen' && found.missing.length > 0 ? union(found.missing) : whole;
}

const within = (inner: readonly Stretch[], outer: readonly Stretch[]): boolean =>
  subtract(
    inner,
    outer.map((s) => ({ fromMm: s.fromMm - 1, toMm: s.toMm + 1 })),
  ).length === 0;

/** True when something is worse than it was shown, in a direction that it failed in or in a new one. */
export function isWorse(now: Worst, shown: Worst): boolean {
  return Object.entries(now).some(([name, bad]) => !(name in shown) || bad > shown[name]! + SLACK);
}

const concerns = ({ asked }: Deviation, r: Requirement): boolean =>
  asked.stage === r.stage.key &&
  asked.check === r.check.id &&
  asked.place.element === r.element &&
  (asked.place.side ?? null) === r.side;

/**
 * The acceptance that covers a finding, or null: of the same element, stretch, check and side, geometry and rule version,
 * the verdict that was shown, and nothing worse than what was shown then, in whatever direction.
 */
export function standingDeviation(
  state: ShowerState,
  requirement: Requirement,
  found: Pick<Judgement, 'verdict' | 'worst' | 'failed' | 'missing'>,
): Deviation | null {
  const open = whereOpen(requirement, found);
  for (const deviation of state.deviations.values()) {
    const { asked } = deviation;
    if (deviation.ended || !deviation.decision?.accepted || !concerns(deviation, requirement)) continue;
    if (asked.geometryVersion !== state.geometry?.version || asked.ruleVersion !== state.rules?.book.version) continue;
    if (asked.verdict !== found.verdict || isWorse(found.worst, deviation.worst)) continue;
    if (within(open, deviation.covers)) return deviation;
  }
  return null;
}

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
