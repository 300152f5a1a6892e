import { z } from 'zod';
import { anyMm } from '../../units/bounded';
import { PlanPoint } from './point';

const id = z.string().min(1).max(60);
/** Number of a side or corner of the footprint. */
const edgeIndex = z.number().int().min(0).max(1000);
const positive = z.number().positive().max(100_000);
const length = z.number().min(0).max(100_000);
/** What people call it; ids stay. */
const name = z.string().trim().min(1).max(60).optional();

/** A straight joint on a wall, typed in by the person: lying at a height, or upright at a distance from the left. */
export const WallLine = z.object({
  id,
  run: z.enum(['level', 'upright']),
  /** level: mm above the wall's foot; upright: mm from the wall's left end as seen from inside. */
  atMm: positive,
  /** Where it begins and ends along its run, mm from the left end or the foot; the whole wall without them. */
  fromMm: length.optional(),
  toMm: positive.optional(),
});
export type WallLine = z.infer<typeof WallLine>;

const wallLines = {
  boardJoints: z.array(WallLine).max(120).optional(),
  sheetLaps: z.array(WallLine).max(120).optional(),
};
const Wall = z.object({
  kind: z.literal('wall'),
  id: id.optional(),
  /** mm from the wall's own foot to its top. */
  heightMm: positive,
  /** Of a wall whose end stands free in the opening; without it, that of the curb beside it. */
  thicknessMm: positive.optional(),
  /** Old tile stays above it (renovation): its upper end is a transition, not the end of the membrane. */
  keptAbove: z.boolean().optional(),
  /** An outside wall of the house: what stands in it must stay warm behind. */
  outsideWall: z.boolean().optional(),
  ...wallLines,
});
const HalfWall = z.object({
  kind: z.literal('half-wall'),
  id: id.optional(),
  /** mm from its foot to its cap. */
  heightMm: positive,
  thicknessMm: positive,
  ...wallLines,
});
const Curb = z.object({
  kind: z.literal('curb'),
  id: id.optional(),
  /** mm above the drain rim. */
  heightMm: positive,
  widthMm: positive,
  /** mm of floor before it that are waterproofed with the shower. */
  outsideMm: positive.optional(),
});
const Open = z.object({
  kind: z.literal('open'),
  id: id.optional(),
  /** mm of floor beyond it that are waterproofed with the shower. */
  outsideMm: positive.optional(),
});

/** What goes through a wall. */
export const PENETRATION_KINDS = ['valve', 'shower-arm', 'spout', 'body-spray', 'steam-inlet', 'other'] as const;
/** An opening in a wall. */
export const Penetration = z.object({
  id,
  name,
  kind: z.enum(PENETRATION_KINDS),
  /** Index of the wall's edge in the footprint. */
  edge: edgeIndex,
  /** mm from the wall's left end as seen from inside. */
  alongMm: positive,
  /** mm above the wall's foot. */
  heightMm: positive,
  diameterMm: positive,
});
export type Penetration = z.infer<typeof Penetration>;

const Shelf = z.object({
  id,
  /** mm of its underside above the niche's sill. */
  heightMm: positive,
  thicknessMm: positive,
});

/** A niche in a wall. */
export const Niche = z.object({
  id,
  name,
  edge: edgeIndex,
  /** mm from the wall’s left end as seen from inside. */
  alongMm: positive,
  /** mm of the sill above the wall's foot. */
  sillMm: positive,
  widthMm: positive,
  heightMm: positive,
  depthMm: positive,
  /** Set across it from side to side, each waterproofed all round. */
  shelves: z.array(Shelf).max(6).optional(),
});
export type Niche = z.infer<typeof Niche>;

const benchSize = {
  id,
  name,
  /** mm of its top above the wall's foot. */
  topMm: positive,
  /** mm of its underside above the wall's foot where it floats; without it, it stands on the floor. */
  undersideMm: positive.optional(),
  /** Boards that its top is made of, and supports between its ends. */
  layers: z.number().int().min(1).max(4).optional(),
  supports: z.number().int().min(0).max(10).optional(),
};
/** A bench of any kind. */
export const Bench = z.discriminatedUnion('kind', [
  /** Along one wall; against the walls beside it where it begins or ends in a corner. */
  z.object({
    kind: z.literal('along'),
    ...benchSize,
    edge: edgeIndex,
    /** mm from the wall's left end as seen from inside. */
    alongMm: length,
    widthMm: positive,
    depthMm: positive,
  }),
  /** A triangle in a corner. */
  z.object({
    kind: z.literal('corner'),
    ...benchSize,
    /** Index of the footprint's corner. */
    corner: edgeIndex,
    /** mm along the wall to the left and to the right of that corner as seen from inside. */
    legLeftMm: positive,
    legRightMm: positive,
  }),
]);
export type Bench = z.infer<typeof Bench>;

