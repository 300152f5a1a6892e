// npm run calibrate, second part: 1,000 seeds of the tablet simulation. A seed that finds a fault becomes a named test.
import 'fake-indexeddb/auto';
import { writeSection } from '../bench/performanceDoc.ts';
import { simulateSync } from '../web/src/tests/simulateSync.ts';

const SEEDS = Number(process.env.SEEDS ?? 1000);
const FIRST = Number(process.env.FIRST_SEED ?? 1);

const totals = { typed: 0, requests: 0, lost: 0, crashes: 0, restores: 0, clockJumps: 0 };
let failed = 0;
for (let seed = FIRST; seed < FIRST + SEEDS; seed += 1) {
  const report = await simulateSync(seed);
  for (const key of Object.keys(totals)) totals[key] += report[key];
  if (report.problems.length > 0) {
    failed += 1;
    console.log(`seed ${seed}: ${report.problems.slice(0, 3).join('; ')}`);
  }
  if (seed % 100 === 0) console.log(`… ${seed} seeds, ${failed} with a fault`);
}
const words =
  `${SEEDS} seeds: ${totals.typed} entries typed on two to five tablets each, ${totals.requests} requests of which ${totals.lost} were lost ` +
  `(before or after they arrived), ${totals.crashes} tablets losing power in the middle of a round, ${totals.restores} restores of the server ` +
  `to an older backup, ${totals.clockJumps} clocks set wrong by up to six hours. Seeds with anything lost, doubled or different: ${failed}.`;
console.log(words);
if (SEEDS >= 1000) writeSection('Many tablets on a bad network', `Made by \`npm run calibrate\`. ${words}`);
process.exitCode = failed === 0 ? 0 : 1;
