import { done, type Outcome, refuse } from '../../outcome/outcome';
import type { ProblemCode } from '../../outcome/problems';
import { type BenchPlan, benchFootprint, benchHeights, benchPlan } from './bench';
import { ceilingZ, wallTopZ } from './ceiling';
import { cutOut } from './cutOut';
import { at, bodyTopMm, cornerAt, direction, edgeAt, isStraight, riseOf, turnAt } from './outline';
import type { PlanPoint } from './point';
import { distanceToOutlineMm, distanceToSegmentMm, insidePolygon, segmentsCross } from './polygon';
import { type Bench, drainReachMm, type ShowerGeometry } from './showerGeometry';
import { isLow, isWall, onWall, wallFrame } from './wallFrame';

/** Parts must stay this far from each other and from open sides, mm: less can't be built or sealed. */
const APART_MM = 10;

interface Box {
  edge: number;
  leftMm: number;
  rightMm: number;
  lowMm: number;
  highMm: number;
  field: string;
  what: 'niche' | 'penetration' | 'bench';
}

/** What is wrong with a part that does not fit on its wall. */
const PAST_WALL = { niche: 'niche-past-wall', penetration: 'opening-past-wall', bench: 'bench-past-wall' } as const;
/** What is wrong with the place of a bench. */
type BenchPlaceCode = Extract<ProblemCode, `bench-${string}` | 'drain-under-bench'>;

function boxes(g: ShowerGeometry): Box[] {
  const rise = riseOf(g);
  return [
    ...(g.penetrations ?? []).map((p, k): Box => {
      const r = p.diameterMm / 2;
      const [leftMm, rightMm, lowMm, highMm] = [p.alongMm - r, p.alongMm + r, p.heightMm - r, p.heightMm + r];
      return { edge: p.edge, leftMm, rightMm, lowMm, highMm, field: `penetrations.${k}`, what: 'penetration' };
    }),
    ...(g.niches ?? []).map((n, k): Box => {
      const [rightMm, highMm] = [n.alongMm + n.widthMm, n.sillMm + n.heightMm];
      return { edge: n.edge, leftMm: n.alongMm, rightMm, lowMm: n.sillMm, highMm, field: `niches.${k}`, what: 'niche' };
    }),
    ...(g.benches ?? []).flatMap((b, k) =>
      benchPlan(g, b).contacts.map((c): Box => {
        const { lowMm, highMm } = benchHeights(g, b);
        const field = `benches.${k}`;
        return {
          edge: c.edge,
          leftMm: c.fromMm,
          rightMm: c.toMm,
          lowMm: lowMm - rise,
          highMm: highMm - rise,
          field,
          what: 'bench',
        };
      }),
    ),
  ];
}

/** Lowest top of a wall between two places along it, mm over its foot. */
function topOver(g: ShowerGeometry, edge: number, leftMm: number, rightMm: number): number {
  const f = wallFrame(g, edge);
  const z = (u: number) => {
    const p = onWall(f, u, 0);
    return wallTopZ(g, g.edges[edge]!, { xMm: p[0], yMm: p[1] });
  };
  return Math.min(z(leftMm), z(rightMm)) - riseOf(g);
}

function checkBox(g: ShowerGeometry, box: Box): Outcome<null> {
  const edge = g.edges[box.edge];
  if (!edge || !isWall(edge)) return refuse('not-a-wall', `${box.field}.edge`);
  const { lengthMm } = direction(g, box.edge);
  const least = box.what === 'bench' ? -0.01 : 0.01;
  const inside = box.leftMm > least && box.rightMm < lengthMm - least && box.lowMm > least;
  if (!inside) return refuse(PAST_WALL[box.what], box.field);
  if (box.highMm < topOver(g, box.edge, box.leftMm, box.rightMm) - (box.what === 'bench' ? 0 : 0.01)) return done(null);
  return refuse('part-over-wall', box.field, { part: box.what });
}

function checkApart(found: readonly Box[]): Outcome<null> {
  for (const [k, a] of found.entries())
    for (const b of found.slice(k + 1)) {
      if (a.edge !== b.edge || a.field === b.field) continue;
      const apart = a.rightMm <= b.leftMm || b.rightMm <= a.leftMm || a.highMm <= b.lowMm || b.highMm <= a.lowMm;
      if (!apart) return refuse('parts-overlap', b.field, { part: b.what, other: a.what });
    }
  return done(null);
}

