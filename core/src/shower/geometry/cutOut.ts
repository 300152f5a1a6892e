import { type Face, loopVector, pointKey, sideKey } from './face';
import { cross, dot, minus, type Point3 } from './point';

/** Points nearer than this to each other, or to a side, are taken as one, mm. */
const SAME_MM = 0.02;

interface Side {
  from: Point3;
  to: Point3;
}

const sidesOf = (loop: readonly Point3[]): Side[] =>
  loop.map((from, i) => ({ from, to: loop[(i + 1) % loop.length]! }));

/** The points that lie inside a side, in its direction; its ends are not among them. */
function pointsWithin(side: Side, points: readonly Point3[]): Point3[] {
  const run = minus(side.to, side.from);
  const length2 = dot(run, run);
  const length = Math.sqrt(length2);
  const found: { t: number; point: Point3 }[] = [];
  for (const point of points) {
    const away = minus(point, side.from);
    const t = dot(away, run) / length2;
    if (t * length < SAME_MM || (1 - t) * length < SAME_MM) continue;
    const off = cross(away, run);
    if (dot(off, off) <= SAME_MM * SAME_MM * length2) found.push({ t, point });
  }
  return found.sort((a, b) => a.t - b.t).map((f) => f.point);
}

function splitSide(side: Side, points: readonly Point3[]): Side[] {
  const stops = [side.from, ...pointsWithin(side, points), side.to];
  return stops.slice(1).map((to, i) => ({ from: stops[i]!, to }));
}

/** Sides end to end as closed loops; where several leave one point the first is taken. */
function chainLoops(sides: readonly Side[]): Point3[][] {
  const leaving = new Map<string, Side[]>();
  for (const side of sides) {
    const key = pointKey(side.from);
    leaving.set(key, [...(leaving.get(key) ?? []), side]);
  }
  const loops: Point3[][] = [];
  for (const start of sides) {
    const loop: Point3[] = [];
    for (let side = leaving.get(pointKey(start.from))?.shift(); side; side = leaving.get(pointKey(side.to))?.shift())
      loop.push(side.from);
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}

/** Points on a straight run carry nothing: they are left out. */
function withoutStraight(loop: readonly Point3[]): Point3[] {
  return loop.filter((p, i) => {
    const a = loop[(i + loop.length - 1) % loop.length]!;
    const b = loop[(i + 1) % loop.length]!;
    return pointsWithin({ from: a, to: b }, [p]).length === 0;
  });
}

function encloses(outer: readonly Point3[], p: Point3): boolean {
  const n = loopVector(outer);
  const drop = [0, 1, 2].reduce((best, k) => (Math.abs(n[k]!) > Math.abs(n[best]!) ? k : best), 0);
  const [x, y] = [0, 1, 2].filter((k) => k !== drop) as [number, number];
  let inside = false;
  for (const { from: a, to: b } of sidesOf(outer)) {
    if (a[y]! > p[y]! !== b[y]! > p[y]! && p[x]! < ((b[x]! - a[x]!) * (p[y]! - a[y]!)) / (b[y]! - a[y]!) + a[x]!)
      inside = !inside;
  }
  return inside;
}

/** One connected part of a face. */
export interface Piece {
  loop: Point3[];
  rings: Point3[][];
}

/**
 * A face less parts of it that something stands against. Each part lies in the face's plane, inside it or on its
 * rim, its loop running as the face's does. Gives the connected pieces that remain; none when all is covered.
 */
export function cutOut(face: Piece, parts: readonly (readonly Point3[])[]): Piece[] {
  if (parts.length === 0) return [face];
  const normal = loopVector(face.loop);
  const reversed = parts.map((part) => [...part].reverse());
  const all = [face.loop, ...face.rings, ...reversed];
  const points = all.flat();
  const sides = all.flatMap(sidesOf).flatMap((side) => splitSide(side, points));
  const count = new Map<string, number>();
  for (const s of sides) count.set(sideKey(s.from, s.to), (count.get(sideKey(s.from, s.to)) ?? 0) + 1);
  const left = sides.filter((s) => !count.has(sideKey(s.to, s.from)));
  const loops = chainLoops(left).map(withoutStraight);
  const outer = loops.filter((loop) => dot(loopVector(loop), normal) > 0);
  const rings = loops.filter((loop) => dot(loopVector(loop), normal) < 0);
  return outer.map((loop) => ({
    loop,
    rings: rings.filter((ring) => outer.length === 1 || encloses(loop, ring[0]!)),
  }));
}

/** Puts points that are the same but for rounding on one place. */
function snapper(): (p: Point3) => Point3 {
  const known = new Map<string, Point3>();
  const cell = (p: Point3, dx = 0, dy = 0, dz = 0) =>
    `${Math.round(p[0] / SAME_MM) + dx},${Math.round(p[1] / SAME_MM) + dy},${Math.round(p[2] / SAME_MM) + dz}`;
  const steps = [0, -1, 1];
  return (p) => {
    const exact = known.get(cell(p));
    if (exact) return exact;
    for (const dx of steps)
      for (const dy of steps)
        for (const dz of steps) {
          const near = known.get(cell(p, dx, dy, dz));
          if (near) return near;
        }
    known.set(cell(p), p);
    return p;
  };
}

/** Gives every side a point wherever another face has one on it, so that each piece of a line has two faces. */
export function shareSides(faces: readonly Face[]): Face[] {
  const snap = snapper();
  const snapped = faces.map((f) => ({ ...f, loop: f.loop.map(snap), rings: f.rings.map((r) => r.map(snap)) }));
  const points = [...new Set(snapped.flatMap((f) => [f.loop, ...f.rings].flat()))];
  const split = (loop: readonly Point3[]) =>
    sidesOf(loop)
      .filter((side) => side.from !== side.to)
      .flatMap((side) => splitSide(side, points).map((s) => s.from));
  return snapped.map((f) => ({ ...f, loop: split(f.loop), rings: f.rings.map(split) }));
}
