import Delaunator from 'delaunator';
import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { checkDrain, checkFootprint } from '../shower/geometry/checkGeometry';
import { PlanPoint } from '../shower/geometry/point';
import { insidePolygon, signedAreaMm2 } from '../shower/geometry/polygon';
import { anyMm, lengthMm } from '../units/bounded';

/** kg of a litre of cold water, rounded up to the safe side. */
const KG_PER_L = 1;
/** A litre, mm³. */
const MM3_PER_L = 1e6;

const mm = anyMm;
/** A height of the floor, mm above the drain rim. */
const Shot = z.object({ xMm: mm, yMm: mm, zMm: mm });
type Shot = z.infer<typeof Shot>;

/** A basin and the depth that is wanted. */
export const FloodVolumeInput = z.object({
  footprint: z.array(PlanPoint).min(3).max(200),
  drain: PlanPoint,
  /** A level perimeter, mm above the drain rim; or shots of the floor instead. */
  perimeterRiseMm: lengthMm.optional(),
  shots: z.array(Shot).max(2000).optional(),
  /** What stands in the water: its outline in plan and the heights over the drain rim between which it stands, mm. */
  benches: z
    .array(z.object({ outline: z.array(PlanPoint).min(3).max(200), onFloor: z.boolean(), lowMm: mm, highMm: mm }))
    .max(20)
    .optional(),
  /** Water over the drain rim, mm. */
  depthAtDrainMm: z.number().positive().max(5000),
});
export type FloodVolumeInput = z.infer<typeof FloodVolumeInput>;

/** The water in a basin. */
export interface FloodVolume {
  /** L. */
  volumeL: number;
  /** kg, at 1 kg a litre. */
  massKg: number;
  /** The water's free surface: the wetted floor without what a bench fills of it, its top where the water stands over it. */
  wettedM2: number;
  /** Water at the foot of the walls and the curb, mm; 0 while the water does not reach it. */
  depthAtThresholdMm: number;
}

/** Area of the floor that the drain sees in a straight line, mm²: summed over the nearest edge in each direction. */
function visibleAreaMm2(footprint: readonly PlanPoint[], drain: PlanPoint): number {
  const angles = footprint.map((p) => Math.atan2(p.yMm - drain.yMm, p.xMm - drain.xMm)).sort((a, b) => a - b);
  let area = 0;
  angles.forEach((from, i) => {
    const to = i + 1 < angles.length ? angles[i + 1]! : angles[0]! + 2 * Math.PI;
    if (to - from < 1e-12) return;
    const edge = nearestEdge(footprint, drain, (from + to) / 2);
    if (edge) area += (reach(edge, drain, from) * reach(edge, drain, to) * Math.sin(to - from)) / 2;
  });
  return area;
}

type Edge = readonly [PlanPoint, PlanPoint];

/** Distance in mm from the drain along a direction to the line through an edge; infinite when it runs along it. */
function reach([a, b]: Edge, drain: PlanPoint, angle: number): number {
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const [ex, ey] = [b.xMm - a.xMm, b.yMm - a.yMm];
  const across = dx * ey - dy * ex;
  return across === 0 ? Infinity : ((a.xMm - drain.xMm) * ey - (a.yMm - drain.yMm) * ex) / across;
}

function nearestEdge(footprint: readonly PlanPoint[], drain: PlanPoint, angle: number): Edge | null {
  let best: { edge: Edge; away: number } | null = null;
  footprint.forEach((a, i) => {
    const b = footprint[(i + 1) % footprint.length]!;
    const away = reach([a, b], drain, angle);
    if (!(away > 0) || away === Infinity) return;
    const x = drain.xMm + away * Math.cos(angle);
    const y = drain.yMm + away * Math.sin(angle);
    const along = (x - a.xMm) * (b.xMm - a.xMm) + (y - a.yMm) * (b.yMm - a.yMm);
    const length2 = (b.xMm - a.xMm) ** 2 + (b.yMm - a.yMm) ** 2;
    if (along >= -1e-6 && along <= length2 + 1e-6 && (!best || away < best.away)) best = { edge: [a, b], away };
  });
  return (best as { edge: Edge } | null)?.edge ?? null;
}

/** What stands over a plan outline, mm³, and how much of it is wet, mm². */
interface Over {
  mm3: number;
  mm2: number;
}

/** Water over a cone of straight lines that rises from the drain to a level edge; what the drain can't see lies at the edge's height. */
function overLevelPerimeter(areaMm2: number, visibleMm2: number, riseMm: number, depthMm: number): Over {
  const hidden = areaMm2 - visibleMm2;
  if (depthMm >= riseMm) {
    return { mm3: visibleMm2 * (depthMm - (2 / 3) * riseMm) + hidden * (depthMm - riseMm), mm2: areaMm2 };
  }
  const share = (depthMm / riseMm) ** 2;
  return { mm3: (visibleMm2 * share * depthMm) / 3, mm2: visibleMm2 * share };
}

