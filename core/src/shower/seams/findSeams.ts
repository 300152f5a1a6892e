import { type Face, faceNormal, type HalfEdge, halfEdges, pointKey, sideKey } from '../geometry/face';
import { cross, distance3, dot, minus, type Point3 } from '../geometry/point';
import type { ShowerGeometry } from '../geometry/showerGeometry';
import { type Corner, type CornerKind, makeSeam, type Seam, type SeamKind } from './seam';
import { wallLineSeams } from './wallLines';

const isUpright = (a: Point3, b: Point3): boolean => Math.abs(b[2] - a[2]) > 0.7 * distance3(a, b);

const PAIRS: Record<string, SeamKind> = {
  'floor|wall': 'floor-wall',
  'curb-inner|floor': 'curb-floor',
  'curb-inner|wall': 'curb-wall',
  'curb-top|wall': 'curb-wall',
  'curb-outer|wall': 'curb-wall',
  'curb-inner|curb-top': 'curb-top-edge',
  'curb-outer|curb-top': 'curb-top-edge',
  'curb-inner|curb-inner': 'curb-curb',
  'curb-top|curb-top': 'curb-curb',
  'curb-outer|curb-outer': 'curb-curb',
  'niche|wall': 'niche-mouth',
  'niche-shelf|wall': 'niche-mouth',
  'niche|niche': 'niche-edge',
  'niche|niche-shelf': 'niche-shelf',
  'niche-shelf|niche-shelf': 'niche-shelf-edge',
  'floor|outside': 'open-edge',
  'floor|outside-floor': 'open-edge',
  'curb-outer|outside-floor': 'curb-outside-floor',
  'ceiling|wall': 'wall-ceiling',
  'ceiling|wall-end': 'wall-ceiling',
  'ceiling|outside': 'ceiling-edge',
  'outside|outside-floor': 'outside-floor-edge',
  'outside-floor|wall-end': 'floor-wall',
  'floor|wall-end': 'floor-wall',
  'wall|wall-cap': 'cap-edge',
  'wall|wall-end': 'cap-edge',
  'wall-cap|wall-end': 'cap-edge',
  'wall-cap|wall-cap': 'cap-edge',
  'wall-end|wall-end': 'cap-edge',
  'curb-inner|wall-end': 'curb-wall',
  'curb-top|wall-end': 'curb-wall',
  'curb-outer|wall-end': 'curb-wall',
  'curb-end|wall-end': 'curb-wall',
};

/** Pairs of a part with anything else of one kind. */
function partKind(a: Face, b: Face): SeamKind | null {
  const kinds = [a.kind, b.kind];
  if (!kinds.some((k) => k.startsWith('bench'))) return null;
  if (kinds.every((k) => k.startsWith('bench'))) return 'bench-edge';
  return kinds.includes('floor') ? 'bench-floor' : 'bench-wall';
}

function closingKind(g: ShowerGeometry, face: Face, upright: boolean): SeamKind {
  const other = face.kind;
  const edge = face.edge === null ? null : g.edges[face.edge];
  if (other === 'wall' && !upright && edge?.kind === 'wall' && edge.keptAbove) return 'transition';
  if (other === 'curb-outer') return upright ? 'curb-wall' : 'curb-outside-floor';
  if (other === 'curb-end') return 'curb-end-edge';
  return upright ? 'side-termination' : 'top-termination';
}

/** An inside corner (b turns towards the shower's inside as seen from a), an outside one, or no corner at all. */
function foldOf(a: Face, b: Face, alongB: HalfEdge): 'inside' | 'outside' | 'flat' {
  const along = minus(alongB.to, alongB.from);
  const turn = dot(cross(faceNormal(b), along), faceNormal(a)) / Math.sqrt(dot(along, along));
  if (Math.abs(turn) < 0.05) return 'flat';
  return turn > 0 ? 'inside' : 'outside';
}

function kindOf(g: ShowerGeometry, a: Face, b: Face, h: HalfEdge): SeamKind {
  if (a.kind === 'wall' && b.kind === 'wall')
    return foldOf(b, a, h) === 'outside' ? 'wall-wall-outside' : 'wall-wall-inside';
  // The cap is an edge of its own half wall, and stands against the wall beside it.
  if (a.edge !== b.edge && [a, b].some((f) => f.kind === 'wall-cap') && [a, b].some((f) => f.kind === 'wall'))
    return 'cap-wall';
  const part = partKind(a, b);
  if (part && a.kind !== 'outside' && b.kind !== 'outside') return part;
  const found = PAIRS[[a.kind, b.kind].sort().join('|')];
  if (found) return found;
  if (a.kind === 'outside') return closingKind(g, b, isUpright(h.from, h.to));
  if (b.kind === 'outside') return closingKind(g, a, isUpright(h.from, h.to));
  return 'curb-end-edge';
}

/** Start of a seam: lower end when upright, else the left end as seen from inside, else the end nearer the drain. */
function startsAt(g: ShowerGeometry, faces: readonly Face[], a: Point3, b: Point3): boolean {
  if (isUpright(a, b)) return a[2] <= b[2];
  const face = faces.find((f) => f.kind === 'wall' || f.kind === 'niche') ?? faces.find((f) => f.edge !== null);
  const n = g.footprint.length;
  const [p, q] = [g.footprint[face?.edge ?? 0]!, g.footprint[((face?.edge ?? 0) + 1) % n]!];
  const toRight: Point3 = [p.xMm - q.xMm, p.yMm - q.yMm, 0];
  const along = dot(minus(b, a), toRight) / Math.sqrt(dot(toRight, toRight));
  if (Math.abs(along) > 0.5 * distance3(a, b)) return along > 0;
  const far = (x: Point3) => Math.hypot(x[0] - g.drain.xMm, x[1] - g.drain.yMm);
  return far(a) <= far(b);
}

