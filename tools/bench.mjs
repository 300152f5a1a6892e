// npm run bench: ratios in one run, on a PostgreSQL of its own.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { clusterFolder, startCluster } from './cluster.mjs';
import { installPackages, PROJECT, say } from './prepare.mjs';

installPackages();
const base = mkdtempSync('/tmp/careful-seam-bench-');
const folder = clusterFolder(base);
const cluster = await startCluster({ folder, say });
cluster.createDatabase('bench');
const result = spawnSync('npx', ['tsx', 'server/src/bench/speed.bench.ts'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_DATABASE_URL: cluster.url('bench') },
});
await cluster.stop();
rmSync(folder, { recursive: true, force: true });
rmSync(base, { recursive: true, force: true });
process.exit(result.status ?? 1);
