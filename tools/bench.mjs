// npm run bench: ratios in one run, on a PostgreSQL of its own.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { clusterFolder, freePort, startCluster, temporaryFolder } from './cluster.mjs';
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
cluster.createDatabase('bench_tablet');
const app = await startApplication({
  PORT: String(await freePort()),
  DATABASE_URL: cluster.url('bench_tablet'),
  DEMO: 'with-public-passwords',
  CAREFUL_SEAM_DATA: join(base, 'data'),
});
const tablet = spawnSync('npx', ['tsx', 'tools/benchTablet.mjs'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_APPLICATION: app.address },
});
const drawing = spawnSync('npx', ['tsx', 'tools/benchDrawing.mjs'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_APPLICATION: app.address },
});
await app.stop();
await cluster.stop();
rmSync(base, { recursive: true, force: true });
process.exit((result.status ?? 1) || (tablet.status ?? 1) || (drawing.status ?? 1));
