// npm start: everything from nothing to a served application. Node built-ins only.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { clusterFolder, freePort, startCluster } from './cluster.mjs';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA ?? join(PROJECT, 'data'));
const LOCK = join(DATA, 'start.lock');
const PORT = Number(process.env.PORT ?? 4310);

function takeLock() {
  mkdirSync(DATA, { recursive: true });
  if (existsSync(LOCK)) {
    const pid = Number(readFileSync(LOCK, 'utf8'));
    let line = '';
    try {
      line = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    } catch {}
    if (pid !== process.pid && line.includes('start.mjs'))
      throw new Error(`It is running already as process ${pid}. Stop that one with Ctrl-C first.`);
    say('removing the lock of a start that was killed');
  }
  writeFileSync(LOCK, String(process.pid));
}

async function checkPort() {
  await freePort(PORT).catch(() => {
    throw new Error(`Port ${PORT} is taken by another program. Stop it, or choose another: PORT=4311 npm start`);
  });
}

async function database() {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, stop: async () => {} };
  say('starting the private database');
  const cluster = await startCluster({ folder: clusterFolder(DATA), say });
  cluster.createDatabase('careful_seam');
  writeFileSync(join(DATA, 'database.url'), cluster.url('careful_seam'), { mode: 0o600 });
  return { url: cluster.url('careful_seam'), stop: cluster.stop };
}

function serve(url) {
  const env = {
    ...process.env,
    DATABASE_URL: url,
    PORT: String(PORT),
    PHOTO_FOLDER: join(DATA, 'photos'),
    WEB_FOLDER: join(PROJECT, 'dist', 'web'),
    NODE_ENV: 'production',
  };
  const server = spawn(process.execPath, ['--enable-source-maps', join(PROJECT, 'dist', 'server', 'main.js')], {
    cwd: PROJECT,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  });
  const ready = new Promise((done, fail) => {
    server.stdout.on('data', (part) => {
      const text = String(part);
      const address = /SERVING (\S+)/.exec(text)?.[1];
      if (address) done(address);
      else process.stdout.write(text);
    });
    server.once('exit', (code) => fail(new Error(`The server ended with code ${code}. What it said stands above.`)));
  });
  return { server, ready };
}

function greet(address) {
  console.log(`
  Careful Seam is served at  ${address}

  Demo sign-ins (invented people, password "try-every-seam"):
    ines    inspector          maren   quality manager
    tomas   inspector          pavel   crew lead, Crew Heron

  Ctrl-C stops the server and its database.
`);
}

async function main() {
  checkNode();
  takeLock();
  await checkPort();
  installPackages();
  build();
  const db = await database();
  say('migrating, loading the demo firm when the database is empty');
  const { server, ready } = serve(db.url);
  let stopping = false;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    say('stopping');
    if (server.exitCode === null && server.signalCode === null) {
      const ended = new Promise((done) => server.once('exit', done));
      server.kill('SIGTERM');
      await ended;
    }
    await db.stop();
    rmSync(LOCK, { force: true });
    process.exit(code);
  };
  process.on('SIGINT', () => void stop(0));
  process.on('SIGTERM', () => void stop(0));
  server.once('exit', () => void stop(1));
  greet(await ready);
}

main().catch((error) => {
  console.error(`\n${error.message}\n`);
  if (!/running already/.test(error.message)) rmSync(LOCK, { force: true });
  process.exitCode = 1;
});
