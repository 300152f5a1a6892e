// npm start: everything from nothing to a served application. Node built-ins only.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { clusterFolder, freePort, startCluster } from './cluster.mjs';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

const DATA = resolve(process.env.CAREFUL_SEAM_DATA || join(PROJECT, 'data'));
const LOCK = join(DATA, 'start.lock');
const PORT = Number(process.env.PORT || 4310);

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

const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

/** How long to wait before each new try, ms: soon at first, then later and later, never more than half a minute. */
function* pauses() {
  for (let ms = 500; ; ms = Math.min(30_000, ms * 2)) yield ms;
}

async function checkPort() {
  await freePort(PORT).catch(() => {
    throw new Error(`Port ${PORT} is taken by another program. Stop it, or choose another: PORT=4311 npm start`);
  });
}

async function database() {
  if (process.env.DATABASE_URL)
    return { url: process.env.DATABASE_URL, isPrivate: false, stop: async () => {}, keepUp: () => {} };
  say('starting the private database');
  const cluster = await startCluster({ folder: clusterFolder(DATA), say });
  cluster.createDatabase('careful_seam');
  writeFileSync(join(DATA, 'database.url'), cluster.url('careful_seam'), { mode: 0o600 });
  let [last, stopping] = [cluster, false];
  /** A database that ends by itself is started again on its port, for as long as nobody stops it. */
  const keepUp = () =>
    void last.ended?.then(async () => {
      for (const pause of pauses()) {
        if (stopping) return;
        say(`the database ended by itself; starting it again in ${pause / 1000} s`);
        await sleep(pause);
        if (stopping) return;
        const again = await startCluster({ folder: clusterFolder(DATA), port: cluster.port, say }).catch(() => null);
        if (!again) continue;
        last = again;
        say('the database runs again');
        return keepUp();
      }
    });
  const stop = async () => {
    stopping = true;
    await last.stop();
  };
  return { url: cluster.url('careful_seam'), isPrivate: true, stop, keepUp };
}

const LOOPBACK = /^(127(\.\d{1,3}){3}|::1|localhost)$/;

/** The demo is asked for by itself where nobody else can reach it and nobody has said that a real firm works here. */
function demoWanted(isPrivate) {
  const { DEMO, TRUST_PROXY, PUBLIC_URL } = process.env;
  const HOST = process.env.HOST || '127.0.0.1';
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
    PHOTO_FOLDER: process.env.PHOTO_FOLDER || join(DATA, 'photos'),
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
  let [{ server, ready }, stopping] = [serve(db), false];
  const isUp = () => server.exitCode === null && server.signalCode === null;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    say('stopping');
    if (isUp()) {
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
  // A server that can't begin at all is not tried again: what it said stands above.
  const first = await ready.catch(async (error) => {
    console.error(`\n${error.message}\n`);
    await stop(1);
  });
  greet(first);
  db.keepUp();
  let pause = pauses();
  for (;;) {
    if (isUp()) await new Promise((done) => server.once('exit', done));
    if (stopping) return;
    const ms = pause.next().value;
    say(`the server ended by itself; starting it again in ${ms / 1000} s`);
    await sleep(ms);
    if (stopping) return;
    ({ server, ready } = serve(db));
    const serves = await ready.then(
      () => true,
      () => false,
    );
    if (serves) say('the server serves again');
    // One that has served for a minute is sound: the next time it is begun again at once.
    const mine = server;
    void sleep(60_000).then(() => {
      if (serves && mine === server && isUp()) pause = pauses();
    });
  }
}

main().catch((error) => {
  console.error(`\n${error.message}\n`);
  if (!/running already/.test(error.message)) rmSync(LOCK, { force: true });
  process.exitCode = 1;
});
