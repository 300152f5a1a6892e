import Delaunator from 'delaunator';
import { z } from 'zod';
import { checkDrain, checkFootprint } from '../geometry/checkGeometry';
import { PlanPoint } from '../geometry/point';
import { insidePolygon, signedAreaMm2 } from '../geometry/polygon';
import { done, type Outcome, refuse } from '../outcome/outcome';

/** kg of a litre of cold water, rounded up to the safe side. */
const KG_PER_L = 1;
const MM3_PER_L = 1e6;

const mm = z.number();
/** A height of the floor, mm above the drain rim. */
const Shot = z.object({ xMm: mm, yMm: mm, zMm: mm });
type Shot = z.infer<typeof Shot>;

export const FloodVolumeInput = z.object({
  footprint: z.array(PlanPoint).min(3),
  drain: PlanPoint,
  /** A level perimeter, mm above the drain rim; or shots of the floor instead. */
  perimeterRiseMm: z.number().min(0).optional(),
  shots: z.array(Shot).max(2000).optional(),
  /** Water over the drain rim, mm. */
  depthAtDrainMm: z.number().positive().max(5000),
});
export type FloodVolumeInput = z.infer<typeof FloodVolumeInput>;

export interface FloodVolume {
  volumeL: number;
  massKg: number;
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

/** Water over a cone of straight lines that rises from the drain to a level edge; what the drain can't see lies at the edge's height. */
function overLevelPerimeter(areaMm2: number, visibleMm2: number, riseMm: number, depthMm: number) {
  const hidden = areaMm2 - visibleMm2;
  if (depthMm >= riseMm) {
    return { mm3: visibleMm2 * (depthMm - (2 / 3) * riseMm) + hidden * (depthMm - riseMm), wettedMm2: areaMm2 };
  }
  const share = (depthMm / riseMm) ** 2;
  return { mm3: (visibleMm2 * share * depthMm) / 3, wettedMm2: visibleMm2 * share };
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
function overTriangle(corners: readonly Corner[]): { mm3: number; mm2: number } {
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

/** The floor as triangles between the shots and the drain; corners of the footprint take the height of the nearest shot. */
function overShots(input: FloodVolumeInput, shots: readonly Shot[]) {
  const known = [{ ...input.drain, zMm: 0 }, ...shots];
  const away = (p: PlanPoint, s: Shot) => Math.hypot(p.xMm - s.xMm, p.yMm - s.yMm);
  const ends = input.footprint
    .filter((p) => !known.some((s) => away(p, s) < 1))
    .map((p) => ({ ...p, zMm: known.reduce((best, s) => (away(p, s) < away(p, best) ? s : best)).zMm }));
  const points: Corner[] = [...known, ...ends].map((s) => ({ x: s.xMm, y: s.yMm, over: input.depthAtDrainMm - s.zMm }));
  const { triangles } = Delaunator.from(
    points,
    (p) => p.x,
    (p) => p.y,
  );
  let [mm3, wettedMm2] = [0, 0];
  for (let i = 0; i < triangles.length; i += 3) {
    const corners = [points[triangles[i]!]!, points[triangles[i + 1]!]!, points[triangles[i + 2]!]!] as const;
    for (const part of insideParts(corners, input.footprint, 6)) {
      const over = overTriangle(part);
      mm3 += over.mm3;
      wettedMm2 += over.mm2;
    }
  }
  const highest = Math.max(...ends.map((e) => e.zMm), ...shots.map((s) => s.zMm));
  return { mm3, wettedMm2, highest };
}

function checkShots(input: FloodVolumeInput): Outcome<Shot[]> {
  const shots = input.shots ?? [];
  if (shots.length < 3)
    return refuse(
      'range-invalid',
      'shots',
      'Give the rise of a level perimeter, or at least three shots of the floor.',
    );
  return done(shots);
}

/**
 * Water that stands in a shower: V = ∫ max(0, level − z) dA over the floor. The floor is either straight lines from a
 * level perimeter down to the drain, or the surface through shots. z is 0 at the drain rim.
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
    const { mm3, wettedMm2 } = overLevelPerimeter(areaMm2, visible, perimeterRiseMm, depthAtDrainMm);
    return done(answer(mm3, wettedMm2, depthAtDrainMm - perimeterRiseMm));
  }
  const shots = checkShots(input);
  if (!shots.ok) return shots;
  const { mm3, wettedMm2, highest } = overShots(input, shots.value);
  return done(answer(mm3, wettedMm2, depthAtDrainMm - highest));
}

function answer(mm3: number, wettedMm2: number, overThresholdMm: number): FloodVolume {
  const volumeL = mm3 / MM3_PER_L;
  return {
    volumeL,
    massKg: volumeL * KG_PER_L,
    wettedM2: wettedMm2 / 1e6,
    depthAtThresholdMm: Math.max(0, overThresholdMm),
  };
}
