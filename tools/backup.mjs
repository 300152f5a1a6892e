// npm run backup -- FILE and npm run restore -- FILE, with the running (or freshly started) private database.
import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { clusterFolder, startCluster } from './cluster.mjs';
import { build, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA || join(PROJECT, 'data'));
const [what, file] = process.argv.slice(2);
const stamp = new Date().toISOString().slice(0, 19).replaceAll(':', '');
const named = file ?? (what === 'backup' ? `careful-seam-${stamp}.tar` : undefined);
installPackages();
build();
const cluster = process.env.DATABASE_URL ? null : await startCluster({ folder: clusterFolder(DATA), say });
const url = process.env.DATABASE_URL || cluster.url('careful_seam');
if (cluster && what === 'restore') cluster.createDatabase('careful_seam');
const env = { ...process.env, DATABASE_URL: url, PHOTO_FOLDER: process.env.PHOTO_FOLDER || join(DATA, 'photos') };
const result = spawnSync(process.execPath, [join(PROJECT, 'dist/server/backup.js'), what, ...(named ? [named] : [])], {
  env,
  stdio: 'inherit',
});
await cluster?.stop();
process.exit(result.status ?? 1);
