import { cornerAt, direction } from '../geometry/outline';
import type { Point3 } from '../geometry/point';
import { edgeId } from '../geometry/showerGeometry';
import type { ShowerModel } from '../geometry/showerModel';
import { pointOnSeam } from '../seams/seam';
import { walkingOrder } from './unfold';

/** What a person takes for one thing: a niche is one, not its five faces. */
export const THING_KINDS = ['drain', 'floor', 'wall', 'niche', 'bench', 'curb', 'ceiling', 'shower'] as const;
/** One of them. */
export type ThingKind = (typeof THING_KINDS)[number];

/** A thing of a shower with all that can be checked on it, in the order in which a person comes to it. */
export interface Thing {
  /** Its kind with the id of its part, such as `wall:b` or `niche:1`. */
  id: string;
  /** What it is. */
  kind: ThingKind;
  /** Ids of its elements: faces, seams, corners, openings. Each element of a shower belongs to one thing. */
  elements: string[];
}

/** The element that stands for the shower as one. */
const WHOLE = 'shower';
/** Where two things share a seam or a corner it is looked at with the first of these. */
const PRECEDENCE: readonly ThingKind[] = ['niche', 'bench', 'curb', 'wall', 'ceiling', 'floor', 'drain', 'shower'];
/** Lines and corners whose middles stand as near each other are met together, mm. */
const TOGETHER_MM = 20;

/** The edge that a bench or a niche stands at, as its faces tell; null for what stands at none. */
const edgeOfPart = (model: ShowerModel, part: string): number | null =>
  model.faces.find((f) => f.edge !== null && f.id.startsWith(`${part}:`))?.edge ?? null;

/** The things of a shower in the order in which a person turns in it, without their elements. */
function emptyThings(model: ShowerModel): Thing[] {
  const g = model.geometry;
  const things: Thing[] = [
    { id: model.drain.id, kind: 'drain', elements: [] },
    { id: 'floor', kind: 'floor', elements: [] },
  ];
  const parts: Thing[] = [
    ...(g.niches ?? []).map((n): Thing => ({ id: `niche:${n.id}`, kind: 'niche', elements: [] })),
    ...(g.benches ?? []).map((b): Thing => ({ id: `bench:${b.id}`, kind: 'bench', elements: [] })),
  ];
  for (const edge of walkingOrder(model)) {
    const { kind } = g.edges[edge]!;
    if (kind === 'open') continue;
    const of = kind === 'curb' ? 'curb' : 'wall';
    things.push({ id: `${of}:${edgeId(g, edge)}`, kind: of, elements: [] });
    things.push(...parts.filter((part) => edgeOfPart(model, part.id) === edge));
  }
  things.push(...parts.filter((part) => !things.includes(part)));
  things.push({ id: 'ceiling', kind: 'ceiling', elements: [] }, { id: WHOLE, kind: 'shower', elements: [] });
  return things;
}

/** The thing that a face is a part of. */
function thingOfFace(face: string): string {
  const [kind, id] = face.split(':');
  if (kind === 'wall' || kind === 'curb' || kind === 'niche' || kind === 'bench') return `${kind}:${id}`;
  return kind === 'ceiling' ? 'ceiling' : 'floor';
}

/** All elements with the faces that they lie on and their middle; a face lies on itself. */
function elementsOf(model: ShowerModel): { id: string; faces: readonly string[]; middle: Point3 }[] {
  const mean = (loop: readonly Point3[]): Point3 => {
    const sum = loop.reduce<Point3>((s, p) => [s[0] + p[0], s[1] + p[1], s[2] + p[2]], [0, 0, 0]);
    return [sum[0] / loop.length, sum[1] / loop.length, sum[2] / loop.length];
  };
  return [
    ...model.faces.filter((f) => f.kind !== 'outside').map((f) => ({ id: f.id, faces: [f.id], middle: mean(f.loop) })),
    ...model.seams.map((s) => ({ id: s.id, faces: s.faces, middle: pointOnSeam(s.points, s.lengthMm / 2) })),
    ...model.corners.map((c) => ({ id: c.id, faces: c.faces, middle: c.point })),
    ...model.penetrations.map((p) => ({ id: p.id, faces: [p.face], middle: p.point })),
  ];
}

/** How far along its thing a place lies, mm: along its wall or curb from the left, round the floor from the opening. */
function along(model: ShowerModel, thing: Thing, [x, y]: Point3): number {
  const g = model.geometry;
  const own = g.edges.findIndex((_, i) => edgeId(g, i) === thing.id.split(':')[1]);
  const edge = thing.kind === 'niche' || thing.kind === 'bench' ? (edgeOfPart(model, thing.id) ?? -1) : own;
  if (edge < 0) {
    const { point } = model.drain;
    return -Math.atan2(y - point[1], x - point[0]);
  }
  // Seen from inside, a wall's left end is the far end of its edge.
  const left = cornerAt(g, edge + 1);
  const { dx, dy } = direction(g, edge);
  return -((x - left.xMm) * dx + (y - left.yMm) * dy);
}

/**
 * The shower as a person turns in it: the drain and the floor first, then wall by wall from the left of the opening with
 * what stands in and before each, the curb where it comes, the ceiling, and the shower as one. Within a thing from corner to
 * corner, at each place from low to high. Every element belongs to exactly one thing; things without elements stay out.
 */
export function turning(model: ShowerModel): Thing[] {
  const things = emptyThings(model);
  const order = new Map(things.map((thing, k) => [thing.id, k]));
  const placed = new Map<string, { id: string; at: number; high: number }[]>();
  const put = (thing: string, id: string, at: number, high: number) =>
    placed.set(thing, [...(placed.get(thing) ?? []), { id, at, high }]);
  for (const { id, faces, middle } of elementsOf(model)) {
    const owners = [...new Set(faces.map(thingOfFace))].map((t) => things[order.get(t) ?? 1]!);
    const rank = (t: Thing) => PRECEDENCE.indexOf(t.kind) * things.length + order.get(t.id)!;
    const [owner] = owners.sort((a, b) => rank(a) - rank(b));
    if (owner) put(owner.id, id, along(model, owner, middle), middle[2]);
  }
  put(model.drain.id, model.drain.id, 0, 0);
  put(WHOLE, WHOLE, 0, 0);
  for (const thing of things) {
    const mine = [...(placed.get(thing.id) ?? [])].sort((a, b) => a.at - b.at);
    // Rounded by neighbours and not by a grid: what is met together never falls on two sides of a line.
    let group = 0;
    const grouped = mine.map((e, k) => {
      if (k > 0 && e.at - mine[k - 1]!.at > TOGETHER_MM) group += 1;
      return { ...e, group };
    });
    grouped.sort((a, b) => a.group - b.group || a.high - b.high || a.at - b.at || (a.id < b.id ? -1 : 1));
    thing.elements = grouped.map((e) => e.id);
  }
  return things.filter((thing) => thing.elements.length > 0);
}
