import { numbers } from '../units/randomNumbers';
import { evaporationMmPerHour } from './evaporation';
import type { SimulatedFlood } from './simulateFlood';

const usual = {
  method: 'logger' as const,
  evaporationMmPerDay: 2.25,
  hours: 24,
  everyHours: 1 / 6,
  resolutionMm: 0.1,
  scatterMm: 0.15,
  correlationHours: 1,
  smallestLeakMmPerDay: 1,
};
const SIXTEENTH_MM = 25.4 / 16;
const still = { waterC: 20, airC: 22, relativeHumidity: 0.5, airSpeedMs: 0.05 };
const perDay = (climate: typeof still): number => 24 * evaporationMmPerHour(climate, 0.75);

/** What goes on at real sites, as simulated truth: each gives a flood for a leak and a seed. */
export interface SiteScenario {
  name: string;
  flood: (leakMmPerDay: number, seed: number) => SimulatedFlood;
  /** What the verdict can't tell by itself, said on the screen as a condition. */
  condition?: string;
}

const spread = (seed: number, low: number, high: number): number =>
  low + (high - low) * numbers(seed + 77_000).uniform();

/** The scenarios that a statistician passed leaking floors and failed tight ones with. */
export const SITE_SCENARIOS: readonly SiteScenario[] = [
  {
    name: 'no pan; 80 % humidity in the shower, 50 % read in the room',
    flood: (leakMmPerDay, seed) => ({
      ...usual,
      leakMmPerDay,
      seed,
      noPan: true,
      climate: still,
      evaporationMmPerDay: Math.max(0.1, perDay({ ...still, relativeHumidity: 0.8 })),
    }),
  },
  {
    name: 'no pan; climate read once, water cools from 22 to 15 °C',
    flood: (leakMmPerDay, seed) => ({
      ...usual,
      leakMmPerDay,
      seed,
      noPan: true,
      climate: { ...still, waterC: 22 },
      evaporationMmPerDay: perDay({ ...still, waterC: 18 }),
      evaporationAt: (t) => perDay({ ...still, waterC: 22 - (7 * t) / 24 }) / perDay({ ...still, waterC: 18 }),
    }),
  },
  {
    name: 'pan evaporates 0.8 of the floor',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, panRatio: 1 / 0.8 }),
    condition: 'the pan stands in the shower, with the same water, as deep',
  },
  {
    name: 'pan evaporates 1.2 of the floor',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, panRatio: 1 / 1.2 }),
    condition: 'the pan stands in the shower, with the same water, as deep',
  },
  {
    name: 'logger creeps up 0.3 mm a day',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, driftMmPerDay: 0.3 }),
    condition: 'the logger creeps by no more than 0.1 mm a day (checked once over a still bucket)',
  },
  {
    name: "marks with an eye's error of 0.5 mm",
    flood: (leakMmPerDay, seed) => ({
      ...usual,
      method: 'marks',
      leakMmPerDay,
      seed,
      eyeSdMm: 0.5,
      everyHours: 24,
      resolutionMm: SIXTEENTH_MM,
    }),
  },
  {
    name: 'correlation of 0.98 between readings of 10 min',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, correlationHours: 8.25 }),
  },
  {
    name: 'a reading every 3 h',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, everyHours: 3 }),
  },
  {
    name: 'mortar drinks 0.5 to 1 mm in the first hours',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, absorbedMm: spread(seed, 0.5, 1) }),
  },
  {
    name: 'logger of 1 mm, declared 0.1 mm',
    flood: (leakMmPerDay, seed) => ({ ...usual, leakMmPerDay, seed, resolutionMm: 1, declaredMm: 0.1 }),
  },
];

/** A leak that stops when the water has sunk to it: 8 mm a day for 6 h, then none. */
export const STOPPING_LEAK = (seed: number): SimulatedFlood => ({ ...usual, leakMmPerDay: 8, leaksForHours: 6, seed });
