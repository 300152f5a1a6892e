import type { Deviation, Judgement, Requirement, Worst } from '../log/judgement';
import type { ShowerState } from '../log/state';
import { type Stretch, subtract, union } from '../shower/seams/intervals';

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

/** A finding is worse than the one that was shown by more than this, in its own unit: sums of doubles. */
const SLACK = 1e-6;

/** True where one set of stretches lies in another. */
const within = (inner: readonly Stretch[], outer: readonly Stretch[]): boolean =>
  subtract(
    inner,
    outer.map((s) => ({ fromMm: s.fromMm - 1, toMm: s.toMm + 1 })),
  ).length === 0;

/** True when something is worse than it was shown, in a direction that it failed in or in a new one. */
export function isWorse(now: Worst, shown: Worst): boolean {
  return Object.entries(now).some(([name, bad]) => !(name in shown) || bad > shown[name]! + SLACK);
}

/** True for an acceptance that was asked of this requirement. */
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
