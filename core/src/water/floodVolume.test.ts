import { describe, expect, it } from 'vitest';
import type { PlanPoint } from '../shower/geometry/point';
import { insidePolygon } from '../shower/geometry/polygon';
import { type FloodVolume, type FloodVolumeInput, floodVolume } from './floodVolume';

const value = (input: FloodVolumeInput): FloodVolume => {
  const found = floodVolume(input);
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};
const at = (xMm: number, yMm: number): PlanPoint => ({ xMm, yMm });

/** How far a straight line from the drain through a point runs until it leaves the floor, over how far the point is away. */
function shareOfWay(footprint: readonly PlanPoint[], drain: PlanPoint, p: PlanPoint): number {
  let nearest = Infinity;
  footprint.forEach((a, i) => {
    const b = footprint[(i + 1) % footprint.length]!;
    const [dx, dy, ex, ey] = [p.xMm - drain.xMm, p.yMm - drain.yMm, b.xMm - a.xMm, b.yMm - a.yMm];
    const det = ex * dy - ey * dx;
    if (det === 0) return;
    const t = (ex * (a.yMm - drain.yMm) - ey * (a.xMm - drain.xMm)) / det;
    const s = (dx * (a.yMm - drain.yMm) - dy * (a.xMm - drain.xMm)) / det;
    if (t > 0 && s >= 0 && s <= 1) nearest = Math.min(nearest, t);
  });
  return 1 / nearest;
}

const CELL_MM = 7;

/** The plain way: the floor in cells of 7 mm, each with its own height, nothing where a bench stands in the water. */
function byCells(input: FloodVolumeInput, floorMm: (p: PlanPoint) => number) {
  const xs = input.footprint.map((p) => p.xMm);
  const ys = input.footprint.map((p) => p.yMm);
  let [litres, m2] = [0, 0];
  for (let x = Math.min(...xs) + CELL_MM / 2; x < Math.max(...xs); x += CELL_MM)
    for (let y = Math.min(...ys) + CELL_MM / 2; y < Math.max(...ys); y += CELL_MM) {
      const p = at(x, y);
      if (!insidePolygon(p, input.footprint)) continue;
      const depth = input.depthAtDrainMm - floorMm(p);
      if (depth <= 0) continue;
      const bench = (input.benches ?? []).find((b) => insidePolygon(p, b.outline));
      const top = bench ? Math.min(bench.highMm, input.depthAtDrainMm) : 0;
      const foot = bench ? (bench.onFloor ? floorMm(p) : bench.lowMm) : 0;
      const stands = bench ? Math.max(0, top - foot) : 0;
      litres += ((depth - stands) * CELL_MM ** 2) / 1e6;
      if (stands === 0 || input.depthAtDrainMm > bench!.highMm) m2 += CELL_MM ** 2 / 1e6;
    }
  return { litres, m2 };
}

const cone = (input: FloodVolumeInput) => (p: PlanPoint) =>
  input.perimeterRiseMm! * Math.min(1, shareOfWay(input.footprint, input.drain, p));

const L = [at(0, 0), at(1400, 0), at(1400, 700), at(700, 700), at(700, 1400), at(0, 1400)];
const FIVE = [at(0, 0), at(1050, 0), at(1050, 560), at(560, 1050), at(0, 1050)];
const box = (x: number, y: number, w: number, d: number) => [at(x, y), at(x + w, y), at(x + w, y + d), at(x, y + d)];
const close = (found: FloodVolume, plain: { litres: number; m2: number }) => {
  expect(Math.abs(found.volumeL - plain.litres)).toBeLessThan(0.012 * plain.litres + 0.02);
  expect(Math.abs(found.wettedM2 - plain.m2)).toBeLessThan(0.02 * plain.m2 + 0.002);
};

