import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { PlanPoint } from '../../shower/geometry/point';
import { DRAIN_DIAMETER_MM } from '../../shower/geometry/showerGeometry';
import { anyMm, howMany, lengthMm } from '../../units/bounded';
import { Shot } from '../survey/shots';
import { makeSurface, ownHeights, type Surface } from '../survey/surface';
import { makeSpill, networkOf } from './spill';

/** No pond on the membrane deeper than this, mm: 1/16 in [common practice, no source]. */
export const POND_LIMIT_MM = 25.4 / 16;
/** Shallower than this is no pond, mm: rounding. */
const DRY_MM = 1e-6;
/** A litre, mm³. */
const MM3_PER_L = 1e6;

/** Heights on a grid. */
const Grid = z.object({
  spacingMm: z.number().positive().max(10_000),
  /** Rows are y; null is outside. */
  zMm: z.array(z.array(anyMm.nullable()).min(1).max(2000)).min(1).max(2000),
});
/** A floor as a grid of heights or as shots, and where water leaves it. */
export const PondingInput = z.object({
  grid: Grid.optional(),
  outlets: z
    .array(z.object({ row: howMany, column: howMany }))
    .max(100_000)
    .optional(),
  footprint: z.array(PlanPoint).min(3).max(200).optional(),
  drain: PlanPoint.optional(),
  shots: z.array(Shot).max(2000).optional(),
  /** Radius of the drain's rim and its height; without a height that of the surface there. */
  drainRimMm: z.number().positive().max(500).optional(),
  drainZMm: anyMm.optional(),
  limitMm: lengthMm.optional(),
});
/** A floor as shots or as a grid. */
export type PondingInput = z.infer<typeof PondingInput>;

/** Water that stays. */
export interface Pond {
  /** Its depth, mm. */
  deepestMm: number;
  /** Its surface, mm². */
  areaMm2: number;
  /** Water in it, L. */
  volumeL: number;
  /** Its deepest place. */
  at: PlanPoint;
  /** Height that its water stands at, mm, as the shots count. */
  levelMm: number;
}

/** All ponds of a floor, deepest first. */
export interface Ponding {
  /** Each pool that stays, the deepest first. */
  ponds: Pond[];
  /** Depth of the deepest, mm; 0 without one. */
  deepestMm: number;
  /** Where a limit was given. */
  verdict?: 'pass' | 'fail';
}

/** Places that stand under water, gathered by the neighbours they share. */
function poolsOf(
  level: ArrayLike<number>,
  zMm: ArrayLike<number>,
  neighbours: (i: number) => Iterable<number>,
): number[][] {
  const seen = new Uint8Array(level.length);
  const wet = (i: number) => level[i]! - zMm[i]! > DRY_MM;
  const pools: number[][] = [];
  for (let i = 0; i < level.length; i += 1) {
    if (seen[i] || !wet(i)) continue;
    const pool: number[] = [];
    const open = [i];
    seen[i] = 1;
    while (open.length > 0) {
      const here = open.pop()!;
      pool.push(here);
      for (const j of neighbours(here))
        if (!seen[j] && wet(j)) {
          seen[j] = 1;
          open.push(j);
        }
    }
    pools.push(pool);
  }
  return pools;
}

/** Depth of a pool at its deepest, mm. */
const deepest = (pool: readonly number[], level: ArrayLike<number>, zMm: ArrayLike<number>): number =>
  pool.reduce((a, b) => (level[b]! - zMm[b]! > level[a]! - zMm[a]! ? b : a));

/** A corner of a triangle with the water over it. */
interface Wet {
  /** Place, mm. */
  x: number;
  /** Place, mm. */
  y: number;
  /** Water over it, mm; below zero where it is dry. */
  depth: number;
}

/** Area and volume of the part of a triangle that lies under water. */
function underWater(corners: readonly Wet[]): { mm2: number; mm3: number; outline: PlanPoint[] } {
  const wet: Wet[] = [];
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % 3]!;
    if (a.depth >= 0) wet.push(a);
    if (a.depth * b.depth < 0) {
      const s = a.depth / (a.depth - b.depth);
      wet.push({ x: a.x + (b.x - a.x) * s, y: a.y + (b.y - a.y) * s, depth: 0 });
    }
  });
  let [mm2, mm3] = [0, 0];
  for (let i = 1; i + 1 < wet.length; i += 1) {
    const [a, b, c] = [wet[0]!, wet[i]!, wet[i + 1]!];
    const area = Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;
    mm2 += area;
    mm3 += (area * (a.depth + b.depth + c.depth)) / 3;
  }
  return { mm2, mm3, outline: wet.map((w) => ({ xMm: w.x, yMm: w.y })) };
}

/** Vertices where water leaves: the drain's rim, and the outline along edges that stand open. */
export function outletsOf(surface: Surface, openEdges: readonly number[] = []): number[] {
  const rim = Array.from({ length: surface.rim.count }, (_, k) => surface.rim.from + k);
  return [...rim, ...surface.outline.filter((v) => openEdges.includes(v.edge)).map((v) => v.vertex)];
}

/** A pond with the pieces of triangles that lie under its water. */
export interface DrawnPond extends Pond {
  /** Outlines of the water, mm. */
  wet: PlanPoint[][];
}

