import { wallTopZ } from './ceiling';
import { cutOut } from './cutOut';
import { type Face, plainFace } from './face';
import {
  at,
  bodyMm,
  bodyTopMm,
  cornerAt,
  direction,
  edgeAt,
  isStraight,
  outerEnd,
  riseOf,
  WALL_THICKNESS_MM,
} from './outline';
import type { PlanPoint, Point3 } from './point';
import { edgeId, type ShowerGeometry } from './showerGeometry';
import { isLow, onWall, type WallFrame, wallFrame } from './wallFrame';

const plan = (p: Point3): PlanPoint => ({ xMm: p[0], yMm: p[1] });

function topPoint(g: ShowerGeometry, f: WallFrame, u: number): Point3 {
  const foot = onWall(f, u, 0);
  return [foot[0], foot[1], wallTopZ(g, g.edges[f.edge]!, plan(foot))];
}

/** A full wall's outline, with the part that runs on beside a curb or a half wall above it; a half wall's is plain. */
function wallLoop(g: ShowerGeometry, i: number): Point3[] {
  const f = wallFrame(g, i);
  const loop: Point3[] = [onWall(f, 0, 0), onWall(f, f.lengthMm, 0)];
  const side = (neighbour: number, u: number, beyondMm: number, sign: number): Point3[] => {
    if (beyondMm === 0) return [topPoint(g, f, u)];
    const low = bodyTopMm(g, edgeAt(g, neighbour)) - riseOf(g);
    const outerU = u + sign * beyondMm;
    return [onWall(f, u, low), onWall(f, outerU, low), topPoint(g, f, outerU)];
  };
  loop.push(...side(i - 1, f.lengthMm, f.beyondRightMm, 1));
  loop.push(...side(i + 1, 0, f.beyondLeftMm, -1).reverse());
  return loop;
}

/** What stands against a wall and hides a part of it, with the name for what is left below it. */
export interface Contact {
  /** Index of the wall in the footprint. */
  edge: number;
  /** Id of what stands there. */
  by: string;
  /** The part that it hides, mm. */
  loop: Point3[];
}

function wallPieces(g: ShowerGeometry, i: number, mouths: Point3[][], contacts: readonly Contact[]): Face[] {
  const id = `wall:${edgeId(g, i)}`;
  const mine = contacts.filter((c) => c.edge === i);
  const pieces = cutOut(
    { loop: wallLoop(g, i), rings: mouths },
    mine.map((c) => c.loop),
  );
  const top = (loop: readonly Point3[]) => Math.max(...loop.map((p) => p[2]));
  const circles = (g.penetrations ?? []).filter((p) => p.edge === i).length;
  return pieces
    .sort((a, b) => top(b.loop) - top(a.loop))
    .map((piece, k) => {
      const above = mine.find((c) => Math.abs(Math.min(...c.loop.map((p) => p[2])) - top(piece.loop)) < 0.05);
      const name = k === 0 ? id : `${id}:under-${above?.by ?? k + 1}`;
      return { ...plainFace(name, 'wall', i, piece.loop), rings: piece.rings, circles: k === 0 ? circles : 0 };
    });
}

/** The free end of a wall or half wall in the opening, from what stands beside it up to its top. */
function endFace(g: ShowerGeometry, i: number, end: 'left' | 'right'): Face[] {
  const edge = g.edges[i]!;
  const corner = end === 'left' ? i + 1 : i;
  const other = edgeAt(g, end === 'left' ? i + 1 : i - 1);
  const straight = isStraight(g, corner);
  const free = edge.kind === 'half-wall' ? other.kind !== 'wall' : edge.kind === 'wall' && straight && isLow(other);
  if (!free) return [];
  const p = cornerAt(g, corner);
  const top = wallTopZ(g, edge, p);
  const low = other.kind === 'open' ? riseOf(g) : bodyTopMm(g, other);
  if (top <= low + 0.01) return [];
  const own = ownOuter(g, i, end);
  const theirs =
    other.kind === 'open' ? own : outerEnd(g, end === 'left' ? i + 1 : i - 1, end === 'left' ? 'start' : 'stop');
  const reach = (o: PlanPoint) => Math.hypot(o.xMm - p.xMm, o.yMm - p.yMm);
  const foot =
    other.kind === 'open' || reach(own) <= reach(theirs) + 0.02
      ? [at(own, low)]
      : [at(theirs, low), at(theirs, 0), at(own, 0)];
  const loop = [at(p, low), ...foot, at(own, wallTopZ(g, edge, own)), at(p, top)];
  const id = `wall:${edgeId(g, i)}:end-${end}`;
  return [plainFace(id, 'wall-end', i, end === 'right' ? loop : loop.reverse())];
}

function ownOuter(g: ShowerGeometry, i: number, end: 'left' | 'right'): PlanPoint {
  const edge = g.edges[i]!;
  if (edge.kind !== 'wall') return outerEnd(g, i, end === 'left' ? 'stop' : 'start');
  const { dx, dy } = direction(g, i);
  const p = cornerAt(g, end === 'left' ? i + 1 : i);
  const beside = bodyMm(edgeAt(g, end === 'left' ? i + 1 : i - 1));
  const t = edge.thicknessMm ?? (beside > 0 ? beside : WALL_THICKNESS_MM);
  return { xMm: p.xMm + dy * t, yMm: p.yMm - dx * t };
}

function capFace(g: ShowerGeometry, i: number): Face[] {
  const edge = g.edges[i]!;
  if (edge.kind !== 'half-wall') return [];
  const top = riseOf(g) + edge.heightMm;
  const [p, q] = [cornerAt(g, i), cornerAt(g, i + 1)];
  const [o, r] = [outerEnd(g, i, 'start'), outerEnd(g, i, 'stop')];
  return [plainFace(`wall:${edgeId(g, i)}:cap`, 'wall-cap', i, [at(q, top), at(p, top), at(o, top), at(r, top)])];
}

/** The faces of the wall or half wall on edge i: its inner face in one or more pieces, a cap, free ends. */
export function wallFaces(g: ShowerGeometry, i: number, mouths: Point3[][], contacts: readonly Contact[]): Face[] {
  return [...wallPieces(g, i, mouths, contacts), ...capFace(g, i), ...endFace(g, i, 'left'), ...endFace(g, i, 'right')];
}
