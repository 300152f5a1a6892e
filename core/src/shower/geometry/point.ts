import { z } from 'zod';
import { anyMm } from '../../units/bounded';

/** A place in plan, mm; x to the right, y away from the front. */
export const PlanPoint = z.object({ xMm: anyMm, yMm: anyMm });
export type PlanPoint = z.infer<typeof PlanPoint>;

/** A place in space, mm: x, y in plan, z up from the drain rim. */
export type Point3 = readonly [number, number, number];
/** A place on a drawing, mm: x to the right, y up. */
export type Point2 = readonly [number, number];

/** The vector from b to a. */
export function minus(a: Point3, b: Point3): Point3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

/** Scalar product. */
export function dot(a: Point3, b: Point3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** Vector product, right-handed. */
export function cross(a: Point3, b: Point3): Point3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

/** Distance between two points, mm. */
export function distance3(a: Point3, b: Point3): number {
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}
/** The point a share t (0 to 1) of the way from a to b. */
export function between(a: Point3, b: Point3, t: number): Point3 {
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
}