interface Piece {
  kind: SeamKind;
  faces: [Face, Face];
  from: Point3;
  to: Point3;
}

/** Joins pieces end to end into lines. */
function chain(pieces: Piece[]): Point3[][] {
  const lines: Point3[][] = [];
  const rest = [...pieces];
  while (rest.length > 0) {
    const first = rest.shift()!;
    const points = [first.from, first.to];
    for (let i = 0; i < rest.length; i += 1) {
      const { from, to } = rest[i]!;
      const [head, tail] = [pointKey(points[0]!), pointKey(points.at(-1)!)];
      if (pointKey(from) === tail) points.push(to);
      else if (pointKey(to) === tail) points.push(from);
      else if (pointKey(to) === head) points.unshift(from);
      else if (pointKey(from) === head) points.unshift(to);
      else continue;
      rest.splice(i, 1);
      i = -1;
    }
    lines.push(points);
  }
  return lines;
}

/** Which faces meet at each corner point of the body. */
function facesAtPoints(faces: readonly Face[]): Map<string, { point: Point3; ids: Set<string> }> {
  const found = new Map<string, { point: Point3; ids: Set<string> }>();
  for (const face of faces) {
    for (const point of [face.loop, ...face.rings].flat()) {
      const key = pointKey(point);
      const here = found.get(key) ?? { point, ids: new Set<string>() };
      here.ids.add(face.id);
      found.set(key, here);
    }
  }
  return found;
}

function surfacePieces(g: ShowerGeometry, faces: readonly Face[]): Piece[] {
  const byId = new Map(faces.map((f) => [f.id, f]));
  const twins = new Map(faces.flatMap(halfEdges).map((h) => [sideKey(h.from, h.to), h]));
  const pieces: Piece[] = [];
  for (const h of twins.values()) {
    const twin = twins.get(sideKey(h.to, h.from));
    if (!twin || h.face > twin.face) continue;
    const [a, b] = [byId.get(h.face)!, byId.get(twin.face)!];
    if (a.kind === 'outside' && b.kind === 'outside') continue;
    pieces.push({ kind: kindOf(g, a, b, h), faces: [a, b], from: h.from, to: h.to });
  }
  return pieces;
}

function surfaceSeams(g: ShowerGeometry, faces: readonly Face[]): Seam[] {
  const at = facesAtPoints(faces);
  const groups = new Map<string, Piece[]>();
  for (const piece of surfacePieces(g, faces)) {
    const key = `${piece.kind}|${piece.faces
      .map((f) => f.id)
      .sort()
      .join('|')}`;
    groups.set(key, [...(groups.get(key) ?? []), piece]);
  }
  const seams: Seam[] = [];
  for (const [key, pieces] of groups) {
    const { kind, faces: pair } = pieces[0]!;
    const lines = chain(pieces).map((points) =>
      startsAt(g, pair, points[0]!, points.at(-1)!) ? points : [...points].reverse(),
    );
    lines.sort((a, b) => (startsAt(g, pair, a[0]!, b[0]!) ? -1 : 1));
    lines.forEach((points, k) => {
      const startKey = [...(at.get(pointKey(points[0]!))?.ids ?? [])].sort().join('+');
      const ids = pair.map((f) => f.id).sort();
      seams.push(makeSeam(lines.length > 1 ? `${key}|${k + 1}` : key, kind, ids, points, startKey));
    });
  }
  return seams;
}

/** Every seam of the shower once: where faces meet, then board joints and sheet laps of each wall. */
export function findSeams(g: ShowerGeometry, faces: readonly Face[]): Seam[] {
  return [...surfaceSeams(g, faces), ...g.edges.flatMap((_, i) => wallLineSeams(g, i))];
}

function cornerKind(ids: ReadonlySet<string>, point: string, faces: readonly Face[]): CornerKind {
  const here = faces.filter((f) => ids.has(f.id));
  const sides = here.flatMap((f) => halfEdges(f)).filter((h) => pointKey(h.from) === point || pointKey(h.to) === point);
  const byFace = new Map(here.map((f) => [f.id, f]));
  const folds = new Set<'inside' | 'outside'>();
  for (const h of sides) {
    const twin = sides.find((t) => pointKey(t.from) === pointKey(h.to) && pointKey(t.to) === pointKey(h.from));
    const fold = twin ? foldOf(byFace.get(twin.face)!, byFace.get(h.face)!, h) : 'flat';
    if (fold !== 'flat') folds.add(fold);
  }
  if (folds.size === 2) return 'mixed';
  return folds.has('inside') ? 'inside' : 'outside';
}

/** Every corner: a point where at least three built faces meet (closing faces don't count). */
export function findCorners(faces: readonly Face[]): Corner[] {
  const built = faces.filter((f) => f.kind !== 'outside');
  const corners: Corner[] = [];
  const seen = new Map<string, number>();
  for (const [key, { point, ids }] of facesAtPoints(built)) {
    if (ids.size < 3) continue;
    const sorted = [...ids].sort();
    const base = `corner|${sorted.join('|')}`;
    const count = (seen.get(base) ?? 0) + 1;
    seen.set(base, count);
    corners.push({
      id: count > 1 ? `${base}|${count}` : base,
      kind: cornerKind(ids, key, built),
      faces: sorted,
      point,
    });
  }
  return corners;
}
