// npm run bench: ratios in one run, on a PostgreSQL of its own.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { clusterFolder, freePort, startCluster, temporaryFolder } from './cluster.mjs';
import { build, installPackages, PROJECT, say } from './prepare.mjs';

installPackages();
const base = temporaryFolder('bench');
const folder = clusterFolder(base);
const cluster = await startCluster({ folder, say });
cluster.createDatabase('bench');
// The filled databases of ten years take minutes and gigabytes: asked for by their name.
if (process.argv.includes('years')) {
  // What it measures beside the server is what a service has beside it: the built programs, at the lowest priority.
  build();
  const years = spawnSync('npx', ['tsx', 'bench/years.bench.ts'], {
    cwd: PROJECT,
    stdio: 'inherit',
    env: {
      ...process.env,
      BENCH_DATABASE_URL: cluster.url('bench'),
      BUILT_PROGRAMS: join('dist', 'server'),
      PROGRAMS_YIELD: '1',
    },
  });
  await cluster.stop();
  rmSync(base, { recursive: true, force: true });
  process.exit(years.status ?? 1);
}
const result = spawnSync('npx', ['tsx', 'bench/speed.bench.ts'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_DATABASE_URL: cluster.url('bench') },
});
cluster.createDatabase('bench_facts');
const facts = spawnSync('npx', ['tsx', 'bench/facts.bench.ts'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BENCH_DATABASE_URL: cluster.url('bench_facts') },
});
cluster.createDatabase('bench_tablet');
const app = await startApplication({
  PORT: String(await freePort()),
  DATABASE_URL: cluster.url('bench_tablet'),
  DEMO: 'with-public-passwords',
  CAREFUL_SEAM_DATA: join(base, 'data'),
});
// The real application in the real browser, one after the other: each grows what the next one finds.
const onTablet = ['tablet', 'drawing', 'tap', 'firstLoad', 'manyShowers'].map(
  (name) =>
    spawnSync('npx', ['tsx', `bench/${name}.bench.mjs`], {
      cwd: PROJECT,
      stdio: 'inherit',
      env: { ...process.env, BENCH_APPLICATION: app.address, BENCH_DATABASE_URL: cluster.url('bench_tablet') },
    }).status ?? 1,
);
await app.stop();
await cluster.stop();
rmSync(base, { recursive: true, force: true });
process.exit([result.status ?? 1, facts.status ?? 1, ...onTablet].find((status) => status !== 0) ?? 0);
