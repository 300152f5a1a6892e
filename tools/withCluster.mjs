// Runs a command with a private PostgreSQL for tests: node tools/withCluster.mjs CMD ARGS…
import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { clusterFolder, startCluster, temporaryFolder } from './cluster.mjs';

const base = temporaryFolder('test');
const folder = clusterFolder(base);
const cluster = await startCluster({ folder });
const [file, ...args] = process.argv.slice(2);
const child = spawn(file, args, {
  stdio: 'inherit',
  env: { ...process.env, TEST_DATABASE_URL: cluster.url('postgres') },
});
const code = await new Promise((done) => child.once('exit', (c) => done(c ?? 1)));
await cluster.stop();
rmSync(base, { recursive: true, force: true });
process.exit(code);
