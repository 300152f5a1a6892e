import { numbers } from '@careful-seam/core/units/randomNumbers';

/** Height of a floor over its drain's rim at a place, mm. */
export type FloorHeight = (xMm: number, yMm: number) => number;

/** A floor of 60 x 36 in that falls to a drain in its middle, 5/16 in per ft, with a birdbath beside it. */
export const birdbathFloor: FloorHeight = (xMm, yMm) => {
  const away = Math.max(0, Math.hypot(xMm - 762, yMm - 457.2) - 55);
  const dip = 12 * Math.exp(-((xMm - 1186) ** 2 + (yMm - 457) ** 2) / (2 * 120 ** 2));
  return (away * 0.3125) / 12 - dip;
};

export interface LaserReceiver {
  /** Reading of the rod at a place, mm: it grows downwards. */
  read: (xMm: number, yMm: number) => number;
}

/** A simulated rotating laser with its receiver on a rod: the plane's height less the floor's, with its scatter, from a seed. */
export function laserReceiver(floor: FloorHeight, { planeMm = 1200, scatterMm = 0.2, seed = 1 } = {}): LaserReceiver {
  const { normal } = numbers(seed);
  return { read: (xMm, yMm) => Math.round((planeMm - floor(xMm, yMm) + scatterMm * normal()) * 10) / 10 };
}

/** A reading as a SenML pack [RFC 8428]; the base name says that nobody should take it for a real one. */
export function senmlPack(readingMm: number, atMs: number): string {
  return JSON.stringify([
    { bn: 'urn:dev:simulated:laser:', bt: Math.round(atMs / 1000), bu: 'm', n: 'simulated', vb: true },
    { n: 'rod', v: Math.round(readingMm * 10) / 10_000 },
  ]);
}
