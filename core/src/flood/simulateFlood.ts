import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import type { FloodVerdictInput } from './floodVerdictInput';

/** A flood test with known truth: what leaks, what evaporates, how the gauge scatters. Lengths in mm, times in hours. */
export interface SimulatedFlood {
  method: 'marks' | 'logger';
  leakMmPerDay: number;
  evaporationMmPerDay: number;
  hours: number;
  /** Between readings of a logger; marks are read at the start and at the end, and `marksBetween` times more. */
  everyHours: number;
  marksBetween?: number;
  resolutionMm: number;
  /** Standard deviation and correlation time of the logger's scatter. */
  scatterMm: number;
  correlationHours: number;
  smallestLeakMmPerDay: number;
  seed: number;
}

/** Seeded normal and uniform numbers. */
export function numbers(seed: number) {
  const rng = xoroshiro128plus(Math.imul(seed, 0x9e3779b1));
  for (let k = 0; k < 40; k += 1) rng.next();
  const uniform = (): number => ((rng.next() >>> 0) + 0.5) / 4294967296;
  const normal = (): number => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}

function timesOf({ method, hours, everyHours, marksBetween = 0 }: SimulatedFlood): number[] {
  const steps = method === 'marks' ? marksBetween + 1 : Math.round(hours / everyHours);
  return Array.from({ length: steps + 1 }, (_, k) => (k * hours) / steps);
}

/** One simulated series with its control pan, whose ratio to the floor's evaporation is drawn too. */
export function simulateFlood(s: SimulatedFlood): FloodVerdictInput {
  const { uniform, normal } = numbers(s.seed);
  const ratio = 1 + 0.075 * normal();
  const times = timesOf(s);
  const read = (start: number, perDay: number) => {
    let error = s.scatterMm * normal();
    return times.map((atHours, k) => {
      if (k > 0) {
        const keep = Math.exp(-(atHours - times[k - 1]!) / s.correlationHours);
        error = keep * error + Math.sqrt(1 - keep * keep) * s.scatterMm * normal();
      }
      const level = start - (perDay * atHours) / 24 + (s.method === 'logger' ? error : 0);
      return { atHours, levelMm: Math.round(level / s.resolutionMm) * s.resolutionMm };
    });
  };
  const water = read(76 + uniform() * 3, s.leakMmPerDay + s.evaporationMmPerDay);
  const pan = read(60 + uniform() * 3, s.evaporationMmPerDay / ratio);
  return {
    method: s.method,
    readings: water,
    resolutionMm: s.resolutionMm,
    pan: { readings: pan, resolutionMm: s.resolutionMm },
    smallestLeakMmPerDay: s.smallestLeakMmPerDay,
    plannedHours: 24,
    moistureFound: false,
  };
}

export interface Tally {
  runs: number;
  covered: number;
  fails: number;
  passes: number;
}

/** Runs many seeded series of one kind and counts: intervals that hold the truth, fails, passes. */
export function tally(
  make: (seed: number) => SimulatedFlood,
  runs: number,
  judge: (input: FloodVerdictInput) => { verdict: string; lowMmPerDay: number | null; highMmPerDay: number | null },
): Tally {
  const counts: Tally = { runs, covered: 0, fails: 0, passes: 0 };
  for (let seed = 1; seed <= runs; seed += 1) {
    const flood = make(seed);
    const { verdict, lowMmPerDay, highMmPerDay } = judge(simulateFlood(flood));
    if (lowMmPerDay! <= flood.leakMmPerDay && flood.leakMmPerDay <= highMmPerDay!) counts.covered += 1;
    if (verdict === 'fail') counts.fails += 1;
    if (verdict === 'pass') counts.passes += 1;
  }
  return counts;
}
