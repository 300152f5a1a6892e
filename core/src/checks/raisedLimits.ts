import type { Check } from '../rules/checks/check';
import { isOf } from '../rules/checks/check';
import type { MeasuredCheck, Raise } from '../rules/checks/measured';
import { floodCheckOf, type Method } from '../rules/ruleBook';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { MM_PER_INCH } from '../units/length';
import { leastFillMm, thresholdMm } from './floodNeeds';

/** How high the highest shower head stands above the drain, mm: it is drawn from its wall's foot. Null without one. */
export function showerHeadMm(model: ShowerModel): number | null {
  const heads = (model.geometry.penetrations ?? []).filter((p) => p.kind === 'shower-arm').map((p) => p.heightMm);
  return heads.length > 0 ? Math.max(...heads) + thresholdMm(model) : null;
}

/** Heights above the drain that a drawing may ask for, mm; null where it has nothing that asks. */
const HEIGHTS: Record<Raise, (model: ShowerModel, method: Method) => number | null> = {
  /** The curb holds the water that the flood test needs, with its margin. */
  'flood-line': (model, method) => {
    const flood = floodCheckOf(method)?.check;
    return flood ? leastFillMm(model, flood) + flood.belowCurbMm : null;
  },
  'shower-head': (model) => showerHeadMm(model),
  /** 6 ft above the floor at the wall [one code, value from memory; local code comes first]. */
  'six-feet': (model) => thresholdMm(model) + 1828.8,
};

/** How high a wall's own top stands above the drain, mm; Infinity for what is no wall. */
function topMm(model: ShowerModel, element: string): number {
  const face = model.faces.find((f) => f.id === element);
  return face?.kind === 'wall' ? Math.max(...face.loop.map((p) => p[2])) : Infinity;
}

/** What a tape can read of a height that was worked out, mm: the sixteenth of an inch below it. A limit between two marks would be told as a mark that does not keep it. */
const onTape = (mm: number): number => (Math.floor((mm * 16) / MM_PER_INCH + 1e-6) * MM_PER_INCH) / 16;

/**
 * A check as this drawing asks it: the least height of its limit raised to whatever the rule book says that it must reach,
 * never over the wall's own top or the limit's greatest. `raised` names what asks for the most; null where the book's own
 * figure stands.
 */
export function onThisDrawing(
  model: ShowerModel,
  method: Method,
  check: Check,
  element: string,
): { check: Check; raised: Raise | null } {
  if (!isOf(check, 'measured') || !check.raisedTo || check.limit.atLeastMm === undefined)
    return { check, raised: null };
  const heights = check.raisedTo.flatMap((by) => {
    const mm = HEIGHTS[by](model, method);
    return mm === null ? [] : [{ by, mm }];
  });
  const most = heights.reduce<{ by: Raise | null; mm: number }>((a, b) => (b.mm > a.mm ? b : a), {
    by: null,
    mm: check.limit.atLeastMm,
  });
  const own = check.limit.atLeastMm;
  const reached = Math.min(most.mm, topMm(model, element), check.limit.atMostMm ?? Infinity);
  const atLeastMm = reached > own ? Math.max(own, onTape(reached)) : reached === own ? own : onTape(reached);
  if (atLeastMm === own) return { check, raised: null };
  const asked: MeasuredCheck = { ...check, limit: { ...check.limit, atLeastMm } };
  return { check: asked, raised: atLeastMm > own ? most.by : null };
}
