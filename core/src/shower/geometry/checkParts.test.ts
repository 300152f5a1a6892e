import { describe, expect, it } from 'vitest';
import type { ProblemCode } from '../../outcome/problems';
import { SHAPES, shapedShower } from '../../tests/anyShower';
import { sampleShower } from '../../tests/sampleShower';
import type { Bench, Niche, ShowerGeometry } from './showerGeometry';
import { showerModel } from './showerModel';

const IN = 25.4;
const base = sampleShower();
const niche: Niche = { id: 'n', edge: 2, alongMm: 500, sillMm: 1000, widthMm: 300, heightMm: 600, depthMm: 90 };
const bench: Bench = { kind: 'along', id: 'b', edge: 2, alongMm: 300, widthMm: 500, depthMm: 300, topMm: 450 };
const showerWith = (more: Partial<ShowerGeometry>): ShowerGeometry => ({ ...base, ...more });
const edges = (change: (i: number) => object) =>
  base.edges.map((e, i) => ({ ...e, ...change(i) })) as ShowerGeometry['edges'];
const inches = (mm: number | undefined) => Math.round(((mm ?? 0) / IN) * 1000) / 1000;

function seams(geometry: ShowerGeometry): Record<string, number> {
  const built = showerModel(geometry);
  if (!built.ok) throw new Error(built.problem.code);
  return Object.fromEntries(Object.entries(built.value.totals.seamMmByKind).map(([k, v]) => [k, inches(v)]));
}

describe('what stands in a shower', () => {
  it('lists the seams of a niche 12 x 14 x 3.5 in with one shelf of 3/4 in as a person would by hand', () => {
    const sized = { ...niche, widthMm: 12 * IN, heightMm: 14 * IN, depthMm: 3.5 * IN };
    const shelf = { id: 's', heightMm: 6 * IN, thicknessMm: 0.75 * IN };
    const plain = seams(showerWith({ niches: [sized] }));
    expect(plain['niche-mouth']).toBe(2 * 12 + 2 * 14);
    expect(plain['niche-edge']).toBe(2 * 12 + 2 * 14 + 4 * 3.5);
    const shelved = seams(showerWith({ niches: [{ ...sized, shelves: [shelf] }] }));
    expect(shelved['niche-mouth']).toBe(2 * 12 + 2 * 14);
    expect(shelved['niche-edge']).toBe(2 * 12 + 2 * (14 - 0.75) + 4 * 3.5);
    expect(shelved['niche-shelf']).toBe(2 * (12 + 3.5 + 3.5));
    expect(shelved['niche-shelf-edge']).toBe(2 * 12);
  });

  it('takes a bench 15 in deep across the back from floor and walls, and counts its own seams', () => {
    const across: Bench = {
      kind: 'along',
      id: 'b',
      edge: 2,
      alongMm: 0,
      widthMm: 60 * IN,
      depthMm: 15 * IN,
      topMm: 18 * IN,
    };
    const found = seams(showerWith({ benches: [across] }));
    expect(found['floor-wall']).toBe(2 * (36 - 15));
    expect(found['bench-floor']).toBe(60);
    expect(found['bench-edge']).toBe(60);
    expect(found['bench-wall']).toBe(60 + 2 * 15 + 2 * 18);
    expect(found['wall-wall-inside']).toBe(2 * (96 - 18));
    const floating = seams(showerWith({ benches: [{ ...across, undersideMm: 15 * IN }] }));
    expect(floating['floor-wall']).toBe(36 + 60 + 36);
    expect(floating['bench-wall']).toBe(2 * (60 + 2 * 15) + 2 * 3);
    expect(floating['wall-wall-inside']).toBe(2 * (96 - 3));
  });

  it('gives a half wall a cap and a free end, and lets the wall beside it run on over the cap', () => {
    const half = shapedShower(SHAPES[9]!(1270, 1016), {
      bench: 0,
      shelves: -1,
      ceiling: 0,
      riseMm: 0,
      lineDrain: false,
    });
    const built = showerModel(half.geometry);
    if (!built.ok) throw new Error(built.problem.code);
    const ids = built.value.faces.map((f) => f.id);
    expect(ids).toContain('wall:screen:cap');
    expect(ids).toContain('wall:screen:end-left');
    expect(ids).not.toContain('wall:screen:end-right');
    expect(built.value.totals.seamMmByKind['cap-wall'] ?? built.value.totals.seamMmByKind['cap-edge']).toBeGreaterThan(
      0,
    );
  });

  it('names a kept upper wall’s end a transition', () => {
    const kept = seams(showerWith({ edges: edges((i) => (i === 2 ? { keptAbove: true } : {})) }));
    expect(kept.transition).toBe(60);
    expect(kept['top-termination']).toBe(2 * 40.5);
  });

  it('covers a steam room: ceiling seams on every wall, none of them ends free', () => {
    const closed = showerWith({
      edges: base.edges.map((e) => ({ kind: 'wall' as const, id: e.id!, heightMm: 2400 })),
      ceiling: { kind: 'flat', heightMm: 2400, waterproof: true },
    });
    const found = seams(closed);
    expect(found['wall-ceiling']).toBe(2 * (60 + 36));
    expect(found['top-termination']).toBeUndefined();
  });

  it('cuts board joints where a niche opens them', () => {
    const joint = { id: 'j', run: 'level' as const, atMm: 1200 };
    const found = showerModel(
      showerWith({ niches: [niche], edges: edges((i) => (i === 2 ? { boardJoints: [joint] } : { boardJoints: [] })) }),
    );
    if (!found.ok) throw new Error(found.problem.code);
    const joints = found.value.seams.filter((s) => s.kind === 'board-joint');
    expect(joints.map((s) => s.id)).toEqual(['board-joint|wall:back|j', 'board-joint|wall:back|j|2']);
    expect(joints.reduce((sum, s) => sum + s.lengthMm, 0)).toBeCloseTo(60 * IN - 300, 6);
  });
});

