// npm run verify: walks every entry and picture of the running (or freshly started) private database.
// npm run verify -- --since-anchor walks what moved since the last anchor; --parts N shares the work out to N processes.
// npm run verify -- --head HASH proves a printed head; -- --record FILE [--key FILE] checks a record without any database.
import { spawnSync } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { clusterFolder, startCluster } from './cluster.mjs';
import { build, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA || join(PROJECT, 'data'));
// On all cores, where nothing else is asked for.
const shared = process.argv.includes('--parts') ? [] : ['--parts', String(availableParallelism())];
installPackages();
build();
const offline = process.argv.includes('--record');
const cluster = process.env.DATABASE_URL || offline ? null : await startCluster({ folder: clusterFolder(DATA), say });
const url = process.env.DATABASE_URL || cluster?.url('careful_seam') || '';
const env = { ...process.env, DATABASE_URL: url, PHOTO_FOLDER: process.env.PHOTO_FOLDER || join(DATA, 'photos') };
const result = spawnSync(
  process.execPath,
  [join(PROJECT, 'dist/server/verify.js'), ...shared, ...process.argv.slice(2)],
  {
    env,
    stdio: 'inherit',
  },
);
await cluster?.stop();
process.exit(result.status ?? 1);