interface Corner {
  x: number;
  y: number;
  /** Water over it, mm; below zero where it stands dry. */
  over: number;
}

const triangleArea = (a: Corner, b: Corner, c: Corner): number =>
  Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;

/** Integral of max(0, depth) over one flat triangle, by cutting off its dry part. */
function overTriangle(corners: readonly Corner[]): Over {
  const wet: Corner[] = [];
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length]!;
    if (a.over >= 0) wet.push(a);
    if (a.over * b.over < 0) {
      const s = a.over / (a.over - b.over);
      wet.push({ x: a.x + (b.x - a.x) * s, y: a.y + (b.y - a.y) * s, over: 0 });
    }
  });
  let [mm3, mm2] = [0, 0];
  for (let i = 1; i + 1 < wet.length; i += 1) {
    const area = triangleArea(wet[0]!, wet[i]!, wet[i + 1]!);
    mm2 += area;
    mm3 += (area * (wet[0]!.over + wet[i]!.over + wet[i + 1]!.over)) / 3;
  }
  return { mm3, mm2 };
}

/** Parts of a triangle inside the outline: itself, or its small parts whose middle lies inside. */
function insideParts(
  corners: readonly [Corner, Corner, Corner],
  footprint: readonly PlanPoint[],
  left: number,
): Corner[][] {
  const inside = (x: number, y: number) => insidePolygon({ xMm: x, yMm: y }, footprint);
  const [a, b, c] = corners;
  const half = (p: Corner, q: Corner): Corner => ({
    x: (p.x + q.x) / 2,
    y: (p.y + q.y) / 2,
    over: (p.over + q.over) / 2,
  });
  const [ab, bc, ca] = [half(a, b), half(b, c), half(c, a)];
  const centre = { x: (a.x + b.x + c.x) / 3, y: (a.y + b.y + c.y) / 3 };
  const nearly = (p: Corner) => inside(p.x + (centre.x - p.x) * 1e-6, p.y + (centre.y - p.y) * 1e-6);
  const probes = [a, b, c, ab, bc, ca].map(nearly);
  if (probes.every(Boolean)) return [[a, b, c]];
  if (left === 0) return inside(centre.x, centre.y) ? [[a, b, c]] : [];
  return [
    [a, ab, ca],
    [ab, b, bc],
    [ca, bc, c],
    [ab, bc, ca],
  ].flatMap((t) => insideParts(t as [Corner, Corner, Corner], footprint, left - 1));
}

/** Water over an outline within the floor, where the floor is flat triangles. */
function overTriangles(triangles: readonly (readonly [Corner, Corner, Corner])[], outline: readonly PlanPoint[]): Over {
  const sum = { mm3: 0, mm2: 0 };
  for (const corners of triangles)
    for (const part of insideParts(corners, outline, 6)) {
      const over = overTriangle(part);
      sum.mm3 += over.mm3;
      sum.mm2 += over.mm2;
    }
  return sum;
}

/** The floor as triangles between the shots and the drain; corners of the footprint take the height of the nearest shot. */
function shotTriangles(input: FloodVolumeInput, shots: readonly Shot[]) {
  const known = [{ ...input.drain, zMm: 0 }, ...shots];
  const away = (p: PlanPoint, s: Shot) => Math.hypot(p.xMm - s.xMm, p.yMm - s.yMm);
  const ends = input.footprint
    .filter((p) => !known.some((s) => away(p, s) < 1))
    .map((p) => ({ ...p, zMm: known.reduce((best, s) => (away(p, s) < away(p, best) ? s : best)).zMm }));
  const points: Corner[] = [...known, ...ends].map((s) => ({ x: s.xMm, y: s.yMm, over: input.depthAtDrainMm - s.zMm }));
  const { triangles: index } = Delaunator.from(
    points,
    (p) => p.x,
    (p) => p.y,
  );
  const triangles: (readonly [Corner, Corner, Corner])[] = [];
  for (let i = 0; i < index.length; i += 3)
    triangles.push([points[index[i]!]!, points[index[i + 1]!]!, points[index[i + 2]!]!]);
  const highest = Math.max(...ends.map((e) => e.zMm), ...shots.map((s) => s.zMm));
  return { triangles, highest };
}

/** How often a triangle of a bench's outline is halved: 1,024 parts each, straight lines between their corners. */
const HALVINGS = 5;