describe('what can’t be built', () => {
  it.each<[string, ShowerGeometry, string, ProblemCode]>([
    ['a niche across a corner', showerWith({ niches: [{ ...niche, alongMm: 1400 }] }), 'niches.0', 'niche-past-wall'],
    ['a niche over its wall', showerWith({ niches: [{ ...niche, sillMm: 2300 }] }), 'niches.0', 'part-over-wall'],
    ['a niche in a curb', showerWith({ niches: [{ ...niche, edge: 0 }] }), 'niches.0.edge', 'not-a-wall'],
    [
      'two niches over each other',
      showerWith({ niches: [niche, { ...niche, id: 'm', alongMm: 600 }] }),
      'niches.1',
      'parts-overlap',
    ],
    [
      'a shelf over the head',
      showerWith({ niches: [{ ...niche, shelves: [{ id: 's', heightMm: 590, thicknessMm: 20 }] }] }),
      'niches.0.shelves.0.heightMm',
      'shelf-unfit',
    ],
    [
      'a bench deeper than the room',
      showerWith({ benches: [{ ...bench, depthMm: 2000 }] }),
      'benches.0',
      'bench-past-room',
    ],
    [
      'the drain under the bench',
      showerWith({ benches: [{ ...bench, alongMm: 500, depthMm: 500 }] }),
      'benches.0',
      'drain-under-bench',
    ],
    [
      'a bench longer than its wall',
      showerWith({ benches: [{ ...bench, alongMm: 1200 }] }),
      'benches.0.widthMm',
      'bench-too-long',
    ],
    ['a bench along a curb', showerWith({ benches: [{ ...bench, edge: 0 }] }), 'benches.0.edge', 'bench-not-at-wall'],
    [
      'an underside over the top',
      showerWith({ benches: [{ ...bench, undersideMm: 500 }] }),
      'benches.0.undersideMm',
      'bench-underside-over-top',
    ],
    [
      'two benches against each other',
      showerWith({ benches: [bench, { ...bench, id: 'c', alongMm: 805 }] }),
      'benches.1',
      'benches-touch',
    ],
    [
      'a niche behind a bench',
      showerWith({ benches: [{ ...bench, alongMm: 200, topMm: 1100 }], niches: [niche] }),
      'benches.0',
      'parts-overlap',
    ],
    [
      'a wall over the ceiling',
      showerWith({ ceiling: { kind: 'flat', heightMm: 2000, waterproof: false } }),
      'edges.1.heightMm',
      'edge-over-ceiling',
    ],
    [
      'a wall that ends under a waterproof ceiling',
      showerWith({ ceiling: { kind: 'flat', heightMm: 2700, waterproof: true } }),
      'edges.1.heightMm',
      'wall-under-ceiling',
    ],
    [
      'a ceiling that falls to the curb',
      showerWith({ ceiling: { kind: 'sloped', heightMm: 2500, waterproof: false, lowEdge: 0, slope: 0.1 } }),
      'ceiling.lowEdge',
      'ceiling-falls-nowhere',
    ],
    [
      'two parts of one name',
      showerWith({ niches: [{ ...niche, name: 'Shampoo' }], benches: [{ ...bench, name: 'shampoo' }] }),
      'benches.0.name',
      'part-name-twice',
    ],
    [
      'two edges of one id',
      showerWith({ edges: edges((i) => (i === 3 ? { id: 'back' } : {})) }),
      'edges.3.id',
      'edge-id-twice',
    ],
    [
      'a line drain through the wall',
      showerWith({ drain: { kind: 'line', xMm: 300, yMm: 300, lengthMm: 900, widthMm: 60 } }),
      'drain',
      'line-drain-outside',
    ],
  ])('refuses %s and names the field', (_name, geometry, field, code) => {
    const built = showerModel(geometry);
    if (built.ok) throw new Error('was built');
    expect(built.problem.field).toBe(field);
    expect(built.problem.code).toBe(code);
  });

  it('refuses a wall lower than the half wall beside it, and a curb round an outside corner', () => {
    const low = shapedShower(SHAPES[2]!(1500, 1500), {
      bench: 0,
      shelves: -1,
      ceiling: 0,
      riseMm: 0,
      lineDrain: false,
    }).geometry;
    const lowered = { ...low, edges: low.edges.map((e) => (e.kind === 'half-wall' ? { ...e, heightMm: 2600 } : e)) };
    expect(showerModel(lowered)).toMatchObject({ ok: false, problem: { code: 'wall-under-half-wall' } });
    const l = shapedShower(SHAPES[4]!(1500, 1500), {
      bench: 0,
      shelves: -1,
      ceiling: 0,
      riseMm: 0,
      lineDrain: false,
    }).geometry;
    const round = {
      ...l,
      edges: l.edges.map((e, i) => (i === 1 ? { kind: 'curb' as const, id: 'jamb', heightMm: 150, widthMm: 115 } : e)),
    };
    expect(showerModel(round)).toMatchObject({ ok: false, problem: { field: 'edges.2', code: 'curb-round-corner' } });
  });
});
