import { wallFrame } from '../geometry/body';
import { dot, minus, type Point2, type Point3 } from '../geometry/point';
import type { ShowerModel } from '../geometry/showerModel';
import type { Seam } from '../seams/seam';

/** One seam as drawn on a panel, true length, from its start; `echo` marks a second drawing of the same seam. */
export interface DrawnSeam {
  seam: string;
  points: Point2[];
  echo: boolean;
}

export interface DrawnFace {
  face: string;
  outline: Point2[];
}

/**
 * One flat part of the unfolded shower in its own coordinates, mm, y up. `letter` names walls and curbs in walking
 * order from the left as seen from inside; walls and curbs stand upright with y = height above the drain rim.
 */
export interface Panel {
  id: string;
  kind: 'wall' | 'plan' | 'curb';
  letter: string | null;
  edge: number | null;
  lengthMm: number;
  faces: DrawnFace[];
  seams: DrawnSeam[];
  points: { element: string; at: Point2; diameterMm: number }[];
  box: { minX: number; minY: number; maxX: number; maxY: number };
}

type Project = (p: Point3) => Point2;

function boxOf(points: readonly Point2[]): Panel['box'] {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}

function panel(part: Omit<Panel, 'box'>): Panel {
  return { ...part, box: boxOf([...part.faces.flatMap((f) => f.outline), ...part.seams.flatMap((s) => s.points)]) };
}

/** Walking order: clockwise, beginning behind the opening, so that the left wall comes first. */
export function walkingOrder(model: ShowerModel): number[] {
  const { edges } = model.geometry;
  const n = edges.length;
  const isOpening = (i: number) => edges[((i % n) + n) % n]!.kind !== 'wall';
  const first = edges.findIndex((_, i) => !isOpening(i) && isOpening(i + 1));
  const start = first < 0 ? n - 1 : first;
  return Array.from({ length: n }, (_, k) => (start - k + n * 2) % n);
}

const draw = (seam: Seam, project: Project, echo = false): DrawnSeam => ({
  seam: seam.id,
  points: seam.points.map(project),
  echo,
});

function wallPanel(model: ShowerModel, edge: number, letter: string): Panel {
  const frame = wallFrame(model.geometry, edge);
  const project: Project = (p) => [dot(minus(p, frame.left), frame.right), p[2]];
  const face = model.faces.find((f) => f.kind === 'wall' && f.edge === edge)!;
  const seams = model.seams.filter((s) => s.faces.includes(face.id) && !s.id.startsWith('curb-wall'));
  const points = [
    ...model.penetrations
      .filter((p) => p.face === face.id)
      .map((p) => ({ element: p.id, at: project(p.point), diameterMm: p.diameterMm })),
  ];
  return panel({
    id: face.id,
    kind: 'wall',
    letter,
    edge,
    lengthMm: frame.lengthMm,
    faces: [{ face: face.id, outline: face.loop.map(project) }],
    seams: seams.map((s) => draw(s, project)),
    points,
  });
}

function planPanel(model: ShowerModel): Panel {
  const project: Project = (p) => [p[0], p[1]];
  const floor = model.faces[0]!;
  const touching = model.seams.filter((s) => s.faces.includes('floor'));
  const corners = model.corners.filter((c) => c.faces.includes('floor'));
  return panel({
    id: 'floor',
    kind: 'plan',
    letter: null,
    edge: null,
    lengthMm: 0,
    faces: [{ face: 'floor', outline: floor.loop.map(project) }],
    seams: touching.map((s) => draw(s, project, s.kind === 'floor-wall')),
    points: [
      { element: model.drain.id, at: project(model.drain.point), diameterMm: model.drain.diameterMm },
      ...corners.map((c) => ({ element: c.id, at: project(c.point), diameterMm: 0 })),
    ],
  });
}

/** The curb laid open as seen from inside: inner face below, then its top, then the outer face. */
function curbPanel(model: ShowerModel, edge: number, letter: string): Panel {
  const g = model.geometry;
  const spec = g.edges[edge]!;
  if (spec.kind !== 'curb') throw new Error(`edge ${edge} is not a curb`);
  const q = g.footprint[(edge + 1) % g.footprint.length]!;
  const p = g.footprint[edge]!;
  const lengthMm = Math.hypot(p.xMm - q.xMm, p.yMm - q.yMm);
  const right: Point3 = [(p.xMm - q.xMm) / lengthMm, (p.yMm - q.yMm) / lengthMm, 0];
  const outward: Point3 = [-right[1], right[0], 0];
  const across = (x: Point3) => Math.max(0, dot(minus(x, [q.xMm, q.yMm, 0]), outward));
  const along = (x: Point3) => dot(minus(x, [q.xMm, q.yMm, 0]), right);
  const { heightMm, widthMm } = spec;
  const project: Project = (x) => {
    const d = across(x);
    const onOuter = d > widthMm - 0.01;
    return [along(x), onOuter ? heightMm + widthMm + (heightMm - x[2]) : x[2] + d];
  };
  const faces = model.faces.filter((f) => f.edge === edge && f.kind.startsWith('curb'));
  const ids = new Set(faces.map((f) => f.id));
  const seams = model.seams.filter((s) => s.faces.some((f) => ids.has(f)));
  const corners = model.corners.filter((c) => c.faces.some((f) => ids.has(f)) && !c.faces.includes('floor'));
  return panel({
    id: `curb:${edge}`,
    kind: 'curb',
    letter,
    edge,
    lengthMm,
    faces: faces.map((f) => ({ face: f.id, outline: f.loop.map(project) })),
    seams: seams.map((s) => draw(s, project)),
    points: corners.map((c) => ({ element: c.id, at: project(c.point), diameterMm: 0 })),
  });
}

/**
 * Lays the shower open: walls upright in walking order, the floor in plan, each curb by itself. Lengths are true
 * within a panel. A seam where two panels meet is drawn on both.
 */
export function unfold(model: ShowerModel): Panel[] {
  const order = walkingOrder(model).filter((i) => model.geometry.edges[i]!.kind !== 'open');
  const letters = new Map(order.map((edge, k) => [edge, String.fromCharCode(65 + k)]));
  const walls = order
    .filter((i) => model.geometry.edges[i]!.kind === 'wall')
    .map((i) => wallPanel(model, i, letters.get(i)!));
  const curbs = order
    .filter((i) => model.geometry.edges[i]!.kind === 'curb')
    .map((i) => curbPanel(model, i, letters.get(i)!));
  return [...walls, planPanel(model), ...curbs];
}

/** Length of a drawn line, mm. */
export function drawnLengthMm(points: readonly Point2[]): number {
  return points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1]), 0);
}
