import { type FloodVerdict, floodVerdict } from '@careful-seam/core/flood/floodVerdict';
import { numbers, type SimulatedFlood, simulateFlood } from '@careful-seam/core/flood/simulateFlood';
import { writeSection } from './performanceDoc';

/** Simulated flood tests of known truth: how often the interval holds it, and what each rule says of it. */
const RUNS = Number(process.env.CALIBRATE_RUNS ?? 2000);
const SIXTEENTH_MM = 25.4 / 16;
const EIGHTH_MM = 25.4 / 8;
/** mm a day; null: anywhere from 0 to 5, each as likely. */
const LEAKS = [0, 0.5, 1, 2, 3, 5, null];

const KINDS: { name: string; flood: Omit<SimulatedFlood, 'leakMmPerDay' | 'evaporationMmPerDay' | 'seed'> }[] = [
  {
    name: 'logger 0.1 mm and pan, 24 h',
    flood: {
      method: 'logger',
      hours: 24,
      everyHours: 1 / 6,
      resolutionMm: 0.1,
      scatterMm: 0.15,
      correlationHours: 1,
      smallestLeakMmPerDay: 1,
    },
  },
  {
    name: 'marks 1/16 in and pan, 24 h',
    flood: {
      method: 'marks',
      hours: 24,
      everyHours: 24,
      resolutionMm: SIXTEENTH_MM,
      scatterMm: 0,
      correlationHours: 1,
      smallestLeakMmPerDay: 1,
    },
  },
  {
    name: 'marks 1/16 in and pan, 72 h, read daily',
    flood: {
      method: 'marks',
      hours: 72,
      everyHours: 24,
      marksBetween: 2,
      resolutionMm: SIXTEENTH_MM,
      scatterMm: 0,
      correlationHours: 1,
      smallestLeakMmPerDay: 1,
    },
  },
];

const percent = (count: number, runs: number): string => ((100 * count) / runs).toFixed(1);

/** More series where the row stands for all sizes of leak: there a tenth of a percent counts. */
const runsOf = (leak: number | null): number => (leak === null ? RUNS * 4 : RUNS);

function row(kind: (typeof KINDS)[number], leak: number | null): string {
  const counts = { covered: 0, fail: 0, pass: 0, undecided: 0, anyDrop: 0, overEighth: 0 };
  const runs = runsOf(leak);
  for (let seed = 1; seed <= runs; seed += 1) {
    // Evaporation runs over what bathrooms do, 1 to 3.5 mm a day, evenly.
    const evaporationMmPerDay = 1 + (2.5 * (seed - 0.5)) / runs;
    const leakMmPerDay = leak ?? 5 * numbers(seed + 1_000_000).uniform();
    const input = simulateFlood({ ...kind.flood, leakMmPerDay, evaporationMmPerDay, seed });
    const outcome = floodVerdict(input);
    if (!outcome.ok) throw new Error(outcome.problem.message);
    const v: FloodVerdict = outcome.value;
    counts[v.verdict] += 1;
    if (v.lowMmPerDay! <= leakMmPerDay && leakMmPerDay <= v.highMmPerDay!) counts.covered += 1;
    const drop = input.readings[0]!.levelMm - input.readings.at(-1)!.levelMm;
    if (drop >= Math.max(SIXTEENTH_MM, kind.flood.resolutionMm)) counts.anyDrop += 1;
    if (drop > (EIGHTH_MM * kind.flood.hours) / 24) counts.overEighth += 1;
  }
  const cells = [
    percent(counts.covered, runs),
    percent(counts.pass, runs),
    percent(counts.undecided, runs),
    percent(counts.fail, runs),
    percent(counts.anyDrop, runs),
    percent(counts.overEighth, runs),
  ];
  console.log(kind.name, leak, cells.join(' '));
  return `| ${kind.name} | ${leak ?? '0 to 5'} | ${cells.join(' | ')} |`;
}

const rows = KINDS.flatMap((kind) => LEAKS.map((leak) => row(kind, leak)));
writeSection(
  'The flood verdict against known truth',
  `Made by \`npm run calibrate\`: ${RUNS} seeded series a row and four times as many for all sizes of leak, evaporation 1 to 3.5 mm a day, the pan's ratio drawn (sd 0.075), a logger's scatter 0.15 mm with a correlation time of 1 h, the smallest leak to exclude 1.0 mm a day. In percent. The last two columns are the rules of thumb: "any drop fails" (1/16 in or more) and "up to 1/8 in a day is evaporation". A figure near 95 has a standard error of 0.5, over all sizes of 0.25. A single size of leak lies above or below it with marks, since rounding has no randomness of its own: what counts is the row over all sizes.

| test | leak, mm a day | interval holds the truth | pass | undecided | fail | "any drop" fails | "over 1/8 in" fails |
|---|---|---|---|---|---|---|---|
${rows.join('\n')}`,
);
