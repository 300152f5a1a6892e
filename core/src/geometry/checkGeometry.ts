import { done, type Outcome, refuse } from '../outcome/outcome';
import type { PlanPoint } from './point';
import { crossingEdges, distanceToOutlineMm, insidePolygon, signedAreaMm2 } from './polygon';
import { DRAIN_DIAMETER_MM, type ShowerGeometry, type WallLine } from './showerGeometry';

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

function checkLines(
  lines: readonly WallLine[] | undefined,
  lengthMm: number,
  heightMm: number,
  field: string,
): Outcome<null> {
  for (const [k, line] of (lines ?? []).entries()) {
    if (line.atMm >= (line.run === 'level' ? heightMm : lengthMm)) {
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
  if (edge.kind === 'wall' && next.kind === 'curb' && edge.heightMm + riseMm <= next.heightMm) {
    return refuse('edge-invalid', `edges.${i}.heightMm`, 'This wall is not higher than the curb beside it.');
  }
  if (edge.kind !== 'wall') return done(null);
  const lengthMm = edgeLengthMm(g.footprint, i);
  const joints = checkLines(edge.boardJoints, lengthMm, edge.heightMm, `edges.${i}.boardJoints`);
  return joints.ok ? checkLines(edge.sheetLaps, lengthMm, edge.heightMm, `edges.${i}.sheetLaps`) : joints;
}

function checkOnWall(
  g: ShowerGeometry,
  field: string,
  box: { edge: number; leftMm: number; rightMm: number; lowMm: number; highMm: number },
): Outcome<null> {
  const edge = g.edges[box.edge];
  const code = field.startsWith('niches') ? 'niche-invalid' : 'penetration-outside';
  if (edge?.kind !== 'wall') return refuse(code, `${field}.edge`, 'This edge is not a wall. Choose a wall.');
  const lengthMm = edgeLengthMm(g.footprint, box.edge);
  const inside = box.leftMm > 0 && box.rightMm < lengthMm && box.lowMm > 0 && box.highMm < edge.heightMm;
  return inside ? done(null) : refuse(code, field, 'This does not fit on its wall. Check its place and size.');
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
    () => checkDrain(g.footprint, g.drain, (g.drain.diameterMm ?? DRAIN_DIAMETER_MM) / 2),
    ...g.edges.map((_, i) => () => checkEdge(g, i)),
    ...(g.penetrations ?? []).map((p, k) => () => {
      const r = p.diameterMm / 2;
      const box = {
        edge: p.edge,
        leftMm: p.alongMm - r,
        rightMm: p.alongMm + r,
        lowMm: p.heightMm - r,
        highMm: p.heightMm + r,
      };
      return checkOnWall(g, `penetrations.${k}`, box);
    }),
    ...(g.niches ?? []).map((n, k) => () => {
      const box = {
        edge: n.edge,
        leftMm: n.alongMm,
        rightMm: n.alongMm + n.widthMm,
        lowMm: n.sillMm,
        highMm: n.sillMm + n.heightMm,
      };
      return checkOnWall(g, `niches.${k}`, box);
    }),
  ];
  for (const step of steps) {
    const outcome = step();
    if (!outcome.ok) return outcome;
  }
  return done(null);
}
