import { done, type Outcome } from '../outcome/outcome';
import { US_CUP_L } from '../units/measures';

const GRAVITY_MS2 = 9.80665;
/** Discharge coefficient of a sharp-edged hole (Torricelli with contraction). */
const DISCHARGE = 0.6;

/** A loss through one hole. */
export interface LeakSizeInput {
  /** Fall of the level beyond evaporation, mm per hour. */
  lossMmPerHour: number;
  /** Free surface, m². */
  wettedM2: number;
  /** Mean height of the water over the hole, mm. */
  headMm: number;
}

/** A leak in terms that a person can picture. */
export interface LeakSize {
  litresPerHour: number;
  cupsPerDay: number;
  /** Diameter of one round hole that would let as much through, mm. */
  holeMm: number;
}

/** How much a net loss of level means: mm/h × m² = L/h, cups a day, and a round hole under the head: Q = 0.6·A·√(2gh). */
export function leakSize({ lossMmPerHour, wettedM2, headMm }: LeakSizeInput): Outcome<LeakSize> {
  const litresPerHour = lossMmPerHour * wettedM2;
  const m3PerS = litresPerHour / 1000 / 3600;
  const speedMs = Math.sqrt((2 * GRAVITY_MS2 * headMm) / 1000);
  const areaM2 = m3PerS / (DISCHARGE * speedMs);
  return done({
    litresPerHour,
    cupsPerDay: (litresPerHour * 24) / US_CUP_L,
    holeMm: Math.sqrt((4 * areaM2) / Math.PI) * 1000,
  });
}
