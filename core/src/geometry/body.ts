import { cross, dot, minus, type PlanPoint, type Point3 } from './point';
import { edgeId, type Niche, type ShowerGeometry } from './showerGeometry';

export const FACE_KINDS = [
  'floor',
  'wall',
  'curb-inner',
  'curb-top',
  'curb-outer',
  'curb-end',
  'niche',
  'outside',
] as const;
export type FaceKind = (typeof FACE_KINDS)[number];

/**
 * A face of the shower's surface. `loop` runs counter-clockwise as seen from inside the shower; `rings` are openings
 * in it (niche mouths), clockwise. `circles` counts round openings (pipes, drain), each closed by a cap.
 * `outside` faces are not built: they close what stands open, so that the surface bounds one body.
 */
export interface Face {
  id: string;
  kind: FaceKind;
  /** Index of the footprint edge it stands on, or null for floor and closing faces. */
  edge: number | null;
  loop: Point3[];
  rings: Point3[][];
  circles: number;
}

/** A wall's own frame: `left` is its left end at the foot as seen from inside; `right` a unit vector along it. */
export interface WallFrame {
  edge: number;
  left: Point3;
  right: Point3;
  outward: Point3;
  lengthMm: number;
  /** How far the wall runs on beside a curb, past its footprint end. */
  beyondLeftMm: number;
  beyondRightMm: number;
  heightMm: number;
}

const at = (p: PlanPoint, zMm: number): Point3 => [p.xMm, p.yMm, zMm];

function line(g: ShowerGeometry, i: number) {
  const n = g.footprint.length;
  const edge = g.edges[(i + n) % n]!;
  const a = g.footprint[(i + n) % n]!;
  const b = g.footprint[(i + 1 + n) % n]!;
  const length = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  const dx = (b.xMm - a.xMm) / length;
  const dy = (b.yMm - a.yMm) / length;
  const off = edge.kind === 'curb' ? edge.widthMm : 0;
  return { edge, dx, dy, x: a.xMm + dy * off, y: a.yMm - dx * off, length };
}

/** Where the outer planes of the edges before and after corner i meet; the corner itself between two walls. */
function outerCorner(g: ShowerGeometry, i: number): PlanPoint {
  const before = line(g, i - 1);
  const after = line(g, i);
  const det = before.dx * after.dy - before.dy * after.dx;
  if (Math.abs(det) < 1e-9) return { xMm: after.x, yMm: after.y };
  const t = ((after.x - before.x) * after.dy - (after.y - before.y) * after.dx) / det;
  return { xMm: before.x + t * before.dx, yMm: before.y + t * before.dy };
}

/** The frame of the wall on edge i, mm. Throws when the edge is no wall. */
export function wallFrame(g: ShowerGeometry, i: number): WallFrame {
  const n = g.footprint.length;
  const edge = g.edges[i]!;
  if (edge.kind !== 'wall') throw new Error(`edge ${i} is not a wall`);
  const here = line(g, i);
  const p = g.footprint[i]!;
  const q = g.footprint[(i + 1) % n]!;
  const beyond = (corner: number, foot: PlanPoint) => {
    const o = outerCorner(g, corner);
    return Math.hypot(o.xMm - foot.xMm, o.yMm - foot.yMm);
  };
  return {
    edge: i,
    left: at(q, g.perimeterRiseMm ?? 0),
    right: [-here.dx, -here.dy, 0],
    outward: [here.dy, -here.dx, 0],
    lengthMm: here.length,
    beyondLeftMm: g.edges[(i + 1) % n]!.kind === 'curb' ? beyond((i + 1) % n, q) : 0,
    beyondRightMm: g.edges[(i + n - 1) % n]!.kind === 'curb' ? beyond(i, p) : 0,
    heightMm: edge.heightMm,
  };
}

/** A point of a wall: u mm to the right of its left end, v mm above its foot, d mm behind its face. */
export function onWall(f: WallFrame, u: number, v: number, d = 0): Point3 {
  return [f.left[0] + f.right[0] * u + f.outward[0] * d, f.left[1] + f.right[1] * u + f.outward[1] * d, f.left[2] + v];
}

