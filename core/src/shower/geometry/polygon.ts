import type { PlanPoint } from './point';

/** Signed area, mm²; above zero when the points run counter-clockwise (shoelace formula). */
export function signedAreaMm2(points: readonly PlanPoint[]): number {
  let twice = 0;
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    twice += p.xMm * q.yMm - q.xMm * p.yMm;
  });
  return twice / 2;
}

function turn(a: PlanPoint, b: PlanPoint, c: PlanPoint): number {
  return (b.xMm - a.xMm) * (c.yMm - a.yMm) - (b.yMm - a.yMm) * (c.xMm - a.xMm);
}

function onSegment(a: PlanPoint, b: PlanPoint, p: PlanPoint): boolean {
  return (
    Math.min(a.xMm, b.xMm) <= p.xMm &&
    p.xMm <= Math.max(a.xMm, b.xMm) &&
    Math.min(a.yMm, b.yMm) <= p.yMm &&
    p.yMm <= Math.max(a.yMm, b.yMm)
  );
}

function meet(a: PlanPoint, b: PlanPoint, c: PlanPoint, d: PlanPoint): boolean {
  const [d1, d2, d3, d4] = [turn(c, d, a), turn(c, d, b), turn(a, b, c), turn(a, b, d)];
  if (d1 * d2 < 0 && d3 * d4 < 0) return true;
  return (
    (d1 === 0 && onSegment(c, d, a)) ||
    (d2 === 0 && onSegment(c, d, b)) ||
    (d3 === 0 && onSegment(a, b, c)) ||
    (d4 === 0 && onSegment(a, b, d))
  );
}

/** True when two segments cross within both; touching ends are no crossing. */
export function segmentsCross(a: PlanPoint, b: PlanPoint, c: PlanPoint, d: PlanPoint): boolean {
  const [d1, d2, d3, d4] = [turn(c, d, a), turn(c, d, b), turn(a, b, c), turn(a, b, d)];
  const touch = 1e-3 * Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm) * Math.hypot(d.xMm - c.xMm, d.yMm - c.yMm);
  return (
    d1 * d2 < 0 &&
    d3 * d4 < 0 &&
    Math.min(Math.abs(d1), Math.abs(d2)) > touch &&
    Math.min(Math.abs(d3), Math.abs(d4)) > touch
  );
}

/** The first pair of edges that cross or touch without being neighbours, or null when the outline is simple. */
export function crossingEdges(points: readonly PlanPoint[]): [number, number] | null {
  const n = points.length;
  for (let i = 0; i < n; i += 1) {
    for (let j = i + 2; j < n; j += 1) {
      if (i === 0 && j === n - 1) continue;
      if (meet(points[i]!, points[i + 1]!, points[j]!, points[(j + 1) % n]!)) return [i, j];
    }
  }
  return null;
}

/** Distance in mm from p to the segment a-b. */
export function distanceToSegmentMm(p: PlanPoint, a: PlanPoint, b: PlanPoint): number {
  const dx = b.xMm - a.xMm;
  const dy = b.yMm - a.yMm;
  const t = Math.max(0, Math.min(1, ((p.xMm - a.xMm) * dx + (p.yMm - a.yMm) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(p.xMm - a.xMm - t * dx, p.yMm - a.yMm - t * dy);
}

/** Least distance in mm from p to the outline. */
export function distanceToOutlineMm(p: PlanPoint, points: readonly PlanPoint[]): number {
  return Math.min(...points.map((a, i) => distanceToSegmentMm(p, a, points[(i + 1) % points.length]!)));
}

/** True when p lies strictly inside the outline (even-odd rule). */
export function insidePolygon(p: PlanPoint, points: readonly PlanPoint[]): boolean {
  let inside = false;
  points.forEach((a, i) => {
    const b = points[(i + 1) % points.length]!;
    if (a.yMm > p.yMm === b.yMm > p.yMm) return;
    if (p.xMm < ((b.xMm - a.xMm) * (p.yMm - a.yMm)) / (b.yMm - a.yMm) + a.xMm) inside = !inside;
  });
  return inside && distanceToOutlineMm(p, points) > 1e-9;
}
