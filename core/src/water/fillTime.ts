import { done, type Outcome } from '../outcome/outcome';
import { US_GALLON_L } from '../units/measures';

/** What a shower head or a garden hose gives, L/min: 2.5 US gallons [common practice, no source]. */
export const USUAL_LITRES_PER_MINUTE = 2.5 * US_GALLON_L;

/** Minutes to run a volume of water in, L over L/min. */
export function fillTime({
  volumeL,
  litresPerMinute,
}: {
  volumeL: number;
  litresPerMinute: number;
}): Outcome<{ minutes: number }> {
  return done({ minutes: volumeL / litresPerMinute });
}
