import { type Face, plainFace } from './face';
import { at, cornerAt, direction, edgeAt, isStraight, outerEnd, riseOf } from './outline';
import type { PlanPoint, Point3 } from './point';
import type { Edge, ShowerGeometry } from './showerGeometry';

/** Height of the ceiling over the drain rim at a place in plan, mm; null without one. */
export function ceilingZ(g: ShowerGeometry, p: PlanPoint): number | null {
  const { ceiling } = g;
  if (!ceiling) return null;
  const low = riseOf(g) + ceiling.heightMm;
  if (ceiling.kind === 'flat') return low;
  const { dx, dy } = direction(g, ceiling.lowEdge);
  const a = cornerAt(g, ceiling.lowEdge);
  return low + ceiling.slope * ((p.yMm - a.yMm) * dx - (p.xMm - a.xMm) * dy);
}

/** Height of a full wall's top over the drain rim at a place in plan, mm: a waterproof ceiling takes it up to itself. */
export function wallTopZ(g: ShowerGeometry, edge: Edge, p: PlanPoint): number {
  const under = g.ceiling?.waterproof && edge.kind === 'wall' ? ceilingZ(g, p) : null;
  return under ?? riseOf(g) + ('heightMm' in edge ? edge.heightMm : 0);
}

/** The ceiling as a face where it is waterproofed: over the floor and out to the outer side of curbs and half walls. */
export function ceilingFaces(g: ShowerGeometry): Face[] {
  if (!g.ceiling?.waterproof) return [];
  const outline: PlanPoint[] = [];
  g.footprint.forEach((_, k) => {
    const [before, after] = [edgeAt(g, k - 1), edgeAt(g, k)];
    if (!isStraight(g, k)) {
      outline.push(outerEnd(g, k, 'start'));
      return;
    }
    const p = cornerAt(g, k);
    outline.push(before.kind === 'wall' ? p : outerEnd(g, k - 1, 'stop'));
    outline.push(after.kind === 'wall' ? p : outerEnd(g, k, 'start'));
  });
  const loop: Point3[] = outline
    .filter((p, i) => {
      const before = outline[(i + outline.length - 1) % outline.length]!;
      return Math.hypot(p.xMm - before.xMm, p.yMm - before.yMm) > 0.02;
    })
    .map((p) => at(p, ceilingZ(g, p)!))
    .reverse();
  return [plainFace('ceiling', 'ceiling', null, loop)];
}
