import { done, type Outcome, refuse } from '../../outcome/outcome';
import type { PlanPoint } from './point';

/** One side as taken with the tape: its length, and the room's angle at its far end. */
export interface TapedSide {
  lengthMm: number;
  /** Degrees inside the room at the end of this side: 90 in a square corner, over 180 at an outside corner. */
  angleDeg: number;
}

/** A room as the tape tells it, side by side. */
export interface Traverse {
  /** Where each side begins; the first at 0, 0, the first side along x. Not closed unless it was spread. */
  points: PlanPoint[];
  /** How far the end of the last side misses the start, mm, and in which direction. */
  closingMm: number;
  closingXMm: number;
  closingYMm: number;
  /** Sum of the angles less what a room of that many corners must have, degrees. */
  angleErrorDeg: number;
  /** Sum of the sides, mm. */
  perimeterMm: number;
}

/**
 * Lays sides end to end, turning left by 180 less the room's angle at each corner (a closed traverse of surveying).
 * Refuses fewer than three sides, a length that is not above zero, and an angle outside 1 to 359 degrees.
 */
export function traverse(sides: readonly TapedSide[]): Outcome<Traverse> {
  if (sides.length < 3) return refuse('sides-too-few', 'sides');
  for (const [i, s] of sides.entries()) {
    if (!(s.lengthMm > 0)) return refuse('side-without-length', `sides.${i}.lengthMm`, { side: i + 1 });
    if (!(s.angleDeg >= 1 && s.angleDeg <= 359)) return refuse('side-angle', `sides.${i}.angleDeg`, { side: i + 1 });
  }
  let [x, y, heading] = [0, 0, 0];
  const points: PlanPoint[] = [];
  for (const s of sides) {
    points.push({ xMm: x, yMm: y });
    x += s.lengthMm * Math.cos(heading);
    y += s.lengthMm * Math.sin(heading);
    heading += Math.PI - (s.angleDeg * Math.PI) / 180;
  }
  const sum = sides.reduce((total, s) => total + s.angleDeg, 0);
  return done({
    points,
    closingMm: Math.hypot(x, y),
    closingXMm: x,
    closingYMm: y,
    angleErrorDeg: sum - 180 * (sides.length - 2),
    perimeterMm: sides.reduce((total, s) => total + s.lengthMm, 0),
  });
}

/**
 * Spreads the closing error over the sides by their length (the compass or Bowditch rule of surveying, from memory),
 * so that the outline closes. Done only when the person asks: a large error is a reading to take again.
 */
export function spreadClosing(open: Traverse, sides: readonly TapedSide[]): PlanPoint[] {
  let run = 0;
  return open.points.map((p, i) => {
    const share = run / open.perimeterMm;
    run += sides[i]!.lengthMm;
    return { xMm: p.xMm - open.closingXMm * share, yMm: p.yMm - open.closingYMm * share };
  });
}

/** How much longer a taped diagonal is than the drawn one between two corners, mm: out of square, or a wrong reading. */
export function diagonalErrorMm(points: readonly PlanPoint[], from: number, to: number, tapedMm: number): number {
  const [a, b] = [points[from]!, points[to]!];
  return tapedMm - Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
}

/** How far a room of four sides is out of square, mm: the difference of its two diagonals. */
export function outOfSquareMm(points: readonly PlanPoint[]): number {
  const across = (i: number, k: number) => Math.hypot(points[k]!.xMm - points[i]!.xMm, points[k]!.yMm - points[i]!.yMm);
  return across(0, 2) - across(1, 3);
}
