import fc from 'fast-check';
import type { PlanPoint } from '../shower/geometry/point';
import type { Bench, Edge, Niche, ShowerGeometry } from '../shower/geometry/showerGeometry';

const wall = (id: string, heightMm = 2400): Edge => ({ kind: 'wall', id, heightMm });
const half = (id: string, heightMm = 1000, thicknessMm = 130): Edge => ({
  kind: 'half-wall',
  id,
  heightMm,
  thicknessMm,
});
const curb = (id: string, outsideMm?: number): Edge => ({
  kind: 'curb',
  id,
  heightMm: 150,
  widthMm: 115,
  ...(outsideMm ? { outsideMm } : {}),
});
const open = (id: string, outsideMm?: number): Edge => ({ kind: 'open', id, ...(outsideMm ? { outsideMm } : {}) });
const points = (...xy: [number, number][]): PlanPoint[] => xy.map(([xMm, yMm]) => ({ xMm, yMm }));

export interface Shape {
  name: string;
  footprint: PlanPoint[];
  edges: Edge[];
  /** A wall that is long enough for a niche and a bench, free of both at its ends. */
  back: number;
  /** A corner between two walls. */
  corner: number;
}

/** The rooms that a firm meets, w wide and d deep, mm. */
export const SHAPES: ((w: number, d: number) => Shape)[] = [
  (w, d) => ({
    name: 'alcove',
    footprint: points([0, 0], [w, 0], [w, d], [0, d]),
    edges: [curb('front', 150), wall('right'), wall('back'), wall('left')],
    back: 2,
    corner: 2,
  }),
  (w, d) => ({
    name: 'corner with two curbs',
    footprint: points([0, 0], [w, 0], [w, d], [0, d]),
    edges: [curb('front'), curb('side'), wall('back'), wall('left')],
    back: 2,
    corner: 3,
  }),
  (w, d) => ({
    name: 'neo-angle with half walls beside the door',
    footprint: points([0, 0], [w / 2, 0], [w, d / 2], [w, d], [0, d]),
    edges: [half('front'), curb('door'), half('side'), wall('back'), wall('left')],
    back: 3,
    corner: 4,
  }),
  (w, d) => ({
    name: 'neo-angle with three curbs',
    footprint: points([0, 0], [w / 2, 0], [w, d / 2], [w, d], [0, d]),
    edges: [curb('front'), curb('door'), curb('side'), wall('back'), wall('left')],
    back: 3,
    corner: 4,
  }),
  (w, d) => ({
    name: 'L-shape',
    footprint: points([0, 0], [w * 0.6, 0], [w * 0.6, d * 0.4], [w, d * 0.4], [w, d], [0, d]),
    edges: [curb('front'), wall('jamb'), wall('return'), wall('right'), wall('back'), wall('left')],
    back: 4,
    corner: 4,
  }),
  (w, d) => ({
    name: 'half wall in line with the curb',
    footprint: points([0, 0], [w * 0.4, 0], [w, 0], [w, d], [0, d]),
    edges: [half('pony', 1100, 100), curb('front'), wall('right'), wall('back'), wall('left')],
    back: 3,
    corner: 3,
  }),
  (w, d) => ({
    name: 'thick half wall in line with the curb',
    footprint: points([0, 0], [w * 0.6, 0], [w, 0], [w, d], [0, d]),
    edges: [curb('front'), half('pony', 1100, 200), wall('right'), wall('back'), wall('left')],
    back: 3,
    corner: 3,
  }),
  (w, d) => ({
    name: 'wall end in line with the curb',
    footprint: points([0, 0], [w * 0.3, 0], [w, 0], [w, d], [0, d]),
    edges: [wall('stub'), curb('front'), wall('right'), wall('back'), wall('left')],
    back: 3,
    corner: 3,
  }),
  (w, d) => ({
    name: 'curbless to one side',
    footprint: points([0, 0], [w, 0], [w, d], [0, d]),
    edges: [open('way', 900), wall('right'), wall('back'), wall('left')],
    back: 2,
    corner: 3,
  }),
  (w, d) => ({
    name: 'half wall beside an open way',
    footprint: points([0, 0], [w * 0.5, 0], [w, 0], [w, d], [0, d]),
    edges: [half('screen'), open('way', 600), wall('right'), wall('back'), wall('left')],
    back: 3,
    corner: 3,
  }),
];

