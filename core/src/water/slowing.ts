import { ABSORBED_MM, absorbed, type Blocks, blockMeans, fitColumns } from './loggerRate';
import type { Segment } from './series';

/** More than this no mortar drinks in the first hours, mm: what goes beyond it ran out somewhere [common practice, no source]. */
const ABSORBED_MOST_MM = 0.8;
/** Standard errors beyond doubt, over all the times at which a loss may slow. */
const BEYOND_DOUBT = 2.5;
/** Half the likelihood ratio that a time at which it slowed may lie below the likeliest (chi-squared, 95 %). */
const HALF_RATIO = 1.92;
const CORRELATIONS = [0, 0.4, 0.6, 0.75, 0.87, 0.95];
const BENDS = 22;
/** Hours at each end in which no slowing can be told. */
const ENDS_HOURS = 1.5;

/** A loss that slowed: at which hour (with the hours between which that lies), and the water that went before, mm. */
export interface Slowing {
  atHours: number;
  fromHours: number;
  toHours: number;
  extraMm: number;
  /** What went before it slowed is more than mortar drinks, beyond doubt. */
  isLeak: boolean;
}

/**
 * Whether a loss slowed on the way: one bend, its time the likeliest. Given a level from which evaporation is taken off already
 * (water less pan), what went before the bend and not after it was a leak whose height the water has reached. Null where a
 * straight line does as well, or there are too few readings.
 */
export function slowing(segments: readonly Segment[], resolutionMm: number, filledHours: number): Slowing | null {
  const usable = segments.filter((s) => s.hours.length >= 2);
  if (usable.length !== 1 || usable[0]!.hours.length < 24) return null;
  const blocks: Blocks = blockMeans(usable);
  const [first, last] = [blocks.hours[0]!, blocks.hours.at(-1)!];
  const floorVariance = resolutionMm ** 2 / 12;
  const early = { values: absorbed(blocks.hours, filledHours), priorMm: ABSORBED_MM };
  const line = { values: blocks.hours };
  const bends = Array.from({ length: BENDS }, (_, k) => first + ((k + 1) * (last - first)) / (BENDS + 1)).filter(
    (t) => t >= first + ENDS_HOURS && t <= last - ENDS_HOURS,
  );
  const found = bends.flatMap((at) => {
    const bend = { values: blocks.hours.map((t) => Math.min(t, at) - at) };
    return CORRELATIONS.map((c) => {
      const fit = fitColumns(blocks, c, 1, floorVariance, [early, line, bend], 0.2);
      return { at, fit };
    });
  });
  if (found.length === 0) return null;
  const best = found.reduce((a, b) => (b.fit.logLikelihood > a.fit.logLikelihood ? b : a));
  const run = best.at - first;
  const extraMm = -best.fit.slope * run;
  const errorMm = best.fit.standardError * run;
  if (extraMm <= BEYOND_DOUBT * errorMm) return null;
  const likely = found.filter((f) => f.fit.logLikelihood >= best.fit.logLikelihood - HALF_RATIO).map((f) => f.at);
  return {
    atHours: best.at,
    fromHours: Math.min(...likely),
    toHours: Math.max(...likely),
    extraMm,
    isLeak: extraMm - BEYOND_DOUBT * errorMm > ABSORBED_MOST_MM,
  };
}
