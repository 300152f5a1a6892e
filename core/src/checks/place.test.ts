import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Place } from '../log/places';
import type { ElementSize } from '../log/state';
import { elementsOf, stillFits } from '../proof/fold/foldEvidence';
import { distance3, type Point3 } from '../shower/geometry/point';
import { showerModel } from '../shower/geometry/showerModel';
import { sampleModel, sampleShower } from '../tests/sampleShower';
import { distanceTo, facesOf, lowestOf, partsOfFace, shapeOf, stretchOn } from './place';

const IN = 25.4;
const RISE = 0.75 * IN;
const model = sampleModel({ niche: true });
const foot = 'floor-wall|floor|wall:back';

describe('the stretch that a place means', () => {
  const seam = { lengthMm: 1000 };
  it.each([
    [{}, [0, 1000]],
    [{ fromMm: 200 }, [200, 1000]],
    [{ toMm: 300 }, [0, 300]],
    [{ fromMm: 200, toMm: 300 }, [200, 300]],
    // Typed backwards, and beyond the seam.
    [{ fromMm: 300, toMm: 200 }, [200, 300]],
    [{ fromMm: 900, toMm: 1500 }, [900, 1000]],
    [{ fromMm: -50, toMm: 100 }, [0, 100]],
    [{ fromMm: 1000, toMm: 1200 }, [1000, 1000]],
    // To the end as it was drawn then: the seam is shorter, or longer, now.
    [{ fromMm: 200, toMm: 1200, lengthMm: 1200 }, [200, 1000]],
    [{ fromMm: 200, toMm: 800, lengthMm: 800 }, [200, 1000]],
    [{ fromMm: 200, toMm: 799, lengthMm: 800 }, [200, 1000]],
    [{ fromMm: 200, toMm: 801, lengthMm: 800 }, [200, 1000]],
    [{ fromMm: 200, toMm: 798.9, lengthMm: 800 }, [200, 798.9]],
    [{ fromMm: 200, toMm: 801.1, lengthMm: 800 }, [200, 801.1]],
  ])('%o', (place, [fromMm, toMm]) => {
    expect(stretchOn(seam, place)).toEqual({ fromMm, toMm });
  });
  it('is none where all of it lies beyond the seam', () => {
    expect(stretchOn(seam, { fromMm: 1001, toMm: 1200 })).toBeNull();
    expect(stretchOn(seam, { fromMm: 1200, toMm: 1002 })).toBeNull();
  });
});

