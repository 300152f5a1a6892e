import { benchContacts, benchFaces, benchFootprint } from './bench';
import { ceilingFaces } from './ceiling';
import { curbFaces, outsideFloorFaces } from './curbFaces';
import { cutOut, shareSides } from './cutOut';
import { type Face, type HalfEdge, halfEdges, plainFace, pointKey, sideKey } from './face';
import { nicheFaces, nicheMouth } from './nicheFaces';
import { at, riseOf } from './outline';
import type { Point3 } from './point';
import type { ShowerGeometry } from './showerGeometry';
import { wallFaces } from './wallFaces';
import { isWall } from './wallFrame';

/** Loops that run along what the built faces leave open; each becomes one closing face. */
function openLoops(faces: readonly Face[]): Point3[][] {
  const all = faces.flatMap(halfEdges);
  const present = new Set(all.map((h) => sideKey(h.from, h.to)));
  const next = new Map<string, HalfEdge[]>();
  for (const h of all)
    if (!present.has(sideKey(h.to, h.from))) next.set(pointKey(h.to), [...(next.get(pointKey(h.to)) ?? []), h]);
  const loops: Point3[][] = [];
  for (const start of [...next.keys()]) {
    const loop: Point3[] = [];
    for (let h = next.get(start)?.shift(); h; h = next.get(pointKey(h.from))?.shift()) loop.push(h.to);
    if (loop.length > 0) loops.push(loop);
  }
  return loops;
}

function floorFaces(g: ShowerGeometry): Face[] {
  const loop = g.footprint.map((p) => at(p, riseOf(g)));
  const hidden = (g.benches ?? []).flatMap((bench) => benchFootprint(g, bench));
  return cutOut({ loop, rings: [] }, hidden).map((piece, k) => ({
    ...plainFace(k === 0 ? 'floor' : `floor:${k + 1}`, 'floor', null, piece.loop),
    rings: piece.rings,
    circles: k === 0 ? 1 : 0,
  }));
}

/** Every face of a checked shower, floor first, then walls, curbs, niches, benches, ceiling, and the closing faces. */
export function buildFaces(g: ShowerGeometry): Face[] {
  const niches = g.niches ?? [];
  const benches = g.benches ?? [];
  const contacts = benches.flatMap((bench) => benchContacts(g, bench));
  const built = floorFaces(g);
  g.edges.forEach((edge, i) => {
    const mouths = niches.filter((niche) => niche.edge === i).map((niche) => nicheMouth(g, niche));
    if (isWall(edge)) built.push(...wallFaces(g, i, mouths, contacts));
    built.push(...curbFaces(g, i), ...outsideFloorFaces(g, i));
  });
  for (const niche of niches) built.push(...nicheFaces(g, niche));
  for (const bench of benches) built.push(...benchFaces(g, bench));
  built.push(...ceilingFaces(g));
  const faces = shareSides(built);
  openLoops(faces).forEach((loop, k) => {
    faces.push(plainFace(k === 0 ? 'outside' : `outside:${k + 1}`, 'outside', null, loop));
  });
  return faces;
}

/** Vertices, edges, faces, rings and handles of the built body: v - e + f - r = 2 (1 - g) holds for every sound one. */
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
