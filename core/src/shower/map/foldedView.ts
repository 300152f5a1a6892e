import { faceNormal } from '../geometry/face';
import { direction } from '../geometry/outline';
import { dot, type Point2, type Point3 } from '../geometry/point';
import type { ShowerModel } from '../geometry/showerModel';

/** A face as it is seen, with its openings. */
export interface FoldedFace {
  face: string;
  outline: Point2[];
  holes: Point2[][];
}

/** The shower as it stands, seen through its opening from above: y down, mm. Far faces come first. */
export interface FoldedView {
  faces: FoldedFace[];
  seams: { seam: string; points: Point2[] }[];
  box: { minX: number; minY: number; maxX: number; maxY: number };
}

/** How far the view turns from straight into the opening, and how far it looks down, radians. */
const TURN = 0.42;
const DOWN = 0.5;

/** Where a person stands who looks into the shower: before what is not a full wall, else before the first edge. */
function facing(model: ShowerModel): { x: number; y: number } {
  const g = model.geometry;
  let [x, y] = [0, 0];
  g.edges.forEach((edge, i) => {
    if (edge.kind === 'wall') return;
    const { dx, dy, lengthMm } = direction(g, i);
    x += dy * lengthMm;
    y -= dx * lengthMm;
  });
  const length = Math.hypot(x, y);
  return length < 1 ? { x: 0, y: -1 } : { x: x / length, y: y / length };
}

/** A parallel projection of the built faces that turn their inner side to the viewer, with the seams on them. */
export function foldedView(model: ShowerModel): FoldedView {
  const f = facing(model);
  const [c, s] = [Math.cos(TURN), Math.sin(TURN)];
  const to: Point3 = [(f.x * c - f.y * s) * Math.cos(DOWN), (f.x * s + f.y * c) * Math.cos(DOWN), Math.sin(DOWN)];
  const flat = Math.hypot(to[0], to[1]);
  const right: Point3 = [-to[1] / flat, to[0] / flat, 0];
  const up: Point3 = [(-to[0] * to[2]) / flat, (-to[1] * to[2]) / flat, flat];
  const lay = (p: Point3): Point2 => [dot(p, right), -dot(p, up)];
  const depth = (loop: readonly Point3[]) => loop.reduce((sum, p) => sum + dot(p, to), 0) / loop.length;
  const seen = model.faces.filter((face) => face.kind !== 'outside' && dot(faceNormal(face), to) > 0.01);
  const faces = [...seen]
    .sort((a, b) => depth(a.loop) - depth(b.loop))
    .map((face) => ({ face: face.id, outline: face.loop.map(lay), holes: face.rings.map((ring) => ring.map(lay)) }));
  const ids = new Set(seen.map((face) => face.id));
  const seams = model.seams
    .filter((seam) => seam.faces.some((id) => ids.has(id)))
    .map((seam) => ({ seam: seam.id, points: seam.points.map(lay) }));
  const points = [...faces.flatMap((x) => x.outline), ...seams.flatMap((x) => x.points)];
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const box = { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
  return { faces, seams, box };
}
