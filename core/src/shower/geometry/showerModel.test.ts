import earcut from 'earcut';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleShower } from '../../tests/sampleShower';
import { drawnLengthMm, unfold } from '../map/unfold';
import { buildFaces, countEuler } from './body';
import { signedAreaMm2 } from './polygon';
import type { ShowerGeometry } from './showerGeometry';
import { showerModel } from './showerModel';

const IN = 25.4;

function model(geometry: ShowerGeometry) {
  const built = showerModel(geometry);
  if (!built.ok) throw new Error(built.problem.code);
  return built.value;
}
const inches = (mm: number | undefined) => Math.round(((mm ?? 0) / IN) * 1000) / 1000;

const anyShower = fc.record({
  widthMm: fc.integer({ min: 700, max: 3000 }),
  depthMm: fc.integer({ min: 700, max: 3000 }),
  wallMm: fc.integer({ min: 800, max: 3000 }),
  riseMm: fc.integer({ min: 0, max: 60 }),
  corner: fc.boolean(),
  niche: fc.boolean(),
});

describe('the shower from its dimensions', () => {
  it('lists the seams of an alcove 36 x 60 in as a person would by hand', () => {
    const { totals, seams } = model(sampleShower());
    const byKind = Object.fromEntries(Object.entries(totals.seamMmByKind).map(([k, v]) => [k, inches(v)]));
    expect(byKind).toEqual({
      'floor-wall': 36 + 60 + 36,
      'wall-wall-inside': 2 * 96,
      'curb-floor': 60,
      'curb-top-edge': 2 * 60,
      'curb-outside-floor': 60,
      'curb-wall': 2 * (5.25 + 4.5 + 6),
      'top-termination': 40.5 + 60 + 40.5,
      'side-termination': 2 * (96.75 - 6),
      'board-joint': 40.5 + 60 + 40.5,
      'sheet-lap': 40.5 + 60 + 40.5,
    });
    expect(totals.cornersByKind).toEqual({ inside: 4, outside: 0, mixed: 4 });
    expect(new Set(seams.map((s) => s.id)).size).toBe(seams.length);
  });

  it('lets two curbs of a corner shower meet', () => {
    const { totals } = model(sampleShower({ corner: true }));
    expect(inches(totals.seamMmByKind['curb-curb'])).toBeCloseTo(5.25 + 4.5 * Math.SQRT2 + 6, 3);
    expect(totals.cornersByKind.outside).toBe(1);
  });

  it('starts every seam at its left end as seen from inside, uprights at the lower end', () => {
    const { seams } = model(sampleShower());
    const back = seams.find((s) => s.id.endsWith('wall:back') && s.kind === 'floor-wall')!;
    expect(back.points[0]![0]).toBeLessThan(back.points[1]![0]);
    const curb = seams.find((s) => s.kind === 'curb-floor')!;
    expect(curb.points[0]![0]).toBeGreaterThan(curb.points[1]![0]);
    for (const s of seams.filter((x) => x.kind === 'wall-wall-inside')) expect(s.points[0]![2]).toBe(s.lowMm);
  });

  it('satisfies Euler-Poincaré with and without a niche: v - e + f - r = 2(1 - g)', () => {
    fc.assert(
      fc.property(anyShower, (options) => {
        const { v, e, f, r, g } = model(sampleShower(options)).euler;
        expect(v - e + f - r).toBe(2 * (1 - g));
      }),
    );
    const closed = {
      ...sampleShower(),
      edges: ['a', 'b', 'c', 'd'].map((id) => ({ kind: 'wall' as const, id, heightMm: 2000 })),
      penetrations: [],
    };
    expect(model(closed).euler).toEqual({ v: 8 + 1, e: 12 + 1, f: 6 + 1, r: 1, g: 0 });
    expect(
      model({
        ...closed,
        niches: [{ id: 'n', edge: 0, alongMm: 300, sillMm: 900, widthMm: 300, heightMm: 300, depthMm: 90 }],
      }).euler,
    ).toEqual({ v: 17, e: 25, f: 12, r: 2, g: 0 });
  });

  it('finds a body that is not closed', () => {
    expect(() => countEuler(buildFaces(sampleShower()).slice(1))).toThrow(/exactly two faces/);
  });

  it('measures the floor as a triangulation does, and the angles of its outline sum up', () => {
    fc.assert(
      fc.property(anyShower, (options) => {
        const g = sampleShower(options);
        const flat = g.footprint.flatMap((p) => [p.xMm, p.yMm]);
        const triangles = earcut(flat);
        let area = 0;
        for (let i = 0; i < triangles.length; i += 3)
          area += Math.abs(signedAreaMm2(triangles.slice(i, i + 3).map((k) => g.footprint[k]!)));
        expect(model(g).totals.floorMm2).toBeCloseTo(area, 3);
        expect(triangles.length / 3).toBe(g.footprint.length - 2);
      }),
    );
  });

  it('unfolds without stretching: each seam is drawn as long as it is', () => {
    fc.assert(
      fc.property(anyShower, (options) => {
        const built = model(sampleShower({ ...options, niche: false }));
        const lengths = new Map(built.seams.map((s) => [s.id, s.lengthMm]));
        const drawn = new Set<string>();
        for (const { seams } of unfold(built)) {
          for (const d of seams) {
            drawn.add(d.seam);
            if (!d.seam.startsWith('curb-curb')) expect(drawnLengthMm(d.points)).toBeCloseTo(lengths.get(d.seam)!, 6);
          }
        }
        expect(drawn.size).toBe(built.seams.length);
      }),
      { numRuns: 40 },
    );
  });

  it('keeps all ids when a dimension changes a little', () => {
    const ids = (widthMm: number) =>
      model(sampleShower({ widthMm }))
        .seams.map((s) => s.id)
        .sort();
    expect(ids(1524)).toEqual(ids(1540));
  });

  it.each([
    ['a drain outside the floor', { ...sampleShower(), drain: { kind: 'point' as const, xMm: 5000, yMm: 0 } }, 'drain'],
    ['a drain in the wall', { ...sampleShower(), drain: { kind: 'point' as const, xMm: 20, yMm: 400 } }, 'drain'],
    [
      'a crossed outline',
      { ...sampleShower(), footprint: [0, 2, 1, 3].map((i) => sampleShower().footprint[i]!) },
      'footprint.0',
    ],
    ['a clockwise outline', { ...sampleShower(), footprint: [...sampleShower().footprint].reverse() }, 'footprint'],
    [
      'a joint above its wall',
      {
        ...sampleShower(),
        edges: sampleShower().edges.map((e) =>
          e.kind === 'wall' ? { ...e, boardJoints: [{ id: 'x', run: 'level' as const, atMm: 9000 }] } : e,
        ),
      },
      'edges.1.boardJoints.0.atMm',
    ],
    [
      'a valve beside its wall',
      {
        ...sampleShower(),
        penetrations: [{ id: 'v', kind: 'valve' as const, edge: 3, alongMm: 10, heightMm: 900, diameterMm: 100 }],
      },
      'penetrations.0',
    ],
    ['a curb lower than the floor beside it', sampleShower({ riseMm: 200 }), 'edges.0.heightMm'],
  ])('refuses %s and names the field', (_name, geometry, field) => {
    const built = showerModel(geometry);
    expect(built).toMatchObject({ ok: false, problem: { field } });
  });
});
