/**
 * What an instrument adds to its step, where nothing else is known of it [common practice, no source]. A mark by hand: how far
 * an eye misses the line of the water, standard deviation, mm. A logger: how much it may creep, standard deviation, mm a day,
 * and how its readings scatter at rest, mm.
 */
export const INSTRUMENTS = {
  marks: { eyeMm: 0.5 },
  logger: { driftMmPerDay: 0.07, scatterMm: 0.15 },
} as const;

/** Levels nearer to each other than this are the same, mm: rounding of units, not of a gauge. */
const SAME_MM = 1e-3;

/**
 * The step that a series really has, mm: the smallest difference between two of its levels, where that is coarser than
 * what was declared by half, and its readings repeat them: a coarse gauge shows the same level again and again, a water that
 * falls fast between few readings does not. With fewer than three levels nothing can be told, and the declared one stands.
 */
export function stepOf(levelsMm: readonly number[], declaredMm: number): number {
  const sorted = [...levelsMm].sort((a, b) => a - b);
  let [least, levels] = [Infinity, 1];
  for (let i = 1; i < sorted.length; i += 1) {
    const gap = sorted[i]! - sorted[i - 1]!;
    if (gap < SAME_MM) continue;
    levels += 1;
    least = Math.min(least, gap);
  }
  const repeats = sorted.length >= 2 * levels;
  return levels >= 3 && repeats && least > declaredMm * 1.5 ? least : declaredMm;
}
