import { done, type Outcome, refuse } from '../../outcome/outcome';
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

const CODE = { niche: 'niche-invalid', penetration: 'penetration-outside', bench: 'bench-invalid' } as const;

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
  const code = CODE[box.what];
  if (!edge || !isWall(edge))
    return refuse(code, `${box.field}.edge`, 'This edge is not a wall. Choose a wall or a half wall.');
  const { lengthMm } = direction(g, box.edge);
  const least = box.what === 'bench' ? -0.01 : 0.01;
  const inside = box.leftMm > least && box.rightMm < lengthMm - least && box.lowMm > least;
  if (!inside) {
    const words = {
      bench: 'The bench is longer than its wall, or deeper than the wall beside it. Check its place and size.',
      niche:
        'The niche reaches past the end of its wall or below its foot. A niche can’t go round a corner: check its place and size, or make two.',
      penetration: 'This opening does not fit on its wall. Check its place and size.',
    };
    return refuse(code, box.field, words[box.what]);
  }
  if (box.highMm < topOver(g, box.edge, box.leftMm, box.rightMm) - (box.what === 'bench' ? 0 : 0.01)) return done(null);
  return refuse(code, box.field, `This ${box.what} reaches over the top of its wall. Lower it, or make it less high.`);
}

function checkApart(found: readonly Box[]): Outcome<null> {
  for (const [k, a] of found.entries())
    for (const b of found.slice(k + 1)) {
      if (a.edge !== b.edge || a.field === b.field) continue;
      const apart = a.rightMm <= b.leftMm || b.rightMm <= a.leftMm || a.highMm <= b.lowMm || b.highMm <= a.lowMm;
      if (!apart)
        return refuse(
          CODE[b.what],
          b.field,
          `This ${b.what} and a ${a.what} lie over each other on their wall. Move one of them.`,
        );
    }
  return done(null);
}

function checkShelves(g: ShowerGeometry): Outcome<null> {
  for (const [k, niche] of (g.niches ?? []).entries()) {
    let low = 0;
    const shelves = [...(niche.shelves ?? []).entries()].sort((a, b) => a[1].heightMm - b[1].heightMm);
    for (const [s, shelf] of shelves) {
      if (shelf.heightMm < low + APART_MM || shelf.heightMm + shelf.thicknessMm > niche.heightMm - APART_MM)
        return refuse(
          'niche-invalid',
          `niches.${k}.shelves.${s}.heightMm`,
          'This shelf does not fit between the sill, the head and the other shelves. Check its height over the sill.',
        );
      low = shelf.heightMm + shelf.thicknessMm;
    }
  }
  return done(null);
}

