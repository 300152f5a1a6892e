import { describe, expect, it } from 'vitest';
import { basinChanged, SAME_BASIN_MM } from '../proof/water/basin';
import { showerModel } from '../shower/geometry/showerModel';
import { sampleModel, sampleShower } from '../tests/sampleShower';
import { lowestCurbMm, outsideWater, stretchBelow, waterProof } from './waterProof';

const IN = 25.4;
const model = sampleModel();

describe('what lies under a water line', () => {
  const upright = {
    lengthMm: 100,
    lowMm: 20,
    highMm: 120,
    points: [
      [0, 0, 20],
      [0, 0, 120],
    ],
  } as never;
  const hanging = {
    lengthMm: 100,
    lowMm: 20,
    highMm: 120,
    points: [
      [0, 0, 120],
      [0, 0, 20],
    ],
  } as never;
  const level = {
    lengthMm: 100,
    lowMm: 20,
    highMm: 20,
    points: [
      [0, 0, 20],
      [100, 0, 20],
    ],
  } as never;
  it('of a seam: its lower part, whichever end it is measured from', () => {
    expect(stretchBelow(upright, 60)).toEqual({ fromMm: 0, toMm: 40 });
    expect(stretchBelow(hanging, 60)).toEqual({ fromMm: 60, toMm: 100 });
    expect(stretchBelow(upright, 20)).toEqual({ fromMm: 0, toMm: 0 });
    expect(stretchBelow(upright, 19)).toBeNull();
    expect(stretchBelow(upright, 120)).toEqual({ fromMm: 0, toMm: 100 });
    expect(stretchBelow(hanging, 500)).toEqual({ fromMm: 0, toMm: 100 });
    expect(stretchBelow(level, 20)).toEqual({ fromMm: 0, toMm: 100 });
    expect(stretchBelow(level, 19.9)).toBeNull();
  });
  it('of an alcove: the feet, the lower ends of its corners, the curb inside; nothing outside', () => {
    const found = waterProof(model, 3 * IN);
    const wet = new Map(found.under.map((u) => [u.seam.id, u.wetMm]));
    expect(wet.get('floor-wall|floor|wall:back')).toBeCloseTo(60 * IN, 3);
    const corner = model.seams.find((s) => s.kind === 'wall-wall-inside')!;
    expect(wet.get(corner.id)).toBeCloseTo(2.25 * IN, 3);
    for (const s of model.seams.filter(outsideWater)) expect(wet.has(s.id)).toBe(false);
    expect(model.seams.filter(outsideWater).length).toBeGreaterThan(0);
    expect(found.wetMm).toBeCloseTo(
      [...wet.values()].reduce((a, b) => a + b, 0),
      6,
    );
    const dry = new Map(found.above.map((a) => [a.seam.id, a.dryMm]));
    for (const s of model.seams) expect((wet.get(s.id) ?? 0) + (dry.get(s.id) ?? 0)).toBeCloseTo(s.lengthMm, 0);
    expect(dry.has('floor-wall|floor|wall:back')).toBe(false);
    expect(waterProof(model, -1).under).toEqual([]);
  });
  it('the lowest curb holds it; without a curb nothing does', () => {
    expect(lowestCurbMm(model)).toBe(6 * IN);
    const curbs = (...heights: number[]) =>
      lowestCurbMm({
        geometry: {
          edges: [{ kind: 'wall', heightMm: 1 }, ...heights.map((heightMm) => ({ kind: 'curb', heightMm }))],
        },
      } as never);
    expect(curbs(150, 100, 200)).toBe(100);
    expect(curbs()).toBeNull();
  });
});

describe('the basin below a water line is the same', () => {
  const line = 3 * IN;
  const to = (
    more: Parameters<typeof sampleShower>[0],
    change: (g: ReturnType<typeof sampleShower>) => object = () => ({}),
  ) => {
    const g = sampleShower(more);
    const made = showerModel({ ...g, ...change(g) } as typeof g);
    if (!made.ok) throw new Error(made.problem.code);
    return basinChanged(model, made.value, line);
  };
  it('where nothing changed, or only what stands above it', () => {
    expect(to({})).toBe(false);
    expect(to({ wallMm: 90 * IN })).toBe(false);
    expect(to({ niche: true })).toBe(false);
  });
  it('and is another one an inch wider or deeper, or with its feet 5 mm higher', () => {
    expect(to({ widthMm: 60 * IN + 24 })).toBe(false);
    expect(to({ widthMm: 60 * IN + SAME_BASIN_MM })).toBe(true);
    expect(to({ depthMm: 36 * IN - 26 })).toBe(true);
    expect(to({ riseMm: 0.75 * IN + 4 })).toBe(false);
    expect(to({ riseMm: 0.75 * IN + 5.1 })).toBe(true);
    expect(to({ riseMm: 0.75 * IN - 5.1 })).toBe(true);
    expect(to({ corner: true })).toBe(true);
  });
  it('or with its drain moved, or a pipe under water', () => {
    const drain = (by: number) => to({}, (g) => ({ drain: { ...g.drain, xMm: g.drain.xMm + by } }));
    expect(drain(24)).toBe(false);
    expect(drain(25)).toBe(true);
    const pipe = (heightMm: number, id = 'p') =>
      to({}, (g) => ({
        penetrations: [...g.penetrations!, { id, kind: 'other', edge: 3, alongMm: 300, heightMm, diameterMm: 30 }],
      }));
    expect(pipe(200)).toBe(false);
    expect(pipe(40)).toBe(true);
    // One pipe for another, both under water.
    const with1 = showerModel({
      ...sampleShower(),
      penetrations: [{ id: 'a', kind: 'other', edge: 3, alongMm: 300, heightMm: 30, diameterMm: 30 }],
    });
    const with2 = showerModel({
      ...sampleShower(),
      penetrations: [{ id: 'b', kind: 'other', edge: 3, alongMm: 300, heightMm: 30, diameterMm: 30 }],
    });
    if (!with1.ok || !with2.ok) throw new Error('refused');
    expect(basinChanged(with1.value, with2.value, line)).toBe(true);
    expect(basinChanged(with1.value, with1.value, line)).toBe(false);
  });
});
