import { FT2_PER_M2, LB_PER_KG } from '../units/measures';

/** lb/ft² that framed floors of dwellings are commonly designed to carry beside their own weight [IRC R301.5, value from memory]. */
const FLOOR_LIVE_LOAD_LB_FT2 = 40;

/** What the water weighs on the floor below. */
export interface FloorLoad {
  /** Pounds per square foot of wetted floor. */
  lbPerFt2: number;
  /** Share of the live load that framed floors are commonly designed for. */
  shareOfLiveLoad: number;
}

/** Weight of the water (kg over m²) against the floor it stands on. It informs; whether a floor may carry it is for a licensed engineer. */
export function floorLoad({ massKg, wettedM2 }: { massKg: number; wettedM2: number }): FloorLoad {
  const lbPerFt2 = wettedM2 > 0 ? (massKg * LB_PER_KG) / (wettedM2 * FT2_PER_M2) : 0;
  return { lbPerFt2, shareOfLiveLoad: lbPerFt2 / FLOOR_LIVE_LOAD_LB_FT2 };
}
