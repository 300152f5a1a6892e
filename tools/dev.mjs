// npm run dev: server and interface straight from their sources, each begun again or drawn anew when one of them changes. It has its
// own database with the demo firm under `data/dev`, so that it never meets what `npm start` keeps. Node built-ins only.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { clusterFolder, freePort, startCluster } from './cluster.mjs';
import { checkNode, installPackages, PROJECT, say } from './prepare.mjs';

// Itself and not by a shell: what is stopped is what was begun.
const VITE = join(PROJECT, 'node_modules', 'vite', 'bin', 'vite.js');

checkNode();
installPackages();
const data = join(PROJECT, 'data', 'dev');
mkdirSync(data, { recursive: true });
const cluster = await startCluster({ folder: clusterFolder(data), say });
cluster.createDatabase('careful_seam');
const [api, web] = [await freePort(), Number(process.env.PORT || 4310)];
await freePort(web);
const env = {
  ...process.env,
  DATABASE_URL: cluster.url('careful_seam'),
  DATABASE_IS_PRIVATE: '1',
  DEMO: 'on',
  RATE_LIMITS: 'off',
  PORT: String(api),
  PHOTO_FOLDER: join(data, 'photos'),
  LOG_LEVEL: process.env.LOG_LEVEL || 'info',
  DEV_API: `http://127.0.0.1:${api}`,
};
const server = spawn(
  process.execPath,
  ['--watch', '--watch-preserve-output', '--import', 'tsx', join(PROJECT, 'server', 'src', 'main.ts')],
  {
    cwd: PROJECT,
    env,
    stdio: 'inherit',
  },
);
const vite = spawn(process.execPath, [VITE, '--port', String(web), '--strictPort', '--host', '127.0.0.1'], {
  cwd: join(PROJECT, 'web'),
  env,
  stdio: 'inherit',
});
say(
  `the interface is at http://127.0.0.1:${web} as soon as the server says SERVING; sign in as ines, maren, tomas or pavel: try-every-seam`,
);

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  for (const child of [vite, server]) child.kill('SIGTERM');
  await cluster.stop();
  process.exit(0);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
for (const child of [vite, server]) child.once('exit', () => void stop());
