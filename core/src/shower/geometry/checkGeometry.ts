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
    return refuse(
      'footprint-invalid',
      `footprint.${a}`,
      `Edges ${a + 1} and ${b + 1} of the footprint cross. Check the order of the points.`,
    );
  }
  for (let i = 0; i < footprint.length; i += 1) {
    if (edgeLengthMm(footprint, i) < SHORTEST_EDGE_MM) {
      return refuse(
        'footprint-invalid',
        `footprint.${i}`,
        `Edge ${i + 1} is shorter than 2 in (50 mm). Check its length.`,
      );
    }
  }
  if (signedAreaMm2(footprint) <= 0) {
    return refuse(
      'footprint-invalid',
      'footprint',
      'The footprint must run counter-clockwise. Turn the order of its points round.',
    );
  }
  return done(null);
}

/** The drain inside the floor, its centre more than `radiusMm` from the outline; `drain-outside` otherwise. */
export function checkDrain(footprint: readonly PlanPoint[], drain: PlanPoint, radiusMm = 0): Outcome<null> {
  if (insidePolygon(drain, footprint) && distanceToOutlineMm(drain, footprint) > radiusMm) return done(null);
  const away = radiusMm > 0 ? ` Its centre must stay ${Math.round(radiusMm)} mm inside the walls.` : '';
  return refuse('drain-outside', 'drain', `The drain does not lie inside the floor.${away} Check its two distances.`);
}

function checkDrainOf(g: ShowerGeometry): Outcome<null> {
  if (g.drain.kind === 'point') return checkDrain(g.footprint, g.drain, drainReachMm(g));
  const outline = drainOutline(g);
  const crosses = outline.some((p, k) =>
    g.footprint.some((a, i) => segmentsCross(p, outline[(k + 1) % 4]!, a, g.footprint[(i + 1) % g.footprint.length]!)),
  );
  if (!crosses && outline.every((p) => insidePolygon(p, g.footprint))) return done(null);
  return refuse(
    'drain-outside',
    'drain',
    'The line drain reaches past the floor. Check its length, its place and how it is turned.',
  );
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
      return refuse(
        'joint-outside',
        `${field}.${k}.atMm`,
        'This joint lies outside its wall. Check where it was measured from.',
      );
    }
  }
  return done(null);
}

function checkEdge(g: ShowerGeometry, i: number): Outcome<null> {
  const edge = g.edges[i]!;
  const riseMm = g.perimeterRiseMm ?? 0;
  const next = g.edges[(i + 1) % g.edges.length]!;
  if (edge.kind === 'curb' && edge.heightMm <= riseMm) {
    return refuse(
      'edge-invalid',
      `edges.${i}.heightMm`,
      'The curb is not higher than the floor at its foot. Raise the curb or lower the rise.',
    );
  }
  if (edge.kind === 'curb' && next.kind === 'curb' && edge.heightMm !== next.heightMm) {
    return refuse('edge-invalid', `edges.${i}.heightMm`, 'Two curbs that meet must have the same height.');
  }
  if (!isWall(edge)) return done(null);
  const lengthMm = edgeLengthMm(g.footprint, i);
  const joints = checkLines(edge.boardJoints, lengthMm, edge.heightMm, `edges.${i}.boardJoints`);
  return joints.ok ? checkLines(edge.sheetLaps, lengthMm, edge.heightMm, `edges.${i}.sheetLaps`) : joints;
}

/** Everything the model relies on; the first fault found, with its field. */
export function checkGeometry(g: ShowerGeometry): Outcome<null> {
  if (g.edges.length !== g.footprint.length) {
    return refuse(
      'edge-invalid',
      'edges',
      `There are ${g.footprint.length} edges in the footprint but ${g.edges.length} descriptions.`,
    );
  }
  if (!g.edges.some((edge) => edge.kind === 'wall')) {
    return refuse('edge-invalid', 'edges', 'A shower needs at least one wall.');
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
