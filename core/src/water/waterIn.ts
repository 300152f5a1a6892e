import { benchHeights, benchPlan } from '../shower/geometry/bench';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { type FloodVolume, floodVolume } from './floodVolume';

/**
 * The water of a shower filled to a height over its drain rim (mm), round its benches, its floor taken as straight lines
 * from a level edge; null when that height holds none.
 */
export function waterIn(model: ShowerModel, depthAtDrainMm: number): FloodVolume | null {
  const { footprint, drain, perimeterRiseMm } = model.geometry;
  const found = floodVolume({
    footprint,
    drain: { xMm: drain.xMm, yMm: drain.yMm },
    perimeterRiseMm: perimeterRiseMm ?? 0,
    benches: (model.geometry.benches ?? []).map((bench) => ({
      outline: benchPlan(model.geometry, bench).outline,
      onFloor: !bench.undersideMm,
      ...benchHeights(model.geometry, bench),
    })),
    depthAtDrainMm,
  });
  return found.ok ? found.value : null;
}
