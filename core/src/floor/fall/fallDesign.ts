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

/** A floor whose edge shall be level all round. */
export interface FallDesignInput {
  /** Counter-clockwise at the inner faces, mm. */
  footprint: PlanPoint[];
  /** Middle of the drain, mm. */
  drain: PlanPoint;
  /** rise / run */
  minFall: number;
  /** rise / run; steeper is a slide. */
  maxFall: number;
  /** Height put on top for what is lost in building, mm. */
  reserveMm: number;
}

/** How high a level edge must lie over the drain, and what that makes of the shortest path. */
export interface FallDesign {
  /** Longest straight path to the drain, mm. */
  longestMm: number;
  /** Shortest one, mm. */
  shortestMm: number;
  /** Rise of a level perimeter above the drain that gives the longest path `minFall`. */
  riseMm: number;
  /** rise / run on the shortest path with `riseMm` */
  steepestFall: number;
  /** Fails where no height keeps both paths within their limits. */
  verdict: 'pass' | 'fail';
  /** The same with the reserve on top, mm. */
  riseWithReserveMm: number;
  /** rise / run on the shortest path then. */
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