/** Water over an outline within a floor of straight lines from a level edge to the drain. */
function overCone(input: FloodVolumeInput, riseMm: number, outline: readonly PlanPoint[]): Over {
  const { footprint, drain, depthAtDrainMm } = input;
  const corner = (x: number, y: number): Corner => {
    const away = Math.hypot(x - drain.xMm, y - drain.yMm);
    const angle = Math.atan2(y - drain.yMm, x - drain.xMm);
    const edge = away > 0 ? nearestEdge(footprint, drain, angle) : null;
    const share = edge ? Math.min(1, away / reach(edge, drain, angle)) : 0;
    return { x, y, over: depthAtDrainMm - riseMm * share };
  };
  const sum = { mm3: 0, mm2: 0 };
  const add = (a: Corner, b: Corner, c: Corner, left: number): void => {
    if (left === 0) {
      const over = overTriangle([a, b, c]);
      sum.mm3 += over.mm3;
      sum.mm2 += over.mm2;
      return;
    }
    const half = (p: Corner, q: Corner) => corner((p.x + q.x) / 2, (p.y + q.y) / 2);
    const [ab, bc, ca] = [half(a, b), half(b, c), half(c, a)];
    add(a, ab, ca, left - 1);
    add(ab, b, bc, left - 1);
    add(ca, bc, c, left - 1);
    add(ab, bc, ca, left - 1);
  };
  const corners = outline.map((p) => corner(p.xMm, p.yMm));
  for (let i = 1; i + 1 < corners.length; i += 1) add(corners[0]!, corners[i]!, corners[i + 1]!, HALVINGS);
  return sum;
}

type Standing = NonNullable<FloodVolumeInput['benches']>[number];

/** What benches take of the water: a floating one what of it is under water; one on the floor all below its top. */
function withoutBenches(whole: Over, { benches = [], depthAtDrainMm }: FloodVolumeInput, over: (b: Standing) => Over) {
  return benches.reduce((left, bench) => {
    const area = Math.abs(signedAreaMm2(bench.outline));
    const above = Math.max(0, depthAtDrainMm - bench.highMm) * area;
    if (bench.onFloor) {
      const { mm3, mm2 } = over(bench);
      return { mm3: left.mm3 - mm3 + above, mm2: left.mm2 - mm2 + (above > 0 ? area : 0) };
    }
    const filled = area * Math.max(0, Math.min(depthAtDrainMm, bench.highMm) - bench.lowMm);
    return { mm3: left.mm3 - filled, mm2: left.mm2 - (filled > 0 && above === 0 ? area : 0) };
  }, whole);
}

function checkShots(input: FloodVolumeInput): Outcome<Shot[]> {
  const shots = input.shots ?? [];
  if (shots.length < 3) return refuse('floor-not-given', 'shots');
  return done(shots);
}

/**
 * Water that stands in a shower: V = ∫ max(0, level − z) dA over the floor. The floor is either straight lines from a
 * level perimeter down to the drain, or the surface through shots. z is 0 at the drain rim. What benches fill of it holds
 * no water; benches do not lie over each other.
 */
export function floodVolume(input: FloodVolumeInput): Outcome<FloodVolume> {
  const { footprint, drain, perimeterRiseMm, depthAtDrainMm } = input;
  const footprintOk = checkFootprint(footprint);
  if (!footprintOk.ok) return footprintOk;
  const drainOk = checkDrain(footprint, drain);
  if (!drainOk.ok) return drainOk;
  if (perimeterRiseMm !== undefined) {
    const areaMm2 = Math.abs(signedAreaMm2(footprint));
    const visible = Math.min(areaMm2, visibleAreaMm2(footprint, drain));
    const whole = overLevelPerimeter(areaMm2, visible, perimeterRiseMm, depthAtDrainMm);
    const free = withoutBenches(whole, input, (bench) => overCone(input, perimeterRiseMm, bench.outline));
    return done(answer(free, depthAtDrainMm - perimeterRiseMm));
  }
  const shots = checkShots(input);
  if (!shots.ok) return shots;
  const { triangles, highest } = shotTriangles(input, shots.value);
  const whole = overTriangles(triangles, footprint);
  const free = withoutBenches(whole, input, (bench) => overTriangles(triangles, bench.outline));
  return done(answer(free, depthAtDrainMm - highest));
}

function answer({ mm3, mm2 }: Over, overThresholdMm: number): FloodVolume {
  const volumeL = Math.max(0, mm3) / MM3_PER_L;
  return {
    volumeL,
    massKg: volumeL * KG_PER_L,
    wettedM2: Math.max(0, mm2) / 1e6,
    depthAtThresholdMm: Math.max(0, overThresholdMm),
  };
}