describe('places in space', () => {
  const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
  const point = fc.tuple(coordinate, coordinate, coordinate) as fc.Arbitrary<Point3>;

  it('a point is as far from a line as from the nearest of its points', () => {
    fc.assert(
      fc.property(point, point, point, point, (p, a, b, c) => {
        const near = (from: Point3, to: Point3) =>
          Math.min(
            ...Array.from({ length: 401 }, (_, k) =>
              distance3(p, from.map((x, i) => x + ((to[i]! - x) * k) / 400) as unknown as Point3),
            ),
          );
        const found = distanceTo(p, { line: [a, b, c] });
        const walked = Math.min(near(a, b), near(b, c));
        expect(found).toBeLessThanOrEqual(walked + 1e-6);
        expect(found).toBeGreaterThan(walked - 5);
      }),
      { seed: 3, numRuns: 100 },
    );
    expect(
      distanceTo([3, 4, 0], {
        line: [
          [0, 0, 0],
          [0, 0, 0],
        ],
      }),
    ).toBe(5);
  });
  it('and from a surface straight down onto it, beside it to its edge, through a notch to the rest', () => {
    // An L in a slanting plane: x and y in the plane z = x, so that its normal leans.
    const at = (x: number, y: number, up = 0): Point3 => [x - up / Math.SQRT2, y, x + up / Math.SQRT2];
    const loop = [at(0, 0), at(200, 0), at(200, 100), at(100, 100), at(100, 200), at(0, 200)];
    expect(distanceTo(at(50, 50), { loop })).toBeCloseTo(0, 6);
    expect(distanceTo(at(50, 150, 30), { loop })).toBeCloseTo(30, 6);
    expect(distanceTo(at(150, 50, -30), { loop })).toBeCloseTo(30, 6);
    // Over the notch the nearest is its edge, not the plane below.
    expect(distanceTo(at(150, 150), { loop })).toBeCloseTo(50, 6);
    expect(distanceTo(at(110, 150, 40), { loop })).toBeCloseTo(Math.hypot(10 * Math.SQRT2, 40), 4);
    expect(distanceTo(at(50, -20), { loop })).toBeCloseTo(20, 6);
    expect(distanceTo(at(50, 230), { loop })).toBeCloseTo(30, 6);
    expect(distanceTo(at(-10, 100), { loop })).toBeCloseTo(10 * Math.SQRT2, 6);
    // Turned round it is the same surface.
    expect(distanceTo(at(50, 150, 30), { loop: [...loop].reverse() })).toBeCloseTo(30, 6);
    // A surface without an area has an edge all the same.
    expect(
      distanceTo([0, 0, 5], {
        loop: [
          [0, 0, 0],
          [1, 0, 0],
          [2, 0, 0],
        ],
      }),
    ).toBe(5);
  });
  it('are lines, points and surfaces as they were drawn', () => {
    const seam = model.seams.find((s) => s.id === foot)!;
    const part = shapeOf(model, { element: foot, fromMm: 100, toMm: 300 });
    if (!part || !('line' in part)) throw new Error('a seam is a line');
    expect(part.line).toHaveLength(2);
    expect(distance3(part.line[0]!, part.line[1]!)).toBeCloseTo(200, 6);
    expect(distance3(part.line[0]!, seam.points[0]!)).toBeCloseTo(100, 6);
    expect(shapeOf(model, { element: foot, fromMm: 9000, toMm: 9100 })).toBeNull();
    expect(shapeOf(model, { element: 'nowhere' })).toBeNull();
    expect(shapeOf(model, { element: model.drain.id })).toEqual({ line: [model.drain.point, model.drain.point] });
    const [corner] = model.corners;
    expect(shapeOf(model, { element: corner!.id })).toEqual({ line: [corner!.point, corner!.point] });
    expect(shapeOf(model, { element: 'wall:back' })).toHaveProperty('loop');
  });
  it('a seam that turns corners has them on its line, as far as the place reaches over them', () => {
    const points: Point3[] = [
      [0, 0, 0],
      [100, 0, 0],
      [100, 50, 0],
      [100, 50, 80],
    ];
    const bent = { ...model, seams: [{ ...model.seams[0]!, id: 'bent', points, lengthMm: 230 }] };
    const line = (fromMm?: number, toMm?: number) => {
      const shape = shapeOf(bent, {
        element: 'bent',
        ...(fromMm === undefined ? {} : { fromMm }),
        ...(toMm === undefined ? {} : { toMm }),
      });
      return shape && 'line' in shape ? shape.line : null;
    };
    expect(line()).toEqual(points);
    expect(line(0, 100)).toEqual([points[0], points[1]]);
    expect(line(50, 110)).toEqual([[50, 0, 0], points[1], [100, 10, 0]]);
    expect(line(100, 150)).toEqual([points[1], points[2]]);
    expect(line(120, 200)).toEqual([[100, 20, 0], points[2], [100, 50, 50]]);
  });
  it('have a lowest point over the drain', () => {
    expect(lowestOf(model, { element: foot })).toBeCloseTo(RISE, 6);
    expect(lowestOf(model, { element: 'wall:back' })).toBeCloseTo(RISE, 6);
    expect(lowestOf(model, { element: 'valve' })).toBe(-Infinity);
    const valve = model.penetrations[0]!;
    expect(lowestOf(model, { element: valve.id })).toBeCloseTo(valve.point[2], 6);
    expect(lowestOf(model, { element: 'shower' })).toBe(-Infinity);
    const upright = model.seams.find((s) => s.kind === 'wall-wall-inside' && s.highMm - s.lowMm > 1000)!;
    const from = upright.points[0]![2] < upright.points.at(-1)![2] ? 500 : upright.lengthMm - 600;
    expect(lowestOf(model, { element: upright.id, fromMm: from, toMm: from + 100 })).toBeCloseTo(
      upright.lowMm + 500,
      4,
    );
  });
});

