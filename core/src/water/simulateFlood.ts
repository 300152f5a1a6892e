import { numbers } from '../units/randomNumbers';
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
  /** Of the pan's gauge, where it is another one. */
  panResolutionMm?: number;
  /** Standard deviation and correlation time of the logger's scatter. */
  scatterMm: number;
  correlationHours: number;
  smallestLeakMmPerDay: number;
  seed: number;
  /** What real sites add. The pan's ratio where it is not drawn (floor over pan); no pan at all; the air as it was read. */
  panRatio?: number;
  noPan?: boolean;
  climate?: FloodVerdictInput['climate'];
  /** Evaporation over its mean, by the hour. */
  evaporationAt?: (hours: number) => number;
  /** How much the water's logger creeps up, mm a day; how far an eye misses each mark, mm. */
  driftMmPerDay?: number;
  eyeSdMm?: number;
  /** What is drunk in the first hours, mm. */
  absorbedMm?: number;
  /** After this many hours nothing leaks any more. */
  leaksForHours?: number;
  /** What the gauge is said to step by, where that is wrong. */
  declaredMm?: number;
}

function timesOf({ method, hours, everyHours, marksBetween = 0 }: SimulatedFlood): number[] {
  const steps = method === 'marks' ? marksBetween + 1 : Math.round(hours / everyHours);
  return Array.from({ length: steps + 1 }, (_, k) => (k * hours) / steps);
}

/** Evaporated until an hour, mm, by steps of a tenth of an hour. */
function evaporated({ evaporationMmPerDay, evaporationAt }: SimulatedFlood, hours: number): number {
  if (!evaporationAt) return (evaporationMmPerDay * hours) / 24;
  const steps = Math.max(1, Math.round(hours * 10));
  let sum = 0;
  for (let k = 0; k < steps; k += 1) sum += evaporationAt(((k + 0.5) * hours) / steps);
  return (evaporationMmPerDay * hours * (sum / steps)) / 24;
}

/** Hours in which mortar drinks most of what it drinks. */
const DRINKS_HOURS = 2;

/** One simulated series with its control pan, whose ratio to the floor's evaporation is drawn too. */
export function simulateFlood(s: SimulatedFlood): FloodVerdictInput {
  const { uniform, normal } = numbers(s.seed);
  const drawn = 1 + 0.075 * normal();
  const ratio = s.panRatio ?? drawn;
  const times = timesOf(s);
  const read = (start: number, fallen: (hours: number) => number, stepMm: number) => {
    let error = s.scatterMm * normal();
    return times.map((atHours, k) => {
      if (k > 0) {
        const keep = Math.exp(-(atHours - times[k - 1]!) / s.correlationHours);
        error = keep * error + Math.sqrt(1 - keep * keep) * s.scatterMm * normal();
      }
      const eye = s.method === 'marks' && s.eyeSdMm ? s.eyeSdMm * normal() : 0;
      const level = start - fallen(atHours) + (s.method === 'logger' ? error : eye);
      return { atHours, levelMm: Math.round(level / stepMm) * stepMm };
    });
  };
  const leaked = (t: number) => (s.leakMmPerDay * Math.min(t, s.leaksForHours ?? t)) / 24;
  const drunk = (t: number) => (s.absorbedMm ?? 0) * (1 - Math.exp(-t / DRINKS_HOURS));
  const crept = (t: number) => ((s.driftMmPerDay ?? 0) * t) / 24;
  const water = read(76 + uniform() * 3, (t) => leaked(t) + evaporated(s, t) + drunk(t) - crept(t), s.resolutionMm);
  const pan = read(60 + uniform() * 3, (t) => evaporated(s, t) / ratio, s.panResolutionMm ?? s.resolutionMm);
  const resolutionMm = s.declaredMm ?? s.resolutionMm;
  return {
    method: s.method,
    readings: water,
    resolutionMm,
    ...(s.noPan ? {} : { pan: { readings: pan, resolutionMm: s.panResolutionMm ?? resolutionMm } }),
    ...(s.climate ? { climate: s.climate } : {}),
    smallestLeakMmPerDay: s.smallestLeakMmPerDay,
    plannedHours: 24,
    moistureFound: false,
  };
}

/** How many simulated tests ended which way. */
export interface Tally {
  runs: number;
  /** Whose interval held the true loss. */
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
