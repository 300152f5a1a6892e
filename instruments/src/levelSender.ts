import { LEVEL_FAULTS, type LevelFault, levelReadings, sendReadings } from './levelDevice';

/** `--name value` of the command line. */
const said = (name: string): string | undefined => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? undefined : process.argv[at + 1];
};

const to = said('to');
if (!to) {
  console.error('Say where to: npm run level -- --to http://localhost:4310/api/device/CODE/readings');
  console.error(`[--hole 31] [--hours 72] [--seed 1] [--faults ${LEVEL_FAULTS.join(',')}]`);
  process.exitCode = 1;
} else {
  const hours = Number(said('hours') ?? 72);
  const faults = (said('faults') ?? '')
    .split(',')
    .filter((f): f is LevelFault => LEVEL_FAULTS.includes(f as LevelFault));
  const readings = levelReadings({
    seed: Number(said('seed') ?? 1),
    hours,
    everyMinutes: 10,
    startMm: 76.2,
    holeMm: said('hole') === 'none' ? null : Number(said('hole') ?? 31),
    leaks: 0.25,
    evaporationMmPerHour: 0.09,
    scatterMm: 0.1,
    resolutionMm: 0.1,
    faults,
  });
  const stored = await sendReadings(readings, {
    to,
    startMs: Date.now() - hours * 3_600_000,
    perPack: 12,
    faults,
    everyMs: 200,
    againMs: 2000,
    onSent: (sent) => console.log(`${sent} of ${readings.length} readings sent`),
  });
  console.log(`${stored} values stored`);
}
