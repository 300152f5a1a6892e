import type { PlanPoint } from '../shower/geometry/point';
import type { Surface } from './survey/surface';

/** A mortar bed between the floor as it was shot and the slope that is wanted. */
export interface BedThickness {
  /** Where it is thinnest, mm. */
  leastMm: number;
  /** That place. */
  at: PlanPoint;
  /** Mean over the floor, mm. */
  meanMm: number;
  /** Mortar in it, L. */
  volumeL: number;
  /** Shots where the bed is thinner than it may be. */
  thin: number[];
}

/**
 * How thick a bed is that was shot from its drain's rim, over a level subfloor so far under the rim: least and where,
 * mean, volume, and the shots that are too thin.
 */
export function bedThickness(
  surface: Surface,
  z: ArrayLike<number>,
  rimOverSubfloorMm: number,
  leastAllowedMm: number,
): BedThickness {
  const { x, y } = surface;
  const thickness = (v: number): number => z[v]! + rimOverSubfloorMm;
  let [mm2, mm3, low] = [0, 0, 0];
  for (const [a, b, c] of surface.triangles) {
    const area = Math.abs((x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!)) / 2;
    mm2 += area;
    mm3 += (area * (thickness(a) + thickness(b) + thickness(c))) / 3;
  }
  for (let v = 0; v < x.length; v += 1) if (thickness(v) < thickness(low)) low = v;
  return {
    leastMm: thickness(low),
    at: { xMm: x[low]!, yMm: y[low]! },
    meanMm: mm3 / mm2,
    volumeL: mm3 / 1e6,
    thin: surface.shots.flatMap((_, i) => (thickness(i) < leastAllowedMm - 1e-6 ? [i] : [])),
  };
}
