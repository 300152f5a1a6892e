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
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, isPrivate: false, stop: async () => {} };
  say('starting the private database');
  const cluster = await startCluster({ folder: clusterFolder(DATA), say });
  cluster.createDatabase('careful_seam');
  writeFileSync(join(DATA, 'database.url'), cluster.url('careful_seam'), { mode: 0o600 });
  return { url: cluster.url('careful_seam'), isPrivate: true, stop: cluster.stop };
}

const LOOPBACK = /^(127(\.\d{1,3}){3}|::1|localhost)$/;

/** The demo is asked for by itself where nobody else can reach it and nobody has said that a real firm works here. */
function demoWanted(isPrivate) {
  const { DEMO, HOST = '127.0.0.1', TRUST_PROXY, PUBLIC_URL } = process.env;
  if (DEMO) return DEMO;
  const here = LOOPBACK.test(HOST) && TRUST_PROXY !== '1' && !PUBLIC_URL;
  return isPrivate && here && !existsSync(join(DATA, 'real-firm')) ? 'on' : 'off';
}

function serve({ url, isPrivate }) {
  const env = {
    ...process.env,
    DATABASE_URL: url,
    DATABASE_IS_PRIVATE: isPrivate ? '1' : '0',
    DEMO: demoWanted(isPrivate),
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
      const found = /SERVING (\S+)( DEMO)?\n/.exec(text);
      if (found) done({ address: found[1], isDemo: found[2] !== undefined, told: text.replace(found[0], '') });
      else process.stdout.write(text);
    });
    server.once('exit', (code) => fail(new Error(`The server ended with code ${code}. What it said stands above.`)));
  });
  return { server, ready };
}

const DEMO_SIGN_INS = `
  Demo sign-ins (invented people, password "try-every-seam"):
    ines    inspector          maren   quality manager
    tomas   inspector          pavel   crew lead, Crew Heron

  For a firm of your own: npm run real-firm
`;

function greet({ address, isDemo, told }) {
  console.log(`
  Careful Seam is served at  ${address}
${isDemo ? DEMO_SIGN_INS : ''}${told ? `\n  ${told}` : ''}
  Ctrl-C stops the server${process.env.DATABASE_URL ? '' : ' and its database'}.
`);
}

async function main() {
  checkNode();
  takeLock();
  await checkPort();
  installPackages();
  build();
  const db = await database();
  say('migrating');
  const { server, ready } = serve(db);
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
