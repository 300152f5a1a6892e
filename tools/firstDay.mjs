// npm run first-manager (a new code for the set-up page) and npm run real-firm (the demo firm goes, your own begins).
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { clusterFolder, startCluster } from './cluster.mjs';
import { build, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA || join(PROJECT, 'data'));
const [what, ...flags] = process.argv.slice(2);

function isServing() {
  const lock = join(DATA, 'start.lock');
  if (!existsSync(lock)) return false;
  try {
    return readFileSync(`/proc/${Number(readFileSync(lock, 'utf8'))}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    return false;
  }
}

/** Asked on a terminal; a script says it with --yes. */
async function isMeant() {
  if (flags.includes('--yes')) return true;
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question(
    'Everything in the demo firm goes, also what was tried in it. Type "yes" to go on: ',
  );
  ask.close();
  return answer.trim().toLowerCase() === 'yes';
}

async function main() {
  if (what === 'real-firm' && isServing())
    throw new Error('The application is running. Stop it with Ctrl-C first, then run this again.');
  if (what === 'real-firm' && !(await isMeant())) throw new Error('Nothing was changed.');
  installPackages();
  build();
  const cluster = process.env.DATABASE_URL ? null : await startCluster({ folder: clusterFolder(DATA), say });
  cluster?.createDatabase('careful_seam');
  const env = {
    ...process.env,
    DATABASE_URL: process.env.DATABASE_URL || cluster.url('careful_seam'),
    PHOTO_FOLDER: process.env.PHOTO_FOLDER || join(DATA, 'photos'),
  };
  const { status } = spawnSync(process.execPath, [join(PROJECT, 'dist/server/firstDay.js'), what], {
    env,
    stdio: 'inherit',
  });
  await cluster?.stop();
  if (status === 0 && what === 'real-firm') {
    mkdirSync(DATA, { recursive: true });
    writeFileSync(join(DATA, 'real-firm'), 'npm start no longer loads the demo firm here\n');
  }
  process.exitCode = status ?? 1;
}

await main().catch((error) => {
  console.error(error.message);
  process.exitCode = 1;
});
