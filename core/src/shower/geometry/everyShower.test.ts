import earcut from 'earcut';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyShower, SHAPES, shapedShower } from '../../tests/anyShower';
import { buildFaces } from './body';
import { type Face, faceAreaMm2, faceNormal, halfEdges, sideKey } from './face';
import { cross, distance3, dot, type Point3 } from './point';
import type { ShowerGeometry } from './showerGeometry';
import { showerModel } from './showerModel';

function model(geometry: ShowerGeometry) {
  const built = showerModel(geometry);
  if (!built.ok) throw new Error(`${built.problem.field}: ${built.problem.code}`);
  return built.value;
}

/** A face's outline and openings in its own plane, for a triangulation from outside. */
function inItsPlane(face: Face): { flat: number[]; holes: number[] } {
  const n = faceNormal(face);
  const along: Point3 = Math.abs(n[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const u = cross(along, n);
  const v = cross(n, u);
  const flat: number[] = [];
  const holes: number[] = [];
  for (const loop of [face.loop, ...face.rings]) {
    if (flat.length > 0) holes.push(flat.length / 2);
    for (const p of loop) flat.push(dot(p, u), dot(p, v));
  }
  const size = dot(u, u);
  return { flat: flat.map((x) => x / Math.sqrt(size)), holes };
}

const run = (numRuns = 300) => ({ numRuns });

describe('every room a firm meets, with niches, shelves, benches and ceilings', () => {
  it('closes each shape by itself, so that a failure names it', () => {
    for (const make of SHAPES)
      for (let bench = 0; bench <= 6; bench += 1)
        for (const ceiling of [0, 1, 2]) {
          const { name, geometry } = shapedShower(make(1500, 1400), {
            bench,
            shelves: bench % 3,
            ceiling,
            riseMm: 19,
            lineDrain: bench % 2 === 0,
          });
          const built = showerModel(geometry);
          if (!built.ok) throw new Error(`${name}: ${built.problem.field}: ${built.problem.code}`);
          const { v, e, f, r, g } = built.value.euler;
          expect(`${name}: ${v - e + f - r}`).toBe(`${name}: ${2 * (1 - g)}`);
        }
  });

  it('is one closed body: each side belongs to two faces, v - e + f - r = 2(1 - g)', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const { v, e, f, r, g } = model(geometry).euler;
        expect(v - e + f - r).toBe(2 * (1 - g));
      }),
      run(),
    );
  });

  it('measures every flat face as a triangulation does', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        for (const face of buildFaces(geometry).filter((f) => f.kind !== 'outside')) {
          const { flat, holes } = inItsPlane(face);
          const triangles = earcut(flat, holes);
          let area = 0;
          for (let i = 0; i < triangles.length; i += 3) {
            const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!].map((k) => [
              flat[2 * k]!,
              flat[2 * k + 1]!,
            ]) as [number[], number[], number[]];
            area += Math.abs((b[0]! - a[0]!) * (c[1]! - a[1]!) - (c[0]! - a[0]!) * (b[1]! - a[1]!)) / 2;
          }
          expect(Math.abs(area - faceAreaMm2(face))).toBeLessThan(1 + area * 1e-6);
        }
      }),
      run(120),
    );
  });

  it('lists each line where faces meet in exactly one seam, and no id twice', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const { seams, corners } = model(geometry);
        const faces = buildFaces(geometry);
        const kinds = new Map(faces.map((f) => [f.id, f.kind]));
        const sides = new Map(faces.flatMap(halfEdges).map((h) => [sideKey(h.from, h.to), h]));
        let builtMm = 0;
        for (const h of sides.values()) {
          const twin = sides.get(sideKey(h.to, h.from))!;
          const built = kinds.get(h.face) !== 'outside' || kinds.get(twin.face) !== 'outside';
          if (built && h.face < twin.face) builtMm += distance3(h.from, h.to);
        }
        const seamMm = seams.reduce((sum, s) => sum + s.lengthMm, 0);
        expect(Math.abs(seamMm - builtMm)).toBeLessThan(0.01);
        expect(new Set(seams.map((s) => s.id)).size).toBe(seams.length);
        expect(new Set(corners.map((c) => c.id)).size).toBe(corners.length);
      }),
      run(150),
    );
  });

  it('keeps all ids when a dimension changes a little', () => {
    fc.assert(
      fc.property(anyShower, fc.integer({ min: -8, max: 8 }), ({ geometry }, byMm) => {
        const stretched = {
          ...geometry,
          footprint: geometry.footprint.map((p) => ({ xMm: p.xMm * (1 + byMm / 1000), yMm: p.yMm })),
          benches: (geometry.benches ?? []).map((b) =>
            b.kind === 'along' && b.alongMm === 0 && b.id !== 'left'
              ? { ...b, widthMm: b.widthMm * (1 + byMm / 1000) }
              : b,
          ),
        };
        const built = showerModel(stretched);
        if (!built.ok) return;
        expect(built.value.seams.map((s) => s.id).sort()).toEqual(
          model(geometry)
            .seams.map((s) => s.id)
            .sort(),
        );
      }),
      run(120),
    );
  });
});