function checkShelves(g: ShowerGeometry): Outcome<null> {
  for (const [k, niche] of (g.niches ?? []).entries()) {
    let low = 0;
    const shelves = [...(niche.shelves ?? []).entries()].sort((a, b) => a[1].heightMm - b[1].heightMm);
    for (const [s, shelf] of shelves) {
      if (shelf.heightMm < low + APART_MM || shelf.heightMm + shelf.thicknessMm > niche.heightMm - APART_MM)
        return refuse('shelf-unfit', `niches.${k}.shelves.${s}.heightMm`);
      low = shelf.heightMm + shelf.thicknessMm;
    }
  }
  return done(null);
}

function checkBenchPlace(g: ShowerGeometry, bench: Bench, field: string): Outcome<null> {
  const no = (code: BenchPlaceCode, part: string) => refuse(code, `${field}${part}`);
  if (bench.undersideMm !== undefined && bench.undersideMm >= bench.topMm - APART_MM)
    return no('bench-underside-over-top', '.undersideMm');
  const { outline, sides, contacts } = benchPlan(g, bench);
  for (const { edge } of contacts) {
    if (!isWall(edgeAt(g, edge))) return no('bench-against-no-wall', '');
    if (bodyTopMm(g, edgeAt(g, edge)) < riseOf(g) + bench.topMm - 0.01 && edgeAt(g, edge).kind === 'half-wall')
      return no('bench-over-half-wall', '.topMm');
  }
  for (const [k, p] of outline.entries()) {
    if (distanceToOutlineMm(p, g.footprint) > 0.05 && !insidePolygon(p, g.footprint)) return no('bench-past-room', '');
    if (sides[k] === 'wall') continue;
    const q = outline[(k + 1) % outline.length]!;
    if (crossesOutline(g, p, q)) return no('bench-past-room', '');
    if (tooNear(g, outline, sides, k)) return no('bench-near-edge', '');
  }
  if (insidePolygon(g.drain, outline) || distanceToOutlineMm(g.drain, outline) < drainReachMm(g))
    return no('drain-under-bench', '');
  return done(null);
}

function crossesOutline(g: ShowerGeometry, p: PlanPoint, q: PlanPoint): boolean {
  return g.footprint.some((a, i) => segmentsCross(p, q, a, cornerAt(g, i + 1)));
}

/** True when a free side of a bench runs along an edge, or a free corner stands at one that it is not against. */
function tooNear(g: ShowerGeometry, outline: readonly PlanPoint[], sides: BenchPlan['sides'], k: number): boolean {
  const p = outline[k]!;
  const q = outline[(k + 1) % outline.length]!;
  const middle = { xMm: (p.xMm + q.xMm) / 2, yMm: (p.yMm + q.yMm) / 2 };
  if (distanceToOutlineMm(middle, g.footprint) < APART_MM) return true;
  const before = sides[(k + sides.length - 1) % sides.length];
  if (before === 'wall') return false;
  return distanceToOutlineMm(p, g.footprint) < APART_MM;
}

function checkBenches(g: ShowerGeometry): Outcome<null> {
  const benches = g.benches ?? [];
  for (const [k, bench] of benches.entries()) {
    const field = `benches.${k}`;
    const known = bench.kind === 'along' ? bench.edge < g.edges.length : bench.corner < g.footprint.length;
    if (!known) return refuse('bench-place-unknown', field);
    const wall = bench.kind === 'along' ? edgeAt(g, bench.edge) : null;
    if (wall && !isWall(wall)) return refuse('bench-not-at-wall', `${field}.edge`);
    if (bench.kind === 'along' && bench.alongMm + bench.widthMm > direction(g, bench.edge).lengthMm + 1)
      return refuse('bench-too-long', `${field}.widthMm`);
    const angle = bench.kind === 'corner' ? turnAt(g, bench.corner) : 1;
    if (angle < 0.2) return refuse('bench-not-in-corner', `${field}.corner`);
    const placed = checkBenchPlace(g, bench, field);
    if (!placed.ok) return placed;
    for (const other of benches.slice(0, k)) if (benchesMeet(g, bench, other)) return refuse('benches-touch', field);
  }
  const floor = cutOut(
    { loop: g.footprint.map((p) => at(p, riseOf(g))), rings: [] },
    benches.flatMap((b) => benchFootprint(g, b)),
  );
  if (floor.length === 1) return done(null);
  return refuse('benches-divide-floor', 'benches');
}