describe('what goes with a face', () => {
  it('an element lies on its faces, a hole on its wall, the drain on the floor, a face on itself', () => {
    expect(facesOf(model, foot)).toEqual(['floor', 'wall:back']);
    expect(facesOf(model, model.penetrations[0]!.id)).toEqual([model.penetrations[0]!.face]);
    expect(facesOf(model, model.drain.id)).toEqual(['floor']);
    expect(facesOf(model, 'wall:left')).toEqual(['wall:left']);
    expect(facesOf(model, model.corners[0]!.id)).toEqual(model.corners[0]!.faces);
  });
  it('a wall takes its seams, corners, openings and the niche in it; another wall none of them', () => {
    const back = partsOfFace(model, 'wall:back');
    const left = partsOfFace(model, 'wall:left');
    expect(back.has('niche:n:back')).toBe(true);
    expect(left.has('niche:n:back')).toBe(false);
    for (const s of model.seams) {
      const onNiche = s.faces.some((f) => f.startsWith('niche:n:'));
      expect(back.has(s.id)).toBe(onNiche || s.faces.includes('wall:back'));
      expect(left.has(s.id)).toBe(s.faces.includes('wall:left'));
    }
    expect(left.has(model.penetrations[0]!.id)).toBe(true);
    expect(back.has(model.penetrations[0]!.id)).toBe(false);
    expect(back.has(model.drain.id)).toBe(false);
    const floor = partsOfFace(model, 'floor');
    expect([floor.has(model.drain.id), floor.has('floor'), floor.has(foot), floor.has('niche:n:back')]).toEqual([
      true,
      true,
      true,
      false,
    ]);
    expect(floor.has('wall:back')).toBe(false);
  });
  it('a bench goes with the wall that it stands along, a corner seat with both of its walls', () => {
    const built = (bench: object) => {
      const made = showerModel({ ...sampleShower(), benches: [bench] } as ReturnType<typeof sampleShower>);
      if (!made.ok) throw new Error(made.problem.code);
      return (wall: string) => partsOfFace(made.value, wall).has('bench:b:top');
    };
    const along = built({ kind: 'along', id: 'b', edge: 2, alongMm: 0, widthMm: 60 * IN, depthMm: 300, topMm: 450 });
    expect(['wall:back', 'wall:left', 'wall:right', 'floor'].map(along)).toEqual([true, false, false, false]);
    const seat = (corner: number) => {
      const of = built({ kind: 'corner', id: 'b', corner, legLeftMm: 400, legRightMm: 400, topMm: 450 });
      return ['wall:right', 'wall:back', 'wall:left'].map(of);
    };
    expect(seat(2)).toEqual([true, true, false]);
    expect(seat(3)).toEqual([false, true, true]);
  });
});

