import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { checkDrain, checkFootprint } from '../shower/geometry/checkGeometry';
import { PlanPoint } from '../shower/geometry/point';
import { signedAreaMm2 } from '../shower/geometry/polygon';
import { floodVolume } from '../water/floodVolume';

/** A sloped bed with a level edge. */
export const MortarBedInput = z.object({
  footprint: z.array(PlanPoint).min(3).max(200),
  drain: PlanPoint,
  /** Thinnest place, at the drain, mm. */
  thicknessAtDrainMm: z.number().positive().max(500),
  /** How much higher the level edge of the bed stands than at the drain, mm. */
  riseMm: z.number().min(0).max(1000),
});
/** A floor and the bed on it. */
export type MortarBedInput = z.infer<typeof MortarBedInput>;

/** A bed of mortar by its thickness and volume. */
export interface MortarBed {
  /** Mean thickness, mm. */
  meanMm: number;
  /** Thinnest place, mm. */
  leastMm: number;
  /** Mortar in place, L. */
  volumeL: number;
}

/** A bed on a flat subfloor: straight lines from a level edge down to the drain. Its volume is that over the cone they make. */
export function mortarBed(input: MortarBedInput): Outcome<MortarBed> {
  const { footprint, drain, thicknessAtDrainMm, riseMm } = input;
  const footprintOk = checkFootprint(footprint);
  if (!footprintOk.ok) return footprintOk;
  const drainOk = checkDrain(footprint, drain);
  if (!drainOk.ok) return drainOk;
  const areaMm2 = Math.abs(signedAreaMm2(footprint));
  // Water that reaches over the edge by a known depth tells the room over the cone, and so the bed beneath it.
  const depthAtDrainMm = riseMm + 100;
  const over = floodVolume({ footprint, drain, perimeterRiseMm: riseMm, depthAtDrainMm });
  if (!over.ok) return over;
  const volumeL = (areaMm2 * (thicknessAtDrainMm + depthAtDrainMm)) / 1e6 - over.value.volumeL;
  return done({ meanMm: (volumeL * 1e6) / areaMm2, leastMm: thicknessAtDrainMm, volumeL });
}

/** A volume of mortar that is to be mixed. */
export const MortarMixInput = z.object({
  volumeL: z.number().positive().max(100_000),
  /** Parts of sand to one of cement, by volume. */
  sandParts: z.number().min(1).max(8),
  /** Share of the bulk volume that is lost when it is mixed and packed. */
  shrinkShare: z.number().min(0).max(0.5),
  /** kg of a litre of the dry mix in the bag. */
  bulkKgPerL: z.number().positive().max(3),
  bagKg: z.number().positive().max(100),
  /** L of water to a kg of dry mix. */
  waterLPerKg: z.number().min(0).max(1),
  spareShare: z.number().min(0).max(1),
});
/** A volume of mortar and its mix. */
export type MortarMixInput = z.infer<typeof MortarMixInput>;

/** What goes into the mixer. */
export interface MortarMix {
  /** Dry mix in all, kg. */
  dryKg: number;
  /** Whole bags to open. */
  bags: number;
  /** Of the last bag, the share that is used: weigh it out. */
  lastBagShare: number;
  /** Sand, loose, L. */
  sandL: number;
  /** Cement, loose, L. */
  cementL: number;
  /** Water for a mix that holds together in the fist, L. */
  waterL: number;
}

/** Dry mix, bags and water for a bed. All figures but the bed's volume are editable common practice, no source. */
export function mortarMix(input: MortarMixInput): Outcome<MortarMix> {
  const { volumeL, sandParts, shrinkShare, bulkKgPerL, bagKg, waterLPerKg, spareShare } = input;
  if (![volumeL, bulkKgPerL, bagKg].every((v) => v > 0)) return refuse('bed-not-positive', 'volumeL');
  const bulkL = (volumeL * (1 + spareShare)) / (1 - shrinkShare);
  const dryKg = bulkL * bulkKgPerL;
  const bags = Math.ceil(dryKg / bagKg - 1e-9);
  return done({
    dryKg,
    bags,
    lastBagShare: dryKg / bagKg - (bags - 1),
    sandL: (bulkL * sandParts) / (sandParts + 1),
    cementL: bulkL / (sandParts + 1),
    waterL: dryKg * waterLPerKg,
  });
}
