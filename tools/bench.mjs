// npm run bench: ratios in one run, on a PostgreSQL of its own.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { clusterFolder, startCluster, temporaryFolder } from './cluster.mjs';
import { installPackages, PROJECT, say } from './prepare.mjs';

installPackages();
const base = temporaryFolder('bench');
const folder = clusterFolder(base);
const cluster = await startCluster({ folder, say });
cluster.createDatabase('bench');
const result = spawnSync('npx', ['tsx', 'server/src/bench/speed.bench.ts'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_DATABASE_URL: cluster.url('bench') },
});
await cluster.stop();
rmSync(base, { recursive: true, force: true });
process.exit(result.status ?? 1);
