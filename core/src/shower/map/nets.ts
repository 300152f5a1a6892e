import { benchHeights, benchPlan } from '../geometry/bench';
import { cornerAt, direction, outerEnd } from '../geometry/outline';
import { dot, minus, type PlanPoint, type Point2, type Point3 } from '../geometry/point';
import type { Bench, Niche, ShowerGeometry } from '../geometry/showerGeometry';
import { wallFrame } from '../geometry/wallFrame';
import type { LaidFace } from './panel';

/** Gap between parts of one net that do not touch, mm. */
const BESIDE_MM = 60;

const awayFrom = (corner: PlanPoint, p: Point3): number => Math.hypot(p[0] - corner.xMm, p[1] - corner.yMm);

/** A wall with what folds out of it: the pieces of its face, a half wall's cap above it, free ends at its sides. */
export function wallNet(g: ShowerGeometry, edge: number, faces: readonly string[]): LaidFace[] {
  const f = wallFrame(g, edge);
  const u = (p: Point3) => dot(minus(p, f.left), f.right);
  const behind = (p: Point3) => dot(minus(p, f.left), f.outward);
  const top = f.left[2] + f.heightMm;
  return faces.map((face) => {
    const part = face.split(':')[2];
    const lay = (p: Point3): Point2 => {
      if (part === 'cap') return [u(p), top + behind(p)];
      if (part === 'end-left') return [-awayFrom(cornerAt(g, edge + 1), p), p[2]];
      if (part === 'end-right') return [f.lengthMm + awayFrom(cornerAt(g, edge), p), p[2]];
      return [u(p), p[2]];
    };
    return { face, lay };
  });
}

/** The curb laid open as seen from inside: inner face below, then its top, then the outer face; free ends beside it. */
export function curbNet(g: ShowerGeometry, edge: number, faces: readonly string[]): LaidFace[] {
  const spec = g.edges[edge]!;
  if (spec.kind !== 'curb') throw new Error(`edge ${edge} is not a curb`);
  const q = cornerAt(g, edge + 1);
  const { dx, dy } = direction(g, edge);
  const { heightMm, widthMm } = spec;
  const { lengthMm } = direction(g, edge);
  return faces.map((face) => {
    const part = face.split(':')[2];
    const lay = (x: Point3): Point2 => {
      const away = { x: x[0] - q.xMm, y: x[1] - q.yMm };
      const along = -(away.x * dx + away.y * dy);
      const across = Math.max(0, away.x * dy - away.y * dx);
      if (part === 'end-left') return [-BESIDE_MM - awayFrom(q, x), x[2]];
      if (part === 'end-right') return [lengthMm + BESIDE_MM + awayFrom(cornerAt(g, edge), x), x[2]];
      return [along, across > widthMm - 0.01 ? heightMm + widthMm + (heightMm - x[2]) : x[2] + across];
    };
    return { face, lay };
  });
}

/** A niche laid open: the back in the middle, sill, head and sides folded out, its shelves laid open beside it. */
export function nicheNet(g: ShowerGeometry, niche: Niche, faces: readonly string[]): LaidFace[] {
  const f = wallFrame(g, niche.edge);
  const foot = f.left[2];
  const [l, r, s, deep] = [niche.alongMm, niche.alongMm + niche.widthMm, niche.sillMm, niche.depthMm];
  const t = s + niche.heightMm;
  const at = (p: Point3) => {
    const away = minus(p, f.left);
    return { u: dot(away, f.right), v: p[2] - foot, d: dot(away, f.outward) };
  };
  const shelves = [...(niche.shelves ?? [])].sort((a, b) => a.heightMm - b.heightMm);
  const open = (name: string, part: string, p: Point3): Point2 => {
    const k = shelves.findIndex((shelf) => `shelf-${shelf.id}` === name);
    const thick = shelves[k]!.thicknessMm;
    const low = s - deep + k * (2 * deep + thick + BESIDE_MM);
    const { u, v, d } = at(p);
    const x = r + deep + BESIDE_MM + (u - l);
    if (part === 'under') return [x, low + deep - d];
    if (part === 'top') return [x, low + deep + thick + d];
    return [x, low + deep + (v - s - shelves[k]!.heightMm)];
  };
  return faces.map((face) => {
    const [, , name = '', part = ''] = face.split(':');
    const lay = (p: Point3): Point2 => {
      const { u, v, d } = at(p);
      const out = deep - d;
      if (name === 'sill') return [u, s - out];
      if (name === 'head') return [u, t + out];
      if (name === 'left') return [l - out, v];
      if (name === 'right') return [r + out, v];
      return name.startsWith('shelf-') ? open(name, part, p) : [u, v];
    };
    return { face, lay };
  });
}

/** A bench laid open as seen from the room: its top, the front below it, free ends at its sides, the underside last. */
export function benchNet(g: ShowerGeometry, bench: Bench, faces: readonly string[]): LaidFace[] {
  const { outline, sides } = benchPlan(g, bench);
  const { lowMm, highMm } = benchHeights(g, bench);
  const k = sides.indexOf('front');
  const [a, b] = [outline[k]!, outline[(k + 1) % outline.length]!];
  const length = Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
  const [rx, ry] = [(b.xMm - a.xMm) / length, (b.yMm - a.yMm) / length];
  const x = (p: Point3) => (p[0] - a.xMm) * rx + (p[1] - a.yMm) * ry;
  const deep = (p: Point3) => (p[1] - a.yMm) * rx - (p[0] - a.xMm) * ry;
  return faces.map((face) => {
    const part = face.split(':')[2];
    const lay = (p: Point3): Point2 => {
      const down = highMm - p[2];
      if (part === 'front') return [x(p), -down];
      if (part === 'left') return [-down, deep(p)];
      if (part === 'right') return [length + down, deep(p)];
      if (part === 'under') return [x(p), -(highMm - lowMm) - deep(p)];
      return [x(p), deep(p)];
    };
    return { face, lay };
  });
}

/** The ceiling in plan, stretched along its slope so that its lengths are true. */
export function ceilingNet(g: ShowerGeometry): LaidFace {
  const { ceiling } = g;
  if (ceiling?.kind !== 'sloped') return { face: 'ceiling', lay: (p) => [p[0], p[1]] };
  const { dx, dy } = direction(g, ceiling.lowEdge);
  const o = cornerAt(g, ceiling.lowEdge);
  const stretch = Math.hypot(1, ceiling.slope);
  return {
    face: 'ceiling',
    lay: (p) => {
      const along = (p[0] - o.xMm) * dx + (p[1] - o.yMm) * dy;
      const away = ((p[1] - o.yMm) * dx - (p[0] - o.xMm) * dy) * stretch;
      return [o.xMm + along * dx - away * dy, o.yMm + along * dy + away * dx];
    },
  };
}

/** The middle of a curb's foot in space, for the line that ties its panel to the plan. */
export function curbPlace(g: ShowerGeometry, edge: number): Point3 {
  const [a, b] = [outerEnd(g, edge, 'start'), outerEnd(g, edge, 'stop')];
  return [(a.xMm + b.xMm) / 2, (a.yMm + b.yMm) / 2, 0];
}