describe('whether a place still means what it meant', () => {
  const face = (widthMm: number, heightMm: number, areaMm2 = widthMm * heightMm) =>
    ({ of: 'face', widthMm, heightMm, areaMm2 }) as const;
  const point = (x: number, y: number) => ({ of: 'point', at: [x, y] as [number, number] }) as const;
  const fits = (then: ElementSize | null, now: ElementSize | null, isDrawn = true) =>
    stillFits(
      {
        seamById: new Map(),
        elementIds: new Set(isDrawn ? ['it'] : []),
        sizes: new Map(now ? [['it', now]] : []),
      },
      { element: 'it' },
      then,
    );
  it('a face whose sides and area changed by less than 25 mm', () => {
    expect(fits(face(1000, 2000), face(1000, 2000))).toBe(true);
    expect(fits(face(1000, 2000), face(1024, 2000))).toBe(true);
    expect(fits(face(1000, 2000), face(1000, 2024.9, 2_000_000))).toBe(true);
    expect(fits(face(1000, 2000, 0), face(1025, 2000, 0))).toBe(false);
    expect(fits(face(1000, 2000, 0), face(975, 2000, 0))).toBe(false);
    expect(fits(face(1000, 2000, 0), face(1000, 2025, 0))).toBe(false);
    expect(fits(face(1000, 2000, 0), face(1000, 1975, 0))).toBe(false);
    // Something was cut out of it, as much as a strip of 25 mm along its longer side.
    expect(fits(face(1000, 2000, 2_000_000), face(1000, 2000, 1_950_001))).toBe(true);
    expect(fits(face(1000, 2000, 2_000_000), face(1000, 2000, 1_950_000))).toBe(false);
    expect(fits(face(1000, 2000, 1_950_000), face(1000, 2000, 2_000_000))).toBe(false);
    expect(fits(face(2000, 1000, 2_000_000), face(2000, 1000, 1_950_001))).toBe(true);
  });
  it('a point that moved by less than 25 mm, as the crow flies', () => {
    expect(fits(point(0, 0), point(24.9, 0))).toBe(true);
    expect(fits(point(0, 0), point(0, 25))).toBe(false);
    expect(fits(point(10, 10), point(27, 27))).toBe(true);
    expect(fits(point(10, 10), point(28, 28))).toBe(false);
    expect(fits(point(28, 28), point(10, 10))).toBe(false);
    expect(fits(point(0, 0), face(0, 0))).toBe(false);
    expect(fits(face(0, 0), point(0, 0))).toBe(false);
  });
  it('what is no longer drawn does not; where a size is not known on one side, the place stands', () => {
    expect(fits(face(1, 1), face(1, 1), false)).toBe(false);
    expect(fits(null, face(1, 1))).toBe(true);
    expect(fits(face(1, 1), null)).toBe(true);
    expect(fits(null, null)).toBe(true);
  });
  it('a seam by its length then and where it began', () => {
    const seam = model.seams.find((s) => s.id === foot)!;
    const on = (place: Partial<Place>) =>
      stillFits(
        { seamById: new Map([[foot, seam]]), elementIds: new Set(), sizes: new Map() },
        { element: foot, ...place },
        null,
      );
    expect(on({})).toBe(true);
    expect(on({ lengthMm: seam.lengthMm + 24.9 })).toBe(true);
    expect(on({ lengthMm: seam.lengthMm - 24.9 })).toBe(true);
    expect(on({ lengthMm: seam.lengthMm + 25 })).toBe(false);
    expect(on({ lengthMm: seam.lengthMm - 25 })).toBe(false);
    expect(on({ startKey: seam.startKey })).toBe(true);
    expect(on({ startKey: 'elsewhere' })).toBe(false);
    expect(on({ lengthMm: seam.lengthMm, startKey: 'elsewhere' })).toBe(false);
  });
  it('what a model has to look at: seams, corners, openings, faces, drain, the whole; and what they measure', () => {
    const found = elementsOf(model);
    expect(found.seamById.size).toBe(model.seams.length);
    expect(found.elementIds).toEqual(
      new Set([
        ...[...model.corners, ...model.penetrations, ...model.faces].map((e) => e.id),
        model.drain.id,
        'shower',
      ]),
    );
    expect(found.sizes.get(model.drain.id)).toEqual(point(model.geometry.drain.xMm, model.geometry.drain.yMm));
    for (const p of model.geometry.penetrations ?? [])
      expect(found.sizes.get(`penetration:${p.id}`)).toEqual(point(p.alongMm, p.heightMm));
    const size = (id: string) => found.sizes.get(id)!;
    expect(size('floor')).toMatchObject({ of: 'face', widthMm: 60 * IN, heightMm: 36 * IN });
    const back = size('wall:back');
    expect(back.of === 'face' && back.widthMm).toBeCloseTo(60 * IN, 6);
    // A side wall runs on to the outer face of the curb.
    const left = size('wall:left');
    expect(left.of === 'face' && left.widthMm).toBeCloseTo(40.5 * IN, 6);
    expect(left.of === 'face' && left.heightMm).toBeGreaterThan(80 * IN);
  });
});
