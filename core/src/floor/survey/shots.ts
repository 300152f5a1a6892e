import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { checkDrain, checkFootprint } from '../../shower/geometry/checkGeometry';
import type { PlanPoint } from '../../shower/geometry/point';
import { distanceToOutlineMm, insidePolygon } from '../../shower/geometry/polygon';
import { anyMm } from '../../units/bounded';

/** A height of the floor at a place, mm; up is positive. */
export const Shot = z.object({ xMm: anyMm, yMm: anyMm, zMm: anyMm });
/** A place of the rod with its height. */
export type Shot = z.infer<typeof Shot>;

/** Shots nearer to each other than this are the same place, mm. */
const SAME_PLACE_MM = 1;
/** A shot may lie so far outside the outline, mm: the rod's foot has a width. */
const OUTSIDE_MM = 25;
/** Two shots of one place may differ by this, mm, before one of them must be wrong. */
const SAME_HEIGHT_MM = 0.01;

/** Where shots were taken: the floor's outline and its drain, whose rim is a circle of this radius, mm; 0 where there is none yet. */
export interface SurveyedFloor {
  /** Outline of the floor, mm. */
  footprint: readonly PlanPoint[];
  /** Middle of the drain, mm. */
  drain: PlanPoint;
  /** Radius of the rim of the drain, mm. */
  drainRimMm: number;
  /** Outline of a channel, where the drain is one; it stands instead of the circle. */
  rim?: readonly PlanPoint[] | undefined;
}

/** A length for a sentence. */
const inch = (mm: number): string => `${Math.round((mm / 25.4) * 10) / 10} in`;
/** Where a shot is, for a sentence. */
const placeOf = (s: Shot): string => `${inch(s.xMm)} across, ${inch(s.yMm)} deep`;

/** Whether points lie on one line, within a thousandth of their spread. */
function onOneLine(shots: readonly Shot[]): boolean {
  const n = shots.length;
  const [mx, my] = [shots.reduce((s, p) => s + p.xMm, 0) / n, shots.reduce((s, p) => s + p.yMm, 0) / n];
  let [xx, xy, yy] = [0, 0, 0];
  for (const s of shots) {
    xx += (s.xMm - mx) ** 2;
    xy += (s.xMm - mx) * (s.yMm - my);
    yy += (s.yMm - my) ** 2;
  }
  const spread = xx + yy;
  return spread === 0 || xx * yy - xy * xy < 1e-6 * spread * spread;
}

/** Refuses two shots at one place: which of them would count? */
function twiceAtOnePlace(shots: readonly Shot[]): Outcome<null> {
  for (const [i, a] of shots.entries())
    for (const [j, b] of shots.entries()) {
      if (j <= i || Math.hypot(a.xMm - b.xMm, a.yMm - b.yMm) > SAME_PLACE_MM) continue;
      if (Math.abs(a.zMm - b.zMm) > SAME_HEIGHT_MM)
        return refuse('shots-at-one-place', `shots.${j}`, { first: i + 1, second: j + 1, place: placeOf(b) });
    }
  return done(null);
}

/**
 * Shots that a surface can be made of: three at least, not on a line, on the floor, one height at each place. Those within
 * the drain's rim and those that repeat another one are left out. The first fault is named with its shot and a way out.
 */
export function usableShots(floor: SurveyedFloor, shots: readonly Shot[]): Outcome<Shot[]> {
  const footprintOk = checkFootprint([...floor.footprint]);
  if (!footprintOk.ok) return footprintOk;
  const drainOk = checkDrain([...floor.footprint], floor.drain);
  if (!drainOk.ok) return drainOk;
  for (const [i, s] of shots.entries()) {
    if (![s.xMm, s.yMm, s.zMm].every(Number.isFinite)) return refuse('shot-incomplete', `shots.${i}`, { shot: i + 1 });
    const inside = insidePolygon(s, floor.footprint) || distanceToOutlineMm(s, floor.footprint) <= OUTSIDE_MM;
    if (!inside) return refuse('shot-outside', `shots.${i}`, { shot: i + 1, place: placeOf(s) });
  }
  const twice = twiceAtOnePlace(shots);
  if (!twice.ok) return twice;
  const away = (s: Shot) => Math.hypot(s.xMm - floor.drain.xMm, s.yMm - floor.drain.yMm);
  const inDrain = (s: Shot): boolean => {
    if (floor.rim) return insidePolygon(s, floor.rim) || distanceToOutlineMm(s, floor.rim) <= SAME_PLACE_MM;
    return floor.drainRimMm > 0 && away(s) <= floor.drainRimMm + SAME_PLACE_MM;
  };
  const used = shots.filter(
    (s, i) => !inDrain(s) && shots.findIndex((o) => Math.hypot(o.xMm - s.xMm, o.yMm - s.yMm) <= SAME_PLACE_MM) === i,
  );
  if (used.length < 3) return refuse('shots-too-few', 'shots');
  if (onOneLine(used)) return refuse('shots-on-a-line', 'shots');
  return done(used);
}
