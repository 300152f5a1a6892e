import { done, type Outcome, refuse } from '../../outcome/outcome';
import { checkParts } from './checkParts';
import type { PlanPoint } from './point';
import { crossingEdges, distanceToOutlineMm, insidePolygon, segmentsCross, signedAreaMm2 } from './polygon';
import { drainOutline, drainReachMm, type ShowerGeometry, type WallLine } from './showerGeometry';
import { isWall } from './wallFrame';

const SHORTEST_EDGE_MM = 50;

/** Length of edge i of a footprint, mm; the last edge closes it. */
export function edgeLengthMm(footprint: readonly PlanPoint[], i: number): number {
  const a = footprint[i]!;
  const b = footprint[(i + 1) % footprint.length]!;
  return Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
}

/** Footprint alone: simple, counter-clockwise, no edge under 50 mm. */
export function checkFootprint(footprint: readonly PlanPoint[]): Outcome<null> {
  const crossing = crossingEdges(footprint);
  if (crossing) {
    const [a, b] = crossing;
    return refuse('edges-cross', `footprint.${a}`, { first: a + 1, second: b + 1 });
  }
  for (let i = 0; i < footprint.length; i += 1) {
    if (edgeLengthMm(footprint, i) < SHORTEST_EDGE_MM) {
      return refuse('edge-too-short', `footprint.${i}`, { edge: i + 1 });
    }
  }
  if (signedAreaMm2(footprint) <= 0) {
    return refuse('footprint-clockwise', 'footprint');
  }
  return done(null);
}

/** The drain inside the floor, its centre more than `radiusMm` from the outline; `drain-outside` otherwise. */
export function checkDrain(footprint: readonly PlanPoint[], drain: PlanPoint, radiusMm = 0): Outcome<null> {
  if (insidePolygon(drain, footprint) && distanceToOutlineMm(drain, footprint) > radiusMm) return done(null);
  return radiusMm > 0
    ? refuse('drain-near-wall', 'drain', { reach: Math.round(radiusMm) })
    : refuse('drain-outside', 'drain');
}

function checkDrainOf(g: ShowerGeometry): Outcome<null> {
  if (g.drain.kind === 'point') return checkDrain(g.footprint, g.drain, drainReachMm(g));
  const outline = drainOutline(g);
  const crosses = outline.some((p, k) =>
    g.footprint.some((a, i) => segmentsCross(p, outline[(k + 1) % 4]!, a, g.footprint[(i + 1) % g.footprint.length]!)),
  );
  if (!crosses && outline.every((p) => insidePolygon(p, g.footprint))) return done(null);
  return refuse('line-drain-outside', 'drain');
}

function checkLines(
  lines: readonly WallLine[] | undefined,
  lengthMm: number,
  heightMm: number,
  field: string,
): Outcome<null> {
  for (const [k, line] of (lines ?? []).entries()) {
    const [across, along] = line.run === 'level' ? [heightMm, lengthMm] : [lengthMm, heightMm];
    const [from, to] = [line.fromMm ?? 0, line.toMm ?? along];
    if (line.atMm >= across || from >= to || to > along + 0.01) {
      return refuse('joint-outside', `${field}.${k}.atMm`);
    }
  }
  return done(null);
}

function checkEdge(g: ShowerGeometry, i: number): Outcome<null> {
  const edge = g.edges[i]!;
  const riseMm = g.perimeterRiseMm ?? 0;
  const next = g.edges[(i + 1) % g.edges.length]!;
  if (edge.kind === 'curb' && edge.heightMm <= riseMm) {
    return refuse('curb-under-floor', `edges.${i}.heightMm`);
  }
  if (edge.kind === 'curb' && next.kind === 'curb' && edge.heightMm !== next.heightMm) {
    return refuse('curbs-differ', `edges.${i}.heightMm`);
  }
  if (!isWall(edge)) return done(null);
  const lengthMm = edgeLengthMm(g.footprint, i);
  const joints = checkLines(edge.boardJoints, lengthMm, edge.heightMm, `edges.${i}.boardJoints`);
  return joints.ok ? checkLines(edge.sheetLaps, lengthMm, edge.heightMm, `edges.${i}.sheetLaps`) : joints;
}

/** Everything the model relies on; the first fault found, with its field. */
export function checkGeometry(g: ShowerGeometry): Outcome<null> {
  if (g.edges.length !== g.footprint.length) {
    return refuse('edges-miscounted', 'edges', { drawn: g.footprint.length, described: g.edges.length });
  }
  if (!g.edges.some((edge) => edge.kind === 'wall')) {
    return refuse('no-wall', 'edges');
  }
  const steps: (() => Outcome<null>)[] = [
    () => checkFootprint(g.footprint),
    () => checkDrainOf(g),
    ...g.edges.map((_, i) => () => checkEdge(g, i)),
    () => checkParts(g),
  ];
  for (const step of steps) {
    const outcome = step();
    if (!outcome.ok) return outcome;
  }
  return done(null);
}
