import { type Face, type FaceKind, plainFace } from './face';
import { at, bodyMm, cornerAt, edgeAt, isStraight, outerEnd, riseOf } from './outline';
import { edgeId, type ShowerGeometry } from './showerGeometry';

/** Where a curb runs on beside a thinner wall, the end of it that stands out past that wall. */
function stepFace(g: ShowerGeometry, i: number, end: 'left' | 'right'): Face[] {
  const other = edgeAt(g, end === 'left' ? i + 1 : i - 1);
  const corner = end === 'left' ? i + 1 : i;
  const edge = g.edges[i]!;
  if (edge.kind !== 'curb' || other.kind !== 'half-wall' || !isStraight(g, corner)) return [];
  const o = outerEnd(g, i, end === 'left' ? 'stop' : 'start');
  const t = outerEnd(g, end === 'left' ? i + 1 : i - 1, end === 'left' ? 'start' : 'stop');
  const p = cornerAt(g, corner);
  const reach = (x: typeof o) => Math.hypot(x.xMm - p.xMm, x.yMm - p.yMm);
  if (bodyMm(other) === 0 || reach(t) >= reach(o) - 0.02) return [];
  const loop = [at(t, 0), at(o, 0), at(o, edge.heightMm), at(t, edge.heightMm)];
  return [plainFace(`curb:${edgeId(g, i)}:end-${end}`, 'curb-end', i, end === 'right' ? loop : [...loop].reverse())];
}

/** The faces of the curb on edge i: inner, top, outer, and an end where it stands free. */
export function curbFaces(g: ShowerGeometry, i: number): Face[] {
  const edge = g.edges[i]!;
  if (edge.kind !== 'curb') return [];
  const rise = riseOf(g);
  const [p, q] = [cornerAt(g, i), cornerAt(g, i + 1)];
  const [o, r] = [outerEnd(g, i, 'start'), outerEnd(g, i, 'stop')];
  const h = edge.heightMm;
  const face = (part: string, kind: FaceKind, loop: Face['loop']) =>
    plainFace(`curb:${edgeId(g, i)}:${part}`, kind, i, loop);
  const faces = [
    face('inner', 'curb-inner', [at(q, rise), at(p, rise), at(p, h), at(q, h)]),
    face('top', 'curb-top', [at(q, h), at(p, h), at(o, h), at(r, h)]),
    face('outer', 'curb-outer', [at(o, 0), at(r, 0), at(r, h), at(o, h)]),
  ];
  if (edgeAt(g, i + 1).kind === 'open')
    faces.push(face('end-left', 'curb-end', [at(r, 0), at(q, rise), at(q, h), at(r, h)]));
  if (edgeAt(g, i - 1).kind === 'open')
    faces.push(face('end-right', 'curb-end', [at(p, rise), at(o, 0), at(o, h), at(p, h)]));
  return [...faces, ...stepFace(g, i, 'left'), ...stepFace(g, i, 'right')];
}

/** The floor outside the shower that belongs to it: before a curb, or beyond an opening without one. */
export function outsideFloorFaces(g: ShowerGeometry, i: number): Face[] {
  const edge = g.edges[i]!;
  if ((edge.kind !== 'curb' && edge.kind !== 'open') || !edge.outsideMm) return [];
  const z = edge.kind === 'curb' ? 0 : riseOf(g);
  const near = [outerEnd(g, i, 'start'), outerEnd(g, i, 'stop')] as const;
  const far = [outerEnd(g, i, 'start', edge.outsideMm), outerEnd(g, i, 'stop', edge.outsideMm)] as const;
  const loop = [at(far[0], z), at(far[1], z), at(near[1], z), at(near[0], z)];
  return [plainFace(`outside-floor:${edgeId(g, i)}`, 'outside-floor', i, loop)];
}
