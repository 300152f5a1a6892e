import { type Face, plainFace } from './face';
import { at, cornerAt, direction, edgeAt, riseOf } from './outline';
import type { PlanPoint, Point3 } from './point';
import { signedAreaMm2 } from './polygon';
import type { Bench, ShowerGeometry } from './showerGeometry';
import type { Contact } from './wallFaces';
import { isWall, wallFrame, wallRect } from './wallFrame';

/** An end of a bench nearer than this to the corner stands against the wall there, mm. */
const AGAINST_MM = 1;

type SideName = 'wall' | 'front' | 'left' | 'right';

/** Where a bench stands in plan: its outline with what each side is, and the stretches of walls that it covers. */
export interface BenchPlan {
  outline: PlanPoint[];
  /** One name a side; a side named `wall` stands against one. */
  sides: SideName[];
  contacts: { edge: number; fromMm: number; toMm: number }[];
}

const wrap = (g: ShowerGeometry, i: number) => (i + g.footprint.length) % g.footprint.length;

/** How far a bench reaches along the wall that it ends against, mm; null where it ends free. */
function againstNeighbour(g: ShowerGeometry, bench: Extract<Bench, { kind: 'along' }>, end: 'left' | 'right') {
  const { edge: i } = bench;
  const neighbour = wrap(g, end === 'left' ? i + 1 : i - 1);
  const own = direction(g, i);
  const theirs = direction(g, neighbour);
  const sine = own.dx * theirs.dy - own.dy * theirs.dx;
  const turn = end === 'left' ? sine : theirs.dx * own.dy - theirs.dy * own.dx;
  const room = own.lengthMm - bench.alongMm - bench.widthMm;
  const touches = end === 'left' ? bench.alongMm < AGAINST_MM : room < AGAINST_MM;
  if (!touches || !isWall(edgeAt(g, neighbour)) || turn < 0.2) return null;
  return { neighbour, reachMm: bench.depthMm / turn };
}

function alongPlan(g: ShowerGeometry, bench: Extract<Bench, { kind: 'along' }>): BenchPlan {
  const { edge: i } = bench;
  const f = wallFrame(g, i);
  const place = (u: number, depth: number): PlanPoint => ({
    xMm: f.left[0] + f.right[0] * u - f.outward[0] * depth,
    yMm: f.left[1] + f.right[1] * u - f.outward[1] * depth,
  });
  const left = againstNeighbour(g, bench, 'left');
  const right = againstNeighbour(g, bench, 'right');
  const [l, r] = [left ? 0 : bench.alongMm, right ? f.lengthMm : bench.alongMm + bench.widthMm];
  const step = (from: PlanPoint, edge: number, mm: number): PlanPoint => {
    const { dx, dy } = direction(g, edge);
    return { xMm: from.xMm + dx * mm, yMm: from.yMm + dy * mm };
  };
  const leftFront = left ? step(cornerAt(g, i + 1), left.neighbour, left.reachMm) : place(l, bench.depthMm);
  const rightFront = right ? step(cornerAt(g, i), right.neighbour, -right.reachMm) : place(r, bench.depthMm);
  const contacts = [{ edge: i, fromMm: l, toMm: r }];
  if (left) {
    const { lengthMm } = direction(g, left.neighbour);
    contacts.push({ edge: left.neighbour, fromMm: lengthMm - left.reachMm, toMm: lengthMm });
  }
  if (right) contacts.push({ edge: right.neighbour, fromMm: 0, toMm: right.reachMm });
  // Counter-clockwise in plan: along the wall from its right end to its left, then round the front.
  return {
    outline: [place(r, 0), place(l, 0), leftFront, rightFront],
    sides: ['wall', left ? 'wall' : 'left', 'front', right ? 'wall' : 'right'],
    contacts,
  };
}

function cornerPlan(g: ShowerGeometry, bench: Extract<Bench, { kind: 'corner' }>): BenchPlan {
  const k = wrap(g, bench.corner);
  const before = wrap(g, k - 1);
  const p = cornerAt(g, k);
  const a = direction(g, k);
  const b = direction(g, before);
  return {
    outline: [
      p,
      { xMm: p.xMm + a.dx * bench.legRightMm, yMm: p.yMm + a.dy * bench.legRightMm },
      { xMm: p.xMm - b.dx * bench.legLeftMm, yMm: p.yMm - b.dy * bench.legLeftMm },
    ],
    sides: ['wall', 'front', 'wall'],
    contacts: [
      { edge: k, fromMm: a.lengthMm - bench.legRightMm, toMm: a.lengthMm },
      { edge: before, fromMm: 0, toMm: bench.legLeftMm },
    ],
  };
}

/** A bench's place in plan. Of a checked shower; an unchecked one may reach past its room. */
export function benchPlan(g: ShowerGeometry, bench: Bench): BenchPlan {
  const plan = bench.kind === 'along' ? alongPlan(g, bench) : cornerPlan(g, bench);
  return signedAreaMm2(plan.outline) >= 0
    ? plan
    : { ...plan, outline: [...plan.outline].reverse(), sides: turnedSides(plan.sides) };
}

/** The sides of an outline that was reversed: side k runs from point k to k+1. */
function turnedSides(sides: readonly SideName[]): SideName[] {
  const back = [...sides].reverse();
  return [...back.slice(1), back[0]!];
}

/** Heights over the drain rim between which a bench stands, mm. */
export function benchHeights(g: ShowerGeometry, bench: Bench): { lowMm: number; highMm: number } {
  return { lowMm: riseOf(g) + (bench.undersideMm ?? 0), highMm: riseOf(g) + bench.topMm };
}

/** The built faces of a bench: top, the sides that stand free, and its underside when it floats. */
export function benchFaces(g: ShowerGeometry, bench: Bench): Face[] {
  const { outline, sides, contacts } = benchPlan(g, bench);
  const { lowMm, highMm } = benchHeights(g, bench);
  const edge = contacts[0]!.edge;
  const id = `bench:${bench.id}`;
  const faces = [
    plainFace(
      `${id}:top`,
      'bench-top',
      edge,
      outline.map((p) => at(p, highMm)),
    ),
  ];
  outline.forEach((a, k) => {
    const name = sides[k]!;
    if (name === 'wall') return;
    const b = outline[(k + 1) % outline.length]!;
    const loop = [at(a, lowMm), at(b, lowMm), at(b, highMm), at(a, highMm)];
    faces.push(plainFace(`${id}:${name}`, 'bench-side', edge, loop));
  });
  if (bench.undersideMm)
    faces.push(plainFace(`${id}:under`, 'bench-under', edge, outline.map((p) => at(p, lowMm)).reverse()));
  return faces;
}

/** What a bench hides of the walls that it stands against. */
export function benchContacts(g: ShowerGeometry, bench: Bench): Contact[] {
  const { lowMm, highMm } = benchHeights(g, bench);
  const rise = riseOf(g);
  return benchPlan(g, bench).contacts.map(({ edge, fromMm, toMm }) => ({
    edge,
    by: bench.id,
    loop: wallRect(wallFrame(g, edge), fromMm, toMm, lowMm - rise, highMm - rise),
  }));
}

/** What a bench that stands on the floor hides of it; nothing when it floats. */
export function benchFootprint(g: ShowerGeometry, bench: Bench): Point3[][] {
  return bench.undersideMm ? [] : [benchPlan(g, bench).outline.map((p) => at(p, riseOf(g)))];
}
