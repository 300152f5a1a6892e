// npm run facts: counts what moved since it was counted; npm run facts -- --rebuild throws away what was counted and counts everything anew.
import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { clusterFolder, startCluster } from './cluster.mjs';
import { build, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA || join(PROJECT, 'data'));
installPackages();
build();
const cluster = process.env.DATABASE_URL ? null : await startCluster({ folder: clusterFolder(DATA), say });
const url = process.env.DATABASE_URL || cluster?.url('careful_seam') || '';
const result = spawnSync(process.execPath, [join(PROJECT, 'dist/server/facts.js'), ...process.argv.slice(2)], {
  env: { ...process.env, DATABASE_URL: url },
  stdio: 'inherit',
});
await cluster?.stop();
process.exit(result.status ?? 1);
