// Changes the rooms that the proof is made of, one place at a time, and says how many of the changes their tests notice.
// npm run mutants [room ...]; without a room, all five one after the other. The lists lie in test-results/mutants-<room>.json.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** Each room with the rooms whose tests judge it. */
const ROOMS = {
  ledger: ['ledger', 'entries', 'proof'],
  cure: ['cure', 'proof'],
  film: ['film', 'proof'],
  flood: ['flood', 'proof'],
  proof: ['proof'],
};

const wanted = process.argv.slice(2);
const unknown = wanted.filter((room) => !(room in ROOMS));
if (unknown.length > 0) {
  console.error(`No room of that name: ${unknown.join(', ')}. There are ${Object.keys(ROOMS).join(', ')}.`);
  process.exit(2);
}

for (const room of wanted.length > 0 ? wanted : Object.keys(ROOMS)) {
  const { status } = spawnSync('npx', ['stryker', 'run', 'stryker.config.mjs'], {
    stdio: 'inherit',
    env: { ...process.env, MUTANTS_ROOM: room, MUTANTS_TESTS: ROOMS[room].join(',') },
  });
  if (status !== 0) process.exit(status ?? 1);
  const { files } = JSON.parse(readFileSync(`test-results/mutants-${room}.json`, 'utf8'));
  const count = { Killed: 0, Timeout: 0, Survived: 0, NoCoverage: 0 };
  for (const { mutants } of Object.values(files))
    for (const { status: found } of mutants) if (found in count) count[found] += 1;
  const killed = count.Killed + count.Timeout;
  const all = killed + count.Survived + count.NoCoverage;
  console.log(`${room}: ${killed} of ${all} changes noticed (${((100 * killed) / all).toFixed(1)} %)`);
}