function wallLoop(g: ShowerGeometry, i: number): Point3[] {
  const n = g.footprint.length;
  const f = wallFrame(g, i);
  const rise = g.perimeterRiseMm ?? 0;
  const loop: Point3[] = [onWall(f, 0, 0), onWall(f, f.lengthMm, 0)];
  const side = (neighbour: number, u: number, outerU: number): Point3[] => {
    const other = g.edges[neighbour]!;
    if (other.kind === 'curb')
      return [
        onWall(f, u, other.heightMm - rise),
        onWall(f, outerU, other.heightMm - rise),
        onWall(f, outerU, f.heightMm),
      ];
    if (other.kind === 'wall' && other.heightMm < f.heightMm)
      return [onWall(f, u, other.heightMm), onWall(f, u, f.heightMm)];
    return [onWall(f, u, f.heightMm)];
  };
  loop.push(...side((i + n - 1) % n, f.lengthMm, f.lengthMm + f.beyondRightMm));
  loop.push(...side((i + 1) % n, 0, -f.beyondLeftMm).reverse());
  return loop;
}

function curbFaces(g: ShowerGeometry, i: number): Face[] {
  const edge = g.edges[i]!;
  if (edge.kind !== 'curb') return [];
  const n = g.footprint.length;
  const rise = g.perimeterRiseMm ?? 0;
  const [p, q] = [g.footprint[i]!, g.footprint[(i + 1) % n]!];
  const [o, r] = [outerCorner(g, i), outerCorner(g, (i + 1) % n)];
  const h = edge.heightMm;
  const face = (part: string, kind: FaceKind, loop: Point3[]): Face => ({
    id: `curb:${edgeId(g, i)}:${part}`,
    kind,
    edge: i,
    loop,
    rings: [],
    circles: 0,
  });
  const faces = [
    face('inner', 'curb-inner', [at(q, rise), at(p, rise), at(p, h), at(q, h)]),
    face('top', 'curb-top', [at(q, h), at(p, h), at(o, h), at(r, h)]),
    face('outer', 'curb-outer', [at(o, 0), at(r, 0), at(r, h), at(o, h)]),
  ];
  if (g.edges[(i + 1) % n]!.kind === 'open')
    faces.push(face('end-left', 'curb-end', [at(r, 0), at(q, rise), at(q, h), at(r, h)]));
  if (g.edges[(i + n - 1) % n]!.kind === 'open')
    faces.push(face('end-right', 'curb-end', [at(p, rise), at(o, 0), at(o, h), at(p, h)]));
  return faces;
}

function nicheFaces(g: ShowerGeometry, niche: Niche): Face[] {
  const f = wallFrame(g, niche.edge);
  const [l, r, s, t] = [niche.alongMm, niche.alongMm + niche.widthMm, niche.sillMm, niche.sillMm + niche.heightMm];
  const front = (u: number, v: number) => onWall(f, u, v);
  const back = (u: number, v: number) => onWall(f, u, v, niche.depthMm);
  const face = (part: string, loop: Point3[]): Face => ({
    id: `niche:${niche.id}:${part}`,
    kind: 'niche',
    edge: niche.edge,
    loop,
    rings: [],
    circles: 0,
  });
  return [
    face('back', [back(l, s), back(r, s), back(r, t), back(l, t)]),
    face('sill', [front(l, s), front(r, s), back(r, s), back(l, s)]),
    face('head', [back(l, t), back(r, t), front(r, t), front(l, t)]),
    face('left', [front(l, s), back(l, s), back(l, t), front(l, t)]),
    face('right', [back(r, s), front(r, s), front(r, t), back(r, t)]),
  ];
}

/** The mouth of a niche in its wall, clockwise as seen from inside. */
function nicheMouth(g: ShowerGeometry, niche: Niche): Point3[] {
  const f = wallFrame(g, niche.edge);
  const [l, r, s, t] = [niche.alongMm, niche.alongMm + niche.widthMm, niche.sillMm, niche.sillMm + niche.heightMm];
  return [onWall(f, l, s), onWall(f, l, t), onWall(f, r, t), onWall(f, r, s)];
}

/** One directed side of a face's outline. */
export interface HalfEdge {
  face: string;
  from: Point3;
  to: Point3;
}

/** Corner points within a hundredth of a millimetre are the same point. */
export function pointKey(p: Point3): string {
  return `${Math.round(p[0] * 100)},${Math.round(p[1] * 100)},${Math.round(p[2] * 100)}`;
}

/** The sides of a face in the direction of its outline, those of its rings after. */
export function halfEdges(face: Face): HalfEdge[] {
  return [face.loop, ...face.rings].flatMap((loop) =>
    loop.map((from, i) => ({ face: face.id, from, to: loop[(i + 1) % loop.length]! })),
  );
}

/** Names a directed side by its two ends, to a hundredth of a millimetre. */
export const sideKey = (from: Point3, to: Point3): string => `${pointKey(from)}>${pointKey(to)}`;