function benchesMeet(g: ShowerGeometry, a: Bench, b: Bench): boolean {
  const [ha, hb] = [benchHeights(g, a), benchHeights(g, b)];
  if (ha.highMm < hb.lowMm - APART_MM || hb.highMm < ha.lowMm - APART_MM) return false;
  const [pa, pb] = [benchPlan(g, a).outline, benchPlan(g, b).outline];
  const near = (p: readonly PlanPoint[], q: readonly PlanPoint[]) =>
    p.some(
      (x) => insidePolygon(x, q) || q.some((y, i) => distanceToSegmentMm(x, y, q[(i + 1) % q.length]!) < APART_MM),
    );
  return near(pa, pb) || near(pb, pa);
}

function checkCeiling(g: ShowerGeometry): Outcome<null> {
  const { ceiling } = g;
  if (!ceiling) return done(null);
  if (ceiling.kind === 'sloped' && !isWall(g.edges[ceiling.lowEdge] ?? { kind: 'open' }))
    return refuse('ceiling-falls-nowhere', 'ceiling.lowEdge');
  for (const [i, edge] of g.edges.entries()) {
    const ends = [cornerAt(g, i), cornerAt(g, i + 1)].map((p) => ceilingZ(g, p)! - riseOf(g));
    const top = bodyTopMm(g, edge) - riseOf(g);
    const over = edge.kind === 'wall' ? top > Math.max(...ends) + 1 : top > Math.min(...ends) - APART_MM;
    if (edge.kind !== 'open' && over) return refuse('edge-over-ceiling', `edges.${i}.heightMm`);
    if (ceiling.waterproof && edge.kind === 'wall' && top < ceiling.heightMm - 1)
      return refuse('wall-under-ceiling', `edges.${i}.heightMm`);
  }
  return done(null);
}

/** What stands beside a wall: not round an outside corner, and never higher than it. */
function checkNeighbours(g: ShowerGeometry): Outcome<null> {
  for (const [i, edge] of g.edges.entries()) {
    if (edge.kind !== 'wall' && edge.kind !== 'half-wall') continue;
    for (const [other, corner] of [
      [i - 1, i],
      [i + 1, i + 1],
    ] as const) {
      const beside = edgeAt(g, other);
      if (edge.kind === 'wall' && isLow(beside) && !isStraight(g, corner) && turnAt(g, corner) < 0)
        return refuse('curb-round-corner', `edges.${i}`);
      const lower = beside.kind === 'curb' || (edge.kind === 'wall' && beside.kind === 'half-wall');
      if (lower && bodyTopMm(g, edge) <= bodyTopMm(g, beside) + 0.01)
        return refuse(beside.kind === 'curb' ? 'wall-under-curb' : 'wall-under-half-wall', `edges.${i}.heightMm`);
    }
  }
  return done(null);
}

function checkNames(g: ShowerGeometry): Outcome<null> {
  const seen = { id: new Set<string>(), name: new Set<string>() };
  const lists = { niches: g.niches ?? [], benches: g.benches ?? [], penetrations: g.penetrations ?? [] };
  for (const [list, parts] of Object.entries(lists))
    for (const [k, part] of parts.entries()) {
      for (const key of ['id', 'name'] as const) {
        const value = key === 'id' ? `${list}:${part.id}` : part.name?.toLowerCase();
        if (value === undefined) continue;
        if (seen[key].has(value)) return refuse('part-name-twice', `${list}.${k}.${key}`, { name: part[key] ?? '' });
        seen[key].add(value);
      }
    }
  const edges = g.edges.flatMap((e) => e.id ?? []);
  const twice = edges.findIndex((id, i) => edges.indexOf(id) !== i);
  if (twice < 0) return done(null);
  return refuse('edge-id-twice', `edges.${twice}.id`, { name: edges[twice]! });
}

/** Niches, benches, openings, ceiling and what stands beside what: all that goes beyond the footprint and its edges. */
export function checkParts(g: ShowerGeometry): Outcome<null> {
  const steps = [
    () => checkNames(g),
    () => checkNeighbours(g),
    () => checkCeiling(g),
    () => checkShelves(g),
    () => checkBenches(g),
    () => {
      const found = boxes(g);
      for (const box of found) {
        const fits = checkBox(g, box);
        if (!fits.ok) return fits;
      }
      return checkApart(found);
    },
  ];
  for (const step of steps) {
    const outcome = step();
    if (!outcome.ok) return outcome;
  }
  return done(null);
}
