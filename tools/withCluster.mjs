// Runs a command with a private PostgreSQL for tests: node tools/withCluster.mjs CMD ARGS…
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { clusterFolder, startCluster } from './cluster.mjs';

const base = mkdtempSync('/tmp/careful-seam-test-');
const folder = clusterFolder(base);
const cluster = await startCluster({ folder });
const [file, ...args] = process.argv.slice(2);
const child = spawn(file, args, {
  stdio: 'inherit',
  env: { ...process.env, TEST_DATABASE_URL: cluster.url('postgres') },
});
const code = await new Promise((done) => child.once('exit', (c) => done(c ?? 1)));
await cluster.stop();
rmSync(folder, { recursive: true, force: true });
rmSync(base, { recursive: true, force: true });
process.exit(code);