/** Loops that run along what the built faces leave open; each becomes one closing face. */
function openLoops(faces: readonly Face[]): Point3[][] {
  const all = faces.flatMap(halfEdges);
  const present = new Set(all.map((h) => sideKey(h.from, h.to)));
  const next = new Map<string, HalfEdge>();
  for (const h of all) if (!present.has(sideKey(h.to, h.from))) next.set(pointKey(h.to), h);
  const loops: Point3[][] = [];
  while (next.size > 0) {
    const [start] = next.keys();
    const loop: Point3[] = [];
    for (let key = start!; next.has(key); ) {
      const h = next.get(key)!;
      next.delete(key);
      loop.push(h.to);
      key = pointKey(h.from);
    }
    loops.push(loop);
  }
  return loops;
}

/** Every face of a checked shower, floor first, then walls, curbs, niches, and the closing faces. */
export function buildFaces(g: ShowerGeometry): Face[] {
  const rise = g.perimeterRiseMm ?? 0;
  const floor: Face = {
    id: 'floor',
    kind: 'floor',
    edge: null,
    loop: g.footprint.map((p) => at(p, rise)),
    rings: [],
    circles: 1,
  };
  const faces: Face[] = [floor];
  g.edges.forEach((edge, i) => {
    if (edge.kind === 'wall') {
      const niches = (g.niches ?? []).filter((niche) => niche.edge === i);
      const circles = (g.penetrations ?? []).filter((p) => p.edge === i).length;
      faces.push({
        id: `wall:${edgeId(g, i)}`,
        kind: 'wall',
        edge: i,
        loop: wallLoop(g, i),
        rings: niches.map((x) => nicheMouth(g, x)),
        circles,
      });
    }
    faces.push(...curbFaces(g, i));
  });
  for (const niche of g.niches ?? []) faces.push(...nicheFaces(g, niche));
  openLoops(faces).forEach((loop, k) => {
    faces.push({
      id: k === 0 ? 'outside' : `outside:${k + 1}`,
      kind: 'outside',
      edge: null,
      loop,
      rings: [],
      circles: 0,
    });
  });
  return faces;
}

/** Unit normal of a face, pointing into the shower (Newell's method). The floor's is straight up. */
export function faceNormal(face: Face): Point3 {
  let n: Point3 = [0, 0, 0];
  const origin = face.loop[0]!;
  face.loop.forEach((a, i) => {
    const b = face.loop[(i + 1) % face.loop.length]!;
    const c = cross(minus(a, origin), minus(b, origin));
    n = [n[0] + c[0], n[1] + c[1], n[2] + c[2]];
  });
  const length = Math.sqrt(dot(n, n));
  return [n[0] / length, n[1] / length, n[2] / length];
}

function loopAreaMm2(loop: readonly Point3[]): number {
  let n: Point3 = [0, 0, 0];
  loop.forEach((a, i) => {
    const b = loop[(i + 1) % loop.length]!;
    const c = cross(minus(a, loop[0]!), minus(b, loop[0]!));
    n = [n[0] + c[0], n[1] + c[1], n[2] + c[2]];
  });
  return Math.sqrt(dot(n, n)) / 2;
}

/** Area in mm² less niche mouths; pipes and the drain are not taken off; the floor is measured in plan. */
export function faceAreaMm2(face: Face): number {
  return loopAreaMm2(face.loop) - face.rings.reduce((sum, ring) => sum + loopAreaMm2(ring), 0);
}

export interface EulerCount {
  v: number;
  e: number;
  f: number;
  r: number;
  g: number;
}

/**
 * Counts the closed body: v − e + f − r = 2(1 − g) (Euler-Poincaré). A round opening counts as one vertex, one edge,
 * one ring in its face and one cap. Throws when a side is not shared by exactly two faces: that would be our bug.
 */
export function countEuler(faces: readonly Face[]): EulerCount {
  const sides = new Map<string, number>();
  const points = new Set<string>();
  for (const h of faces.flatMap(halfEdges)) {
    points.add(pointKey(h.from));
    const key = sideKey(h.from, h.to);
    sides.set(key, (sides.get(key) ?? 0) + 1);
  }
  for (const [key, count] of sides) {
    const [from, to] = key.split('>');
    if (count !== 1 || sides.get(`${to}>${from}`) !== 1)
      throw new Error(`side ${key} is not shared by exactly two faces`);
  }
  const circles = faces.reduce((sum, face) => sum + face.circles, 0);
  const rings = faces.reduce((sum, face) => sum + face.rings.length, 0);
  return { v: points.size + circles, e: sides.size / 2 + circles, f: faces.length + circles, r: rings + circles, g: 0 };
}
