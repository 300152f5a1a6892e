import { benchPlan } from '../geometry/bench';
import { direction } from '../geometry/outline';
import type { Point2, Point3 } from '../geometry/point';
import { edgeId } from '../geometry/showerGeometry';
import type { ShowerModel } from '../geometry/showerModel';
import { onWall, wallFrame } from '../geometry/wallFrame';
import { benchNet, ceilingNet, curbNet, curbPlace, nicheNet, wallNet } from './nets';
import { type LaidFace, makePanel, type Panel, type PanelKind, type PanelPlan } from './panel';

/** Walking order: clockwise, beginning behind the opening, so that the left wall comes first. */
export function walkingOrder(model: ShowerModel): number[] {
  const { edges } = model.geometry;
  const n = edges.length;
  const isOpening = (i: number) => edges[((i % n) + n) % n]!.kind !== 'wall';
  const first = edges.findIndex((_, i) => !isOpening(i) && isOpening(i + 1));
  const start = first < 0 ? n - 1 : first;
  return Array.from({ length: n }, (_, k) => (start - k + n * 2) % n);
}

const idsOf = (model: ShowerModel, wanted: (f: ShowerModel['faces'][number]) => boolean): string[] =>
  model.faces.filter(wanted).map((f) => f.id);

function wallPlan(model: ShowerModel, edge: number, letter: string): PanelPlan {
  const g = model.geometry;
  const faces = idsOf(model, (f) => f.edge === edge && f.kind.startsWith('wall'));
  return {
    id: `wall:${edgeId(g, edge)}`,
    kind: 'wall',
    letter,
    edge,
    lengthMm: wallFrame(g, edge).lengthMm,
    laid: wallNet(g, edge, faces),
    leaveOut: (kind) => kind === 'curb-wall',
  };
}

function floorPlan(model: ShowerModel): PanelPlan {
  const lay = (p: Point3): Point2 => [p[0], p[1]];
  const faces = idsOf(model, (f) => f.kind === 'floor' || f.kind === 'outside-floor');
  return {
    id: 'floor',
    kind: 'plan',
    letter: null,
    edge: null,
    lengthMm: 0,
    laid: faces.map((face) => ({ face, lay })),
    isEcho: (kind) => kind === 'floor-wall' || kind === 'bench-floor',
  };
}

function curbPlan(model: ShowerModel, edge: number, letter: string): PanelPlan {
  const g = model.geometry;
  return {
    id: `curb:${edge}`,
    kind: 'curb',
    letter,
    edge,
    lengthMm: direction(g, edge).lengthMm,
    laid: curbNet(
      g,
      edge,
      idsOf(model, (f) => f.edge === edge && f.kind.startsWith('curb')),
    ),
    belongsAt: curbPlace(g, edge),
  };
}

/** Niches, benches and ceiling, each laid open by itself beside its place. */
function partPlans(model: ShowerModel, letters: ReadonlyMap<number, string>): PanelPlan[] {
  const g = model.geometry;
  const of = (id: string) => idsOf(model, (f) => f.id.startsWith(`${id}:`));
  const letterOf = (edge: number) => letters.get(edge) ?? null;
  const inOrder = [...(g.niches ?? [])].sort((a, b) => letterOf(a.edge)!.localeCompare(letterOf(b.edge)!));
  const niches = inOrder.map((n): PanelPlan => {
    const id = `niche:${n.id}`;
    const belongsAt = onWall(wallFrame(g, n.edge), n.alongMm + n.widthMm / 2, n.sillMm + n.heightMm / 2);
    const laid = nicheNet(g, n, of(id));
    return { id, kind: 'niche', letter: letterOf(n.edge), edge: n.edge, lengthMm: 0, laid, belongsAt };
  });
  const benches = (g.benches ?? []).map((b): PanelPlan => {
    const id = `bench:${b.id}`;
    const { outline, contacts } = benchPlan(g, b);
    const middle = (key: 'xMm' | 'yMm') => outline.reduce((sum, p) => sum + p[key], 0) / outline.length;
    const belongsAt: Point3 = [middle('xMm'), middle('yMm'), 0];
    const { edge } = contacts[0]!;
    return { id, kind: 'bench', letter: letterOf(edge), edge, lengthMm: 0, laid: benchNet(g, b, of(id)), belongsAt };
  });
  if (!model.faces.some((f) => f.kind === 'ceiling')) return [...niches, ...benches];
  const laid = [ceilingNet(g)];
  return [...niches, ...benches, { id: 'ceiling', kind: 'ceiling', letter: null, edge: null, lengthMm: 0, laid }];
}

/** Which panel shows a corner: the one where it is drawn largest and alone. */
const CORNER_ORDER: readonly PanelKind[] = ['plan', 'curb', 'niche', 'bench', 'wall', 'ceiling'];

function addPoints(model: ShowerModel, parts: readonly { panel: Panel; laid: readonly LaidFace[] }[]): void {
  const inOrder = [...parts].sort((a, b) => CORNER_ORDER.indexOf(a.panel.kind) - CORNER_ORDER.indexOf(b.panel.kind));
  const put = (element: string, faces: readonly string[], point: Point3, diameterMm: number) => {
    for (const { panel, laid } of inOrder) {
      const lay = laid.find((l) => faces.includes(l.face))?.lay;
      if (!lay) continue;
      panel.points.push({ element, at: lay(point), diameterMm });
      return;
    }
  };
  for (const p of model.penetrations) put(p.id, [p.face], p.point, p.diameterMm);
  put(model.drain.id, ['floor'], model.drain.point, model.drain.diameterMm);
  for (const c of model.corners) put(c.id, c.faces, c.point, 0);
}

/**
 * Lays the shower open: walls upright in walking order, the floor in plan, then each curb, niche and bench and the
 * ceiling by itself. Lengths are true within a panel. A seam where two panels meet is drawn on both.
 */
export function unfold(model: ShowerModel): Panel[] {
  const g = model.geometry;
  const order = walkingOrder(model).filter((i) => g.edges[i]!.kind !== 'open');
  const letters = new Map(order.map((edge, k) => [edge, String.fromCharCode(65 + k)]));
  const plans = [
    ...order.filter((i) => g.edges[i]!.kind !== 'curb').map((i) => wallPlan(model, i, letters.get(i)!)),
    floorPlan(model),
    ...order.filter((i) => g.edges[i]!.kind === 'curb').map((i) => curbPlan(model, i, letters.get(i)!)),
    ...partPlans(model, letters),
  ];
  const parts = plans.map((plan) => ({ panel: makePanel(model, plan), laid: plan.laid }));
  addPoints(model, parts);
  return parts.map((p) => p.panel);
}

/** Length of a drawn line, mm. */
export function drawnLengthMm(points: readonly Point2[]): number {
  return points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1]), 0);
}
