import type { PlanPoint } from '../../shower/geometry/point';
import { distanceToOutlineMm, insidePolygon } from '../../shower/geometry/polygon';
import type { SurveyedFloor } from './shots';
import { toRimMm } from './surface';

/** How far the rod's foot stands off a wall, mm. */
const OFF_WALL_MM = 20;
/** A place counts as shot within this, mm. */
const DONE_MM = 60;

/**
 * Places to set the rod at: every corner, the walls and the floor between on a grid of about the spacing, in rows to and
 * fro so that nobody walks twice. All lie on the floor, off its walls by the rod's foot, and off the drain.
 */
export function surveyPlan(floor: SurveyedFloor, spacingMm: number): PlanPoint[] {
  const { footprint } = floor;
  const [xs, ys] = [footprint.map((p) => p.xMm), footprint.map((p) => p.yMm)];
  const line = (from: number, to: number): number[] => {
    const steps = Math.max(1, Math.round((to - from) / spacingMm));
    return Array.from({ length: steps + 1 }, (_, k) => from + ((to - from) * k) / steps);
  };
  const [left, right] = [Math.min(...xs) + OFF_WALL_MM, Math.max(...xs) - OFF_WALL_MM];
  const [near, far] = [Math.min(...ys) + OFF_WALL_MM, Math.max(...ys) - OFF_WALL_MM];
  const onFloor = (p: PlanPoint) =>
    insidePolygon(p, footprint) &&
    distanceToOutlineMm(p, footprint) >= OFF_WALL_MM - 1 &&
    toRimMm(floor, p) > OFF_WALL_MM &&
    !(floor.rim && insidePolygon(p, floor.rim));
  const places = line(near, far).flatMap((yMm, row) => {
    const places = line(left, right).map((xMm) => ({ xMm, yMm }));
    return row % 2 === 0 ? places : places.reverse();
  });
  const middle = { xMm: (left + right) / 2, yMm: (near + far) / 2 };
  const corners = footprint.map((p) => {
    const away = Math.hypot(middle.xMm - p.xMm, middle.yMm - p.yMm) || 1;
    const step = OFF_WALL_MM * 1.5;
    return { xMm: p.xMm + ((middle.xMm - p.xMm) * step) / away, yMm: p.yMm + ((middle.yMm - p.yMm) * step) / away };
  });
  const kept = places.filter(onFloor);
  const missing = corners.filter((c) => insidePolygon(c, footprint) && !kept.some((p) => apart(p, c) < 2 * DONE_MM));
  return [...kept, ...missing];
}

/** How far two places are apart, mm. */
const apart = (a: PlanPoint, b: PlanPoint): number => Math.hypot(a.xMm - b.xMm, a.yMm - b.yMm);

/** The next place of a plan that no shot stands at, or null when all are done. */
export function nextPlace(plan: readonly PlanPoint[], shots: readonly PlanPoint[]): PlanPoint | null {
  return plan.find((p) => !shots.some((s) => apart(s, p) <= DONE_MM)) ?? null;
}
