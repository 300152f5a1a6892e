import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { filmUm } from '../../units/bounded';

/** A spot may lie this far under the least and over the greatest film while the mean holds [SSPC-PA 2, value from memory]. */
const SPOT_LEAST = 0.8;
/** A spot thicker than so many times the greatest is too thick. */
const SPOT_MOST = 1.2;
/** Spots on 100 ft² [SSPC-PA 2, value from memory]. */
export const SPOTS_PER_100_FT2 = 5;

/** How a dry film was measured: a gauge made for metal reads no film on board or foam. */
export const DRY_GAUGES = ['cut-sample', 'ultrasonic'] as const;

/** Dry spots, each the mean of three readings [after SSPC-PA 2, from memory]. */
export const FilmSpotsInput = z.object({
  /** Three readings of each spot, µm. */
  spots: z
    .array(z.tuple([filmUm, filmUm, filmUm]))
    .min(1)
    .max(2000),
  minUm: filmUm,
  maxUm: filmUm,
});

/** How spots stand against their limits. */
export interface FilmSpots {
  /** Whether the spots are thick enough. */
  verdict: 'pass' | 'fail';
  /** Which limit the mean or a spot lies beyond; both where some are thin and some thick. */
  tooThin: boolean;
  /** One of them is thicker than it may be. */
  tooThick: boolean;
  /** Mean of all, µm. */
  meanUm: number;
  /** Lowest spot, µm. */
  lowestSpotUm: number;
  /** Highest spot, µm. */
  highestSpotUm: number;
}

/**
 * Dry film by spots of three readings: their mean within the limits, no spot under 80 % of the least or over 120 % of
 * the greatest. [SSPC-PA 2, values from memory: written for gauges on metal; on board or foam a cut sample under a
 * loupe or an ultrasonic gauge is needed]
 */
export function filmSpots({ spots, minUm, maxUm }: z.infer<typeof FilmSpotsInput>): Outcome<FilmSpots> {
  if (maxUm < minUm) return refuse('film-range-reversed', 'maxUm');
  const means = spots.map((s) => (s[0] + s[1] + s[2]) / 3);
  const meanUm = means.reduce((a, b) => a + b, 0) / means.length;
  const [lowestSpotUm, highestSpotUm] = [Math.min(...means), Math.max(...means)];
  const slack = 1e-9 * (1 + maxUm);
  const tooThin = meanUm < minUm - slack || lowestSpotUm < SPOT_LEAST * minUm - slack;
  const tooThick = meanUm > maxUm + slack || highestSpotUm > SPOT_MOST * maxUm + slack;
  return done({
    verdict: tooThin || tooThick ? 'fail' : 'pass',
    tooThin,
    tooThick,
    meanUm,
    lowestSpotUm,
    highestSpotUm,
  });
}
