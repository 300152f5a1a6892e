import { type FaceKind, loopVector } from '../../shower/geometry/face';
import type { Part } from '../../shower/geometry/parts';
import { dot, type Point3 } from '../../shower/geometry/point';
import type { ShowerModel } from '../../shower/geometry/showerModel';

/** Parts of a shower whose coats are counted and measured apart. */
export const FILM_ZONES = [
  'floor',
  'lower-walls',
  'walls',
  'curb',
  'niche',
  'bench',
  'ceiling',
  'outside-floor',
  'corners',
] as const;
/** A part of a shower that is coated and judged by itself. */
export type FilmZone = (typeof FILM_ZONES)[number];

/** Width of the strip beside an inside change of plane that counts as the corner, mm to each side [common practice, no source]. */
const CORNER_STRIP_MM = 50;
/** Seams whose corners are coated on their own. */
const CORNER_SEAMS: readonly string[] = ['floor-wall', 'wall-wall-inside', 'bench-wall', 'bench-floor', 'niche-edge'];

/** The part that a zone belongs to, so that in a shower of two methods each has its own. */
export const PART_OF_ZONE: Record<FilmZone, Part> = {
  floor: 'floor',
  'lower-walls': 'walls',
  walls: 'walls',
  curb: 'curb',
  niche: 'niche',
  bench: 'bench',
  ceiling: 'ceiling',
  'outside-floor': 'outside-floor',
  corners: 'walls',
};

/** The zone of a face by its kind; walls are divided by height. Null for what is not built. */
export function zoneOfFace(kind: FaceKind): FilmZone | null {
  if (kind === 'outside') return null;
  if (kind === 'floor' || kind === 'ceiling' || kind === 'outside-floor') return kind;
  if (kind.startsWith('wall')) return 'walls';
  return kind.startsWith('curb') ? 'curb' : kind.startsWith('niche') ? 'niche' : 'bench';
}

/** What of a loop lies under a height (Sutherland-Hodgman against one plane); empty where nothing does. */
export function belowHeight(loop: readonly Point3[], heightMm: number): Point3[] {
  const out: Point3[] = [];
  loop.forEach((a, i) => {
    const b = loop[(i + 1) % loop.length]!;
    if (a[2] <= heightMm) out.push(a);
    if (a[2] <= heightMm !== b[2] <= heightMm) {
      const t = (heightMm - a[2]) / (b[2] - a[2]);
      out.push([a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), heightMm]);
    }
  });
  return out;
}

/** Area of a flat loop, mm². */
function areaOf(loop: readonly Point3[]): number {
  if (loop.length < 3) return 0;
  const n = loopVector(loop);
  return Math.sqrt(dot(n, n)) / 2;
}

/** Area of a face under a height, less what of its openings lies there, mm². */
function areaBelow(face: ShowerModel['faces'][number], heightMm: number): number {
  const rings = face.rings.reduce((sum, ring) => sum + areaOf(belowHeight(ring, heightMm)), 0);
  return areaOf(belowHeight(face.loop, heightMm)) - rings;
}

/** Its lowest height, mm. */
const lowest = (loop: readonly Point3[]): number => Math.min(...loop.map((p) => p[2]));

/**
 * Coated area of each zone, m². Walls count as lower walls up to `lowerMm` over their foot; corners are the strips
 * beside inside changes of plane and lie on the others.
 */
export function zoneAreas(model: ShowerModel, lowerMm: number): Map<FilmZone, number> {
  const mm2 = new Map<FilmZone, number>();
  const add = (zone: FilmZone, area: number) => {
    if (area > 0) mm2.set(zone, (mm2.get(zone) ?? 0) + area);
  };
  for (const face of model.faces) {
    const zone = zoneOfFace(face.kind);
    if (zone === null) continue;
    const low = zone === 'walls' ? areaBelow(face, lowest(face.loop) + lowerMm) : 0;
    if (zone === 'walls') add('lower-walls', low);
    add(zone, face.areaMm2 - low);
  }
  for (const seam of model.seams)
    if (CORNER_SEAMS.includes(seam.kind)) add('corners', seam.lengthMm * 2 * CORNER_STRIP_MM);
  return new Map(FILM_ZONES.flatMap((z) => (mm2.has(z) ? [[z, mm2.get(z)! / 1e6] as const] : [])));
}