const niche = (edge: number, lengthMm: number, shelves: number): Niche => ({
  id: 'n1',
  edge,
  alongMm: lengthMm * 0.35,
  sillMm: 1200,
  widthMm: lengthMm * 0.3,
  heightMm: 600,
  depthMm: 90,
  shelves: Array.from({ length: shelves }, (_, k) => ({ id: `s${k + 1}`, heightMm: 180 * (k + 1), thicknessMm: 18 })),
});

function bench(kind: number, shape: Shape, lengthMm: number): Bench[] {
  const along = (id: string, alongMm: number, widthMm: number, undersideMm?: number): Bench => ({
    kind: 'along',
    id,
    edge: shape.back,
    alongMm,
    widthMm,
    depthMm: 250,
    topMm: 450,
    ...(undersideMm ? { undersideMm } : {}),
  });
  // Its right end stands against the next wall, or stops short of a curb.
  const whole = shape.edges[shape.back - 1]!.kind === 'curb' ? lengthMm - 150 : lengthMm;
  if (kind === 1) return [along('full', 0, whole)];
  if (kind === 2) return [along('float', 0, whole, 380)];
  if (kind === 3) return [along('short', lengthMm * 0.3, lengthMm * 0.4)];
  if (kind === 4) return [along('hung', lengthMm * 0.3, lengthMm * 0.4, 400)];
  if (kind === 5)
    return [{ kind: 'corner', id: 'seat', corner: shape.corner, legLeftMm: 300, legRightMm: 320, topMm: 430 }];
  return kind === 6 ? [along('left', 0, lengthMm * 0.4)] : [];
}

export interface AnyShower {
  name: string;
  geometry: ShowerGeometry;
}

/** One shower of a shape, with what stands in it. */
export function shapedShower(
  shape: Shape,
  options: { bench: number; shelves: number; ceiling: number; riseMm: number; lineDrain: boolean },
): AnyShower {
  const lengthMm = shape.footprint.reduce((longest, a, i) => {
    const b = shape.footprint[(i + 1) % shape.footprint.length]!;
    return i === shape.back ? Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm) : longest;
  }, 0);
  const drain = { id: 'd', xMm: 300, yMm: 300 };
  const ceilings = [
    undefined,
    { kind: 'flat' as const, heightMm: 2400, waterproof: true },
    { kind: 'sloped' as const, heightMm: 2400, waterproof: true, lowEdge: shape.back, slope: 0.1 },
  ];
  const ceiling = ceilings[options.ceiling];
  return {
    name: `${shape.name}, bench ${options.bench}, ${options.shelves} shelves, ceiling ${options.ceiling}`,
    geometry: {
      footprint: shape.footprint,
      edges: shape.edges,
      drain: options.lineDrain
        ? { kind: 'line', ...drain, lengthMm: 400, widthMm: 60 }
        : { kind: 'point', ...drain, diameterMm: 110 },
      perimeterRiseMm: options.riseMm,
      penetrations: [{ id: 'valve', kind: 'valve', edge: shape.back, alongMm: 120, heightMm: 1000, diameterMm: 100 }],
      niches: options.shelves < 0 ? [] : [niche(shape.back, lengthMm, options.shelves)],
      benches: bench(options.bench, shape, lengthMm),
      ...(ceiling ? { ceiling } : {}),
    },
  };
}

/** Any of the rooms, of any size, with niche, shelves, bench and ceiling or without. */
export const anyShower: fc.Arbitrary<AnyShower> = fc
  .record({
    shape: fc.nat(SHAPES.length - 1),
    w: fc.integer({ min: 1000, max: 2600 }),
    d: fc.integer({ min: 1000, max: 2600 }),
    bench: fc.nat(6),
    shelves: fc.integer({ min: -1, max: 2 }),
    ceiling: fc.nat(2),
    riseMm: fc.constantFrom(0, 19, 40),
    lineDrain: fc.boolean(),
  })
  .map(({ shape, w, d, ...options }) => shapedShower(SHAPES[shape]!(w, d), options));