/** Ponds of a surface, deepest first, exactly: their level, area and volume from its triangles. */
export function pondsOn(surface: Surface, zMm: ArrayLike<number>, outlets: readonly number[]): DrawnPond[] {
  const level = makeSpill(networkOf(surface.neighbours))(zMm, outlets);
  return poolsOf(level, zMm, (i) => surface.neighbours[i]!)
    .map((pool) => {
      const low = deepest(pool, level, zMm);
      const stands = level[low]!;
      const inPool = new Set(pool);
      let [areaMm2, mm3] = [0, 0];
      const wet: PlanPoint[][] = [];
      for (const t of surface.triangles) {
        if (!t.some((v) => inPool.has(v))) continue;
        const part = underWater(t.map((v) => ({ x: surface.x[v]!, y: surface.y[v]!, depth: stands - zMm[v]! })));
        areaMm2 += part.mm2;
        mm3 += part.mm3;
        if (part.outline.length > 2) wet.push(part.outline);
      }
      const at = { xMm: surface.x[low]!, yMm: surface.y[low]! };
      return { deepestMm: stands - zMm[low]!, areaMm2, volumeL: mm3 / MM3_PER_L, at, levelMm: stands, wet };
    })
    .sort((a, b) => b.deepestMm - a.deepestMm);
}

/** Ponds of a floor of triangles. */
function onSurface(input: PondingInput): Outcome<Pond[]> {
  const { footprint, drain, shots, drainRimMm = DRAIN_DIAMETER_MM / 2 } = input;
  if (!footprint || !drain || !shots) return refuse('ponding-without-floor', 'grid');
  const surface = makeSurface({ footprint, drain, drainRimMm }, shots);
  if (!surface.ok) return surface;
  const nearest = [...shots].sort(
    (a, b) => Math.hypot(a.xMm - drain.xMm, a.yMm - drain.yMm) - Math.hypot(b.xMm - drain.xMm, b.yMm - drain.yMm),
  )[0]!;
  const within = Math.hypot(nearest.xMm - drain.xMm, nearest.yMm - drain.yMm) <= drainRimMm + 1;
  // Without a shot at the drain its rim lies as low as anything round it: it is an outlet and no place to pond.
  const drainZMm = input.drainZMm ?? (within ? nearest.zMm : Math.min(...shots.map((s) => s.zMm)));
  const ponds = pondsOn(surface.value, ownHeights(surface.value, drainZMm), outletsOf(surface.value));
  return done(ponds.map(({ wet: _wet, ...pond }) => pond));
}

/** Ponds of a floor of cells. */
function onGrid(
  { spacingMm, zMm }: z.infer<typeof Grid>,
  outlets: NonNullable<PondingInput['outlets']>,
): Outcome<Pond[]> {
  const [rows, columns] = [zMm.length, zMm[0]!.length];
  if (zMm.some((r) => r.length !== columns)) return refuse('grid-uneven', 'grid.zMm');
  const at = (o: { row: number; column: number }) => o.row * columns + o.column;
  const outside = outlets.findIndex((o) => o.row >= rows || o.column >= columns || zMm[o.row]![o.column] === null);
  if (outside >= 0) return refuse('outlet-outside', `outlets.${outside}`, { outlet: outside + 1 });
  if (outlets.length === 0) return refuse('no-outlet', 'outlets');
  const z = Float64Array.from(zMm.flat(), (v) => v ?? Number.NaN);
  const neighbours = Array.from({ length: rows * columns }, (_, i) => {
    const [r, c] = [Math.floor(i / columns), i % columns];
    const near: number[] = [];
    for (let dr = -1; dr <= 1; dr += 1)
      for (let dc = -1; dc <= 1; dc += 1) {
        const inside = r + dr >= 0 && r + dr < rows && c + dc >= 0 && c + dc < columns;
        const j = (r + dr) * columns + c + dc;
        if ((dr !== 0 || dc !== 0) && inside && !Number.isNaN(z[j]!) && !Number.isNaN(z[i]!)) near.push(j);
      }
    return near;
  });
  const level = makeSpill(networkOf(neighbours))(z, outlets.map(at));
  const cut = level.findIndex((l, i) => l === Infinity && !Number.isNaN(z[i]!));
  if (cut >= 0)
    return refuse('part-without-outlet', 'outlets', { row: Math.floor(cut / columns), column: cut % columns });
  return done(
    poolsOf(level, z, (i) => neighbours[i]!)
      .map((pool) => {
        const low = deepest(pool, level, z);
        const depths = pool.reduce((sum, i) => sum + level[i]! - z[i]!, 0);
        return {
          deepestMm: level[low]! - z[low]!,
          areaMm2: pool.length * spacingMm * spacingMm,
          volumeL: (depths * spacingMm * spacingMm) / MM3_PER_L,
          at: { xMm: (low % columns) * spacingMm, yMm: Math.floor(low / columns) * spacingMm },
          levelMm: level[low]!,
        };
      })
      .sort((a, b) => b.deepestMm - a.deepestMm),
  );
}

/** Where water stands, how deep and how much: on a grid of heights, or on the surface through shots. */
export function ponding(input: PondingInput): Outcome<Ponding> {
  const found = input.grid ? onGrid(input.grid, input.outlets ?? []) : onSurface(input);
  if (!found.ok) return found;
  const deepestMm = found.value[0]?.deepestMm ?? 0;
  const { limitMm } = input;
  return done({
    ponds: found.value,
    deepestMm,
    ...(limitMm === undefined ? {} : { verdict: deepestMm > limitMm + DRY_MM ? ('fail' as const) : ('pass' as const) }),
  });
}