const ceilingBase = {
  /** mm above the floor's edge; of a sloped one at its low side. */
  heightMm: positive,
  /** True where the membrane runs over it, as in a steam room; else it only limits the walls. */
  waterproof: z.boolean(),
};
/** A ceiling over the shower, waterproof or not. */
export const Ceiling = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('flat'), ...ceilingBase }),
  z.object({
    kind: z.literal('sloped'),
    ...ceilingBase,
    /** Index of the edge that its drops run to. */
    lowEdge: edgeIndex,
    /** Rise / run away from that edge. */
    slope: z.number().positive().max(2),
  }),
]);
export type Ceiling = z.infer<typeof Ceiling>;

const drainPlace = { id: id.optional(), xMm: anyMm, yMm: anyMm };
const Drain = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('point'), ...drainPlace, diameterMm: positive.optional() }),
  /** A channel; x and y of its middle. */
  z.object({
    kind: z.literal('line'),
    ...drainPlace,
    lengthMm: positive,
    widthMm: positive,
    /** Degrees that it is turned counter-clockwise from the x axis. */
    turnDeg: z.number().min(-180).max(180).optional(),
  }),
]);

/**
 * A shower as measured. Footprint counter-clockwise at the inner faces; edge i runs from point i to i+1; a curb
 * stands outside the footprint. Heights: walls from their foot, curbs from the drain rim (z = 0).
 */
export const ShowerGeometry = z.object({
  footprint: z.array(PlanPoint).min(3).max(40),
  edges: z
    .array(z.discriminatedUnion('kind', [Wall, HalfWall, Curb, Open]))
    .min(3)
    .max(40),
  drain: Drain,
  /** mm that the whole perimeter of the floor lies above the drain rim. */
  perimeterRiseMm: z.number().min(0).max(2000).optional(),
  penetrations: z.array(Penetration).max(60).optional(),
  niches: z.array(Niche).max(20).optional(),
  benches: z.array(Bench).max(10).optional(),
  ceiling: Ceiling.optional(),
});
export type ShowerGeometry = z.infer<typeof ShowerGeometry>;
/** What stands on an edge of the footprint. */
export type Edge = ShowerGeometry['edges'][number];

/** Of a point drain’s rim where none is given, mm [common practice, no source]. */
export const DRAIN_DIAMETER_MM = 110;

/** How far the drain reaches from its middle, mm: its radius, or half a channel's diagonal. */
export function drainReachMm({ drain }: ShowerGeometry): number {
  if (drain.kind === 'line') return Math.hypot(drain.lengthMm, drain.widthMm) / 2;
  return (drain.diameterMm ?? DRAIN_DIAMETER_MM) / 2;
}

/** The corners of a line drain in plan, counter-clockwise; a point drain's square. */
export function drainOutline({ drain }: ShowerGeometry): PlanPoint[] {
  const size = drain.kind === 'line' ? drain : { lengthMm: drainSize(drain), widthMm: drainSize(drain) };
  const turn = drain.kind === 'line' ? ((drain.turnDeg ?? 0) * Math.PI) / 180 : 0;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [a, b] = [size.lengthMm / 2, size.widthMm / 2];
  return [
    [-a, -b],
    [a, -b],
    [a, b],
    [-a, b],
  ].map(([x, y]) => ({ xMm: drain.xMm + x! * c - y! * s, yMm: drain.yMm + x! * s + y! * c }));
}

const drainSize = (drain: { diameterMm?: number | undefined }): number => drain.diameterMm ?? DRAIN_DIAMETER_MM;

/** The edge's own id, or one made of its number for geometry that came without ids. */
export function edgeId(geometry: ShowerGeometry, i: number): string {
  return geometry.edges[i]!.id ?? `edge-${i}`;
}

/** The drain's own id, or one for geometry that came without ids. */
export function drainId(geometry: ShowerGeometry): string {
  return geometry.drain.id ?? 'drain-0';
}
