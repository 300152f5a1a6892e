import type { Place } from '../log/places';
import type { ShowerState } from '../log/state';
import { between, cross, distance3, dot, minus, type Point3 } from '../shower/geometry/point';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { Stretch } from '../shower/seams/intervals';
import { pointOnSeam, type Seam } from '../shower/seams/seam';
import { WHOLE_SHOWER } from './requirements';

/** As near as this to the end of a seam is its end, mm. */
const AT_END_MM = 1;

/** A place as it is written now: with the seam's length and start as it is drawn, for a seam; `more` says which side or stretch. */
export function placeOf(state: ShowerState, element: string, more: Partial<Place> = {}): Place {
  const seam = state.seamById.get(element);
  return { element, ...(seam ? { lengthMm: seam.lengthMm, startKey: seam.startKey } : {}), ...more };
}

/**
 * The stretch of a seam that a place means, typed forwards or backwards, clipped to the seam; null when none of it lies on
 * it. What reached the end of the seam as it was drawn then reaches its end now.
 */
export function stretchOn(
  seam: Pick<Seam, 'lengthMm'>,
  place: Pick<Place, 'fromMm' | 'toMm' | 'lengthMm'>,
): Stretch | null {
  const drawnMm = place.lengthMm ?? seam.lengthMm;
  const atEnd = (mm: number) => (mm >= drawnMm - AT_END_MM && mm <= drawnMm + AT_END_MM ? seam.lengthMm : mm);
  const ends = [place.fromMm ?? 0, place.toMm === undefined ? seam.lengthMm : atEnd(place.toMm)];
  const fromMm = Math.min(...ends);
  if (fromMm > seam.lengthMm) return null;
  return { fromMm: Math.max(0, fromMm), toMm: Math.min(seam.lengthMm, Math.max(...ends)) };
}

/** Distance from a point to a stretch between two others, mm. */
function distanceToSegment(p: Point3, a: Point3, b: Point3): number {
  const length2 = distance3(a, b) ** 2;
  if (length2 === 0) return distance3(p, a);
  const t = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1]) + (p[2] - a[2]) * (b[2] - a[2])) / length2;
  return distance3(p, between(a, b, Math.max(0, Math.min(1, t))));
}

/** What a place is in space: a line (a point is one without length), or a surface. */
export type Shape = { line: Point3[] } | { loop: Point3[] };

/** Distance of a point to a flat outline, mm: straight down onto it where it lies over it, else to its edge. */
function distanceToLoop(p: Point3, loop: readonly Point3[]): number {
  const edge = Math.min(...loop.map((a, i) => distanceToSegment(p, a, loop[(i + 1) % loop.length]!)));
  const [a, b, c] = [loop[0]!, loop[1]!, loop[2]!];
  const n = cross(minus(b, a), minus(c, a));
  const size = Math.sqrt(dot(n, n));
  if (size === 0) return edge;
  const unit: Point3 = [n[0] / size, n[1] / size, n[2] / size];
  const inside = windingNumber(p, loop, unit) !== 0;
  return inside ? Math.min(edge, Math.abs(dot(minus(p, a), unit))) : edge;
}

/** How often an outline winds round a point, both seen along the outline's normal. */
function windingNumber(p: Point3, loop: readonly Point3[], unit: Point3): number {
  const axis = unit.reduce((best, x, i) => (Math.abs(x) > Math.abs(unit[best]!) ? i : best), 0);
  const [u, v] = [0, 1, 2].filter((i) => i !== axis) as [number, number];
  let count = 0;
  loop.forEach((a, i) => {
    const b = loop[(i + 1) % loop.length]!;
    const side = (b[u]! - a[u]!) * (p[v]! - a[v]!) - (p[u]! - a[u]!) * (b[v]! - a[v]!);
    if (a[v]! <= p[v]! && b[v]! > p[v]! && side > 0) count += 1;
    else if (a[v]! > p[v]! && b[v]! <= p[v]! && side < 0) count -= 1;
  });
  return count;
}

/** The shape of a place; null for the shower as a whole and for what the drawing does not have. */
export function shapeOf(model: ShowerModel, place: Place): Shape | null {
  const seam = model.seams.find((s) => s.id === place.element);
  if (seam) {
    const stretch = stretchOn(seam, place);
    if (!stretch) return null;
    const inner: Point3[] = [];
    let run = 0;
    seam.points.slice(1).forEach((p, i) => {
      run += distance3(seam.points[i]!, p);
      if (run > stretch.fromMm && run < stretch.toMm) inner.push(p);
    });
    return { line: [pointOnSeam(seam.points, stretch.fromMm), ...inner, pointOnSeam(seam.points, stretch.toMm)] };
  }
  const point = [...model.corners, ...model.penetrations, model.drain].find((e) => e.id === place.element)?.point;
  if (point) return { line: [point, point] };
  const face = model.faces.find((f) => f.id === place.element);
  return face ? { loop: face.loop } : null;
}

/** Distance of a point to a shape, mm. */
export function distanceTo(p: Point3, shape: Shape): number {
  if ('loop' in shape) return distanceToLoop(p, shape.loop);
  return Math.min(...shape.line.slice(1).map((b, i) => distanceToSegment(p, shape.line[i]!, b)));
}

/** The lowest point of a place, mm above the drain rim; −Infinity for the shower as a whole and for what can't be placed. */
export function lowestOf(model: ShowerModel, place: Place): number {
  if (place.element === WHOLE_SHOWER) return -Infinity;
  const shape = shapeOf(model, place);
  if (!shape) return -Infinity;
  return Math.min(...('loop' in shape ? shape.loop : shape.line).map((p) => p[2]));
}

/** Faces that an element lies on, or borders. */
export function facesOf(model: ShowerModel, element: string): string[] {
  const found = [...model.seams, ...model.corners].find((e) => e.id === element);
  if (found) return found.faces;
  const hole = model.penetrations.find((p) => p.id === element);
  return hole ? [hole.face] : element === model.drain.id ? ['floor'] : [element];
}

/** Faces of a niche or a bench that sits in or stands against this wall. */
function facesLyingOn(model: ShowerModel, face: string): string[] {
  const { geometry } = model;
  const edge = model.faces.find((f) => f.id === face)?.edge ?? null;
  if (edge === null || !face.startsWith('wall:')) return [];
  const niches = (geometry.niches ?? []).filter((n) => n.edge === edge).map((n) => `niche:${n.id}:`);
  const corners = geometry.footprint.length;
  const benches = (geometry.benches ?? [])
    .filter((b) =>
      b.kind === 'along' ? b.edge === edge : b.corner === edge || (b.corner + corners - 1) % corners === edge,
    )
    .map((b) => `bench:${b.id}:`);
  return model.faces.map((f) => f.id).filter((id) => [...niches, ...benches].some((start) => id.startsWith(start)));
}

/** Everything that goes when a face is built again: itself, its seams, corners and openings, and what lies on it. */
export function partsOfFace(model: ShowerModel, face: string): ReadonlySet<string> {
  const faces = new Set([face, ...facesLyingOn(model, face)]);
  const touches = (ids: readonly string[]) => ids.some((id) => faces.has(id));
  return new Set([
    ...faces,
    ...[...model.seams, ...model.corners].filter((e) => touches(e.faces)).map((e) => e.id),
    ...model.penetrations.filter((p) => faces.has(p.face)).map((p) => p.id),
    ...(faces.has('floor') ? [model.drain.id] : []),
  ]);
}
