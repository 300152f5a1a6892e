import { done, type Outcome, refuse } from '../../outcome/outcome';
import { checkDrain, checkFootprint } from '../../shower/geometry/checkGeometry';
import type { PlanPoint } from '../../shower/geometry/point';
import { distanceToOutlineMm } from '../../shower/geometry/polygon';

/** 1/4 in per ft: least fall of a shower floor [IRC P2709.1, value from memory]. */
export const MIN_FALL = 0.25 / 12;
/** 1/2 in per ft: greatest fall of a shower floor [IRC P2709.1, value from memory]. */
export const MAX_FALL = 0.5 / 12;
/** 1/8 in, kept apart from the rise: a bed built exactly to the limit is measured below it more often than not [common practice, no source]. */
export const FALL_RESERVE_MM = 3.175;

export interface FallDesignInput {
  footprint: PlanPoint[];
  drain: PlanPoint;
  /** rise / run */
  minFall: number;
  maxFall: number;
  reserveMm: number;
}

export interface FallDesign {
  longestMm: number;
  shortestMm: number;
  /** Rise of a level perimeter above the drain that gives the longest path `minFall`. */
  riseMm: number;
  /** rise / run on the shortest path with `riseMm` */
  steepestFall: number;
  verdict: 'pass' | 'fail';
  riseWithReserveMm: number;
  steepestFallWithReserve: number;
  /** The reserve that still keeps the shortest path within `maxFall`, at most the one asked for; 0 when none fits. */
  reserveThatFitsMm: number;
}

/**
 * Rise of a level perimeter: longest straight distance to the drain centre times the least fall; the shortest path
 * then has the greatest fall and fails when it exceeds `maxFall`.
 */
export function fallDesign(input: FallDesignInput): Outcome<FallDesign> {
  const { footprint, drain, minFall, maxFall, reserveMm } = input;
  const footprintOk = checkFootprint(footprint);
  if (!footprintOk.ok) return footprintOk;
  const drainOk = checkDrain(footprint, drain);
  if (!drainOk.ok) return drainOk;
  if (minFall > maxFall) return refuse('fall-range-reversed', 'minFall');
  const longestMm = Math.max(...footprint.map((p) => Math.hypot(p.xMm - drain.xMm, p.yMm - drain.yMm)));
  const shortestMm = distanceToOutlineMm(drain, footprint);
  const riseMm = longestMm * minFall;
  const room = maxFall * shortestMm - riseMm;
  return done({
    longestMm,
    shortestMm,
    riseMm,
    steepestFall: riseMm / shortestMm,
    verdict: room >= 0 ? 'pass' : 'fail',
    riseWithReserveMm: riseMm + reserveMm,
    steepestFallWithReserve: (riseMm + reserveMm) / shortestMm,
    reserveThatFitsMm: Math.max(0, Math.min(reserveMm, room)),
  });
}