function checkBenchPlace(g: ShowerGeometry, bench: Bench, field: string): Outcome<null> {
  const no = (part: string, words: string) => refuse<null>('bench-invalid', `${field}${part}`, words);
  if (bench.undersideMm !== undefined && bench.undersideMm >= bench.topMm - APART_MM)
    return no('.undersideMm', 'The underside of the bench is not below its top. Check the two heights.');
  const { outline, sides, contacts } = benchPlan(g, bench);
  for (const { edge } of contacts) {
    if (!isWall(edgeAt(g, edge))) return no('', 'A bench stands against walls only. Choose another place.');
    if (bodyTopMm(g, edgeAt(g, edge)) < riseOf(g) + bench.topMm - 0.01 && edgeAt(g, edge).kind === 'half-wall')
      return no(
        '.topMm',
        'The bench is higher than the half wall that it stands against. Lower it, or raise the wall.',
      );
  }
  const deeper = 'The bench reaches past the room. Make it less deep or less wide.';
  for (const [k, p] of outline.entries()) {
    if (distanceToOutlineMm(p, g.footprint) > 0.05 && !insidePolygon(p, g.footprint)) return no('', deeper);
    if (sides[k] === 'wall') continue;
    const q = outline[(k + 1) % outline.length]!;
    if (crossesOutline(g, p, q)) return no('', deeper);
    if (tooNear(g, outline, sides, k))
      return no('', 'The bench ends too near an edge of the room. Let it end in the corner, or leave a gap.');
  }
  if (insidePolygon(g.drain, outline) || distanceToOutlineMm(g.drain, outline) < drainReachMm(g))
    return no('', 'The drain lies under the bench. Move one of them.');
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
    if (!known)
      return refuse('bench-invalid', field, 'There is no such edge or corner. Choose where the bench stands.');
    const wall = bench.kind === 'along' ? edgeAt(g, bench.edge) : null;
    if (wall && !isWall(wall))
      return refuse('bench-invalid', `${field}.edge`, 'A bench stands along a wall. Choose one.');
    if (bench.kind === 'along' && bench.alongMm + bench.widthMm > direction(g, bench.edge).lengthMm + 1)
      return refuse(
        'bench-invalid',
        `${field}.widthMm`,
        'The bench is longer than its wall. Check its place and width.',
      );
    const angle = bench.kind === 'corner' ? turnAt(g, bench.corner) : 1;
    if (angle < 0.2)
      return refuse('bench-invalid', `${field}.corner`, 'A corner bench needs an inside corner. Choose another.');
    const placed = checkBenchPlace(g, bench, field);
    if (!placed.ok) return placed;
    for (const other of benches.slice(0, k))
      if (benchesMeet(g, bench, other))
        return refuse('bench-invalid', field, 'Two benches lie over or against each other. Leave a gap between them.');
  }
  const floor = cutOut(
    { loop: g.footprint.map((p) => at(p, riseOf(g))), rings: [] },
    benches.flatMap((b) => benchFootprint(g, b)),
  );
  if (floor.length === 1) return done(null);
  return refuse('bench-invalid', 'benches', 'The benches divide the floor. Make one of them smaller.');
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
    return refuse(
      'ceiling-invalid',
      'ceiling.lowEdge',
      'The ceiling must fall to a wall. Choose the wall that its drops run to.',
    );
  for (const [i, edge] of g.edges.entries()) {
    const ends = [cornerAt(g, i), cornerAt(g, i + 1)].map((p) => ceilingZ(g, p)! - riseOf(g));
    const top = bodyTopMm(g, edge) - riseOf(g);
    const over = edge.kind === 'wall' ? top > Math.max(...ends) + 1 : top > Math.min(...ends) - APART_MM;
    if (edge.kind !== 'open' && over)
      return refuse(
        'ceiling-invalid',
        `edges.${i}.heightMm`,
        'This edge is higher than the ceiling. Lower it, or raise the ceiling.',
      );
    if (ceiling.waterproof && edge.kind === 'wall' && top < ceiling.heightMm - 1)
      return refuse(
        'ceiling-invalid',
        `edges.${i}.heightMm`,
        'This wall ends below the waterproof ceiling. Take its membrane up to the ceiling, or draw a half wall.',
      );
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
        return refuse(
          'edge-invalid',
          `edges.${i}`,
          'A curb or half wall can’t begin round the outside corner of a wall. Draw the end of that wall as an edge of its own.',
        );
      const lower = beside.kind === 'curb' || (edge.kind === 'wall' && beside.kind === 'half-wall');
      if (lower && bodyTopMm(g, edge) <= bodyTopMm(g, beside) + 0.01)
        return refuse(
          'edge-invalid',
          `edges.${i}.heightMm`,
          `This wall is not higher than the ${beside.kind === 'curb' ? 'curb' : 'half wall'} beside it.`,
        );
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
        if (seen[key].has(value))
          return refuse(
            'name-taken',
            `${list}.${k}.${key}`,
            `"${part[key]}" is there twice. Give each part a name of its own.`,
          );
        seen[key].add(value);
      }
    }
  const edges = g.edges.flatMap((e) => e.id ?? []);
  const twice = edges.findIndex((id, i) => edges.indexOf(id) !== i);
  if (twice < 0) return done(null);
  return refuse('name-taken', `edges.${twice}.id`, `Two edges have the id "${edges[twice]}". Give each its own.`);
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