describe('water in a shower against its cells', () => {
  const corner = at(210, 210);
  it.each<[string, FloodVolumeInput]>([
    ['a pentagon', { footprint: FIVE, drain: at(300, 400), perimeterRiseMm: 24, depthAtDrainMm: 60 }],
    [
      'a pentagon, its drain near the slant',
      { footprint: FIVE, drain: at(700, 600), perimeterRiseMm: 24, depthAtDrainMm: 15 },
    ],
    ['an L, its drain in the corner', { footprint: L, drain: at(350, 350), perimeterRiseMm: 30, depthAtDrainMm: 50 }],
    ['an L, its drain at one end', { footprint: L, drain: at(1200, 300), perimeterRiseMm: 30, depthAtDrainMm: 75 }],
    [
      'a bench in a corner, over the water',
      {
        footprint: FIVE,
        drain: at(600, 500),
        perimeterRiseMm: 24,
        depthAtDrainMm: 60,
        benches: [{ outline: box(0, 0, 300, 500), onFloor: true, lowMm: 0, highMm: 430 }],
      },
    ],
    [
      'a bench of which water covers the top',
      {
        footprint: FIVE,
        drain: at(600, 500),
        perimeterRiseMm: 24,
        depthAtDrainMm: 90,
        benches: [{ outline: box(0, 0, 300, 500), onFloor: true, lowMm: 0, highMm: 60 }],
      },
    ],
    [
      'a three-cornered bench that water half wets',
      {
        footprint: FIVE,
        drain: at(600, 500),
        perimeterRiseMm: 40,
        depthAtDrainMm: 25,
        benches: [{ outline: [at(0, 0), at(520, 0), at(0, 430)], onFloor: true, lowMm: 0, highMm: 430 }],
      },
    ],
    [
      'a floating bench, one on the floor',
      {
        footprint: L,
        drain: at(350, 350),
        perimeterRiseMm: 20,
        depthAtDrainMm: 90,
        benches: [
          { outline: box(1000, 0, 400, 700), onFloor: false, lowMm: 70, highMm: 120 },
          { outline: box(0, 1000, 700, 400), onFloor: true, lowMm: 0, highMm: 450 },
        ],
      },
    ],
  ])('%s', (_name, input) => {
    const found = value(input);
    close(found, byCells(input, cone(input)));
    expect(found.massKg).toBeCloseTo(found.volumeL, 9);
    expect(found.depthAtThresholdMm).toBe(Math.max(0, input.depthAtDrainMm - input.perimeterRiseMm!));
  });
  it.each<[string, PlanPoint[], PlanPoint, number]>([
    ['a pentagon', FIVE, corner, 50],
    ['an L', L, corner, 50],
    ['an L that is half wet', L, corner, 12],
    ['a pentagon that is half wet', FIVE, at(420, 420), 9],
  ])('shots of a floor that falls in one plane: %s', (_name, footprint, drain, depthAtDrainMm) => {
    const plane = (p: PlanPoint) => 0.02 * (p.xMm - drain.xMm) + 0.012 * (p.yMm - drain.yMm);
    const shots = [...footprint, at(130, 610), at(610, 330)].map((p) => ({ ...p, zMm: plane(p) }));
    const input = { footprint, drain, shots, depthAtDrainMm };
    const found = value(input);
    close(found, byCells(input, plane));
    expect(found.depthAtThresholdMm).toBeCloseTo(Math.max(0, depthAtDrainMm - Math.max(...shots.map((s) => s.zMm))), 9);
    const benches = [{ outline: box(0, 210, 210, 350), onFloor: true, lowMm: 0, highMm: 430 }];
    close(value({ ...input, benches }), byCells({ ...input, benches }, plane));
  });
  it('three shots at least, a whole floor, a drain within it', () => {
    const shots = [...FIVE].map((p) => ({ ...p, zMm: 5 }));
    const input = { footprint: FIVE, drain: at(500, 500), depthAtDrainMm: 50 };
    const refused = (more: Partial<FloodVolumeInput>) => {
      const found = floodVolume({ ...input, ...more });
      return found.ok ? null : found.problem.field;
    };
    expect(refused({ shots: shots.slice(0, 3) })).toBeNull();
    expect(refused({ shots: shots.slice(0, 2) })).toBe('shots');
    expect(refused({})).toBe('shots');
    expect(refused({ footprint: FIVE.slice(0, 2), shots })).not.toBeNull();
    expect(refused({ drain: at(2000, 100), shots })).not.toBeNull();
  });
});
