import { z } from 'zod';
import { PlanPoint } from './point';

const id = z.string().min(1).max(60);
const positive = z.number().positive().max(100_000);

/** A straight joint on a wall, typed in by the person: lying at a height, or upright at a distance from the left. */
export const WallLine = z.object({
  id,
  run: z.enum(['level', 'upright']),
  /** level: mm above the wall's foot; upright: mm from the wall's left end as seen from inside. */
  atMm: positive,
});
export type WallLine = z.infer<typeof WallLine>;

const Wall = z.object({
  kind: z.literal('wall'),
  id: id.optional(),
  /** mm from the wall's own foot to its top. */
  heightMm: positive,
  boardJoints: z.array(WallLine).max(40).optional(),
  sheetLaps: z.array(WallLine).max(40).optional(),
});
const Curb = z.object({
  kind: z.literal('curb'),
  id: id.optional(),
  /** mm above the drain rim. */
  heightMm: positive,
  widthMm: positive,
});
const Open = z.object({ kind: z.literal('open'), id: id.optional() });

export const PENETRATION_KINDS = ['valve', 'shower-arm', 'spout', 'body-spray', 'steam-inlet', 'other'] as const;
export const Penetration = z.object({
  id,
  kind: z.enum(PENETRATION_KINDS),
  /** Index of the wall's edge in the footprint. */
  edge: z.number().int().min(0),
  /** mm from the wall's left end as seen from inside. */
  alongMm: positive,
  /** mm above the wall's foot. */
  heightMm: positive,
  diameterMm: positive,
});
export type Penetration = z.infer<typeof Penetration>;

export const Niche = z.object({
  id,
  edge: z.number().int().min(0),
  alongMm: positive,
  /** mm of the sill above the wall's foot. */
  sillMm: positive,
  widthMm: positive,
  heightMm: positive,
  depthMm: positive,
});
export type Niche = z.infer<typeof Niche>;

/**
 * A shower as measured. Footprint counter-clockwise at the inner faces; edge i runs from point i to i+1; a curb
 * stands outside the footprint. Heights: walls from their foot, curbs from the drain rim (z = 0).
 */
export const ShowerGeometry = z.object({
  footprint: z.array(PlanPoint).min(3).max(40),
  edges: z
    .array(z.discriminatedUnion('kind', [Wall, Curb, Open]))
    .min(3)
    .max(40),
  drain: z.object({
    kind: z.literal('point'),
    id: id.optional(),
    xMm: z.number(),
    yMm: z.number(),
    diameterMm: positive.optional(),
  }),
  /** mm that the whole perimeter of the floor lies above the drain rim. */
  perimeterRiseMm: z.number().min(0).max(2000).optional(),
  penetrations: z.array(Penetration).max(60).optional(),
  niches: z.array(Niche).max(20).optional(),
});
export type ShowerGeometry = z.infer<typeof ShowerGeometry>;
export type Edge = ShowerGeometry['edges'][number];

export const DRAIN_DIAMETER_MM = 110;

/** The edge's own id, or one made of its number for geometry that came without ids. */
export function edgeId(geometry: ShowerGeometry, i: number): string {
  return geometry.edges[i]!.id ?? `edge-${i}`;
}

/** The drain's own id, or one for geometry that came without ids. */
export function drainId(geometry: ShowerGeometry): string {
  return geometry.drain.id ?? 'drain-0';
}
