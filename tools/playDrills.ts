import { type ChildProcess, execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, statfsSync, truncateSync } from 'node:fs';
import { join } from 'node:path';
import { writeSection } from '@careful-seam/bench/performanceDoc';
import { sha256Hex } from '@careful-seam/core/log/chain';
import pg from 'pg';
import sharp from 'sharp';
import { clusterFolder, freePort, startCluster, temporaryFolder } from './cluster.mjs';
import { ask, signIn, Writer } from './drillWriter';
import { PROJECT } from './prepare.mjs';

const sleep = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const wanted = process.argv.slice(2);

/** A place of its own: a cluster, a folder of pictures, and servers on them. */
interface Place {
  folder: string;
  cluster: Awaited<ReturnType<typeof startCluster>>;
  url: string;
  photos: string;
  servers: Server[];
}

interface Server {
  port: number;
  address: string;
  child: ChildProcess;
}

const places: Place[] = [];

async function makePlace(folder = temporaryFolder('drill')): Promise<Place> {
  const cluster = await startCluster({ folder: clusterFolder(folder) });
  cluster.createDatabase('seam');
  const place = { folder, cluster, url: cluster.url('seam'), photos: join(folder, 'photos'), servers: [] };
  places.push(place);
  return place;
}

async function serve(place: Place, { port, before = [] }: { port?: number; before?: string[] } = {}): Promise<Server> {
  const chosen = port ?? (await freePort());
  const args = [...before, process.execPath, join(PROJECT, 'dist/server/main.js')];
  const child = spawn(args[0]!, args.slice(1), {
    env: {
      PATH: process.env.PATH,
      NODE_ENV: 'production',
      DATABASE_URL: place.url,
      PORT: String(chosen),
      PHOTO_FOLDER: place.photos,
      WEB_FOLDER: join(PROJECT, 'dist/web'),
      DEMO: 'with-public-passwords',
      RATE_LIMITS: 'off',
      LOG_LEVEL: 'error',
    },
    stdio: ['ignore', 'pipe', 'ignore'],
    detached: true,
  });
  // What nobody foresaw is told: it is what a drill is for.
  child.stdout?.on('data', (part) => {
    for (const line of String(part).split('\n'))
      if (line.includes('"unexpected"'))
        console.log(`  unexpected: ${JSON.parse(line).err?.stack ?? line}`.slice(0, 900));
  });
  const server = { port: chosen, address: `http://127.0.0.1:${chosen}`, child };
  place.servers.push(server);
  for (let k = 0; k < 300; k += 1) {
    if ((await ask(server.address, 'GET', '/ready', { ms: 2000 })).status === 200) return server;
    if (child.exitCode !== null) break;
    await sleep(100);
  }
  return server;
}

function kill(server: Server): void {
  try {
    process.kill(-server.child.pid!, 'SIGKILL');
  } catch {}
}

async function leave(place: Place): Promise<void> {
  for (const server of place.servers) kill(server);
  await place.cluster.stop().catch(() => undefined);
  rmSync(place.folder, { recursive: true, force: true });
}

/** The command line's own check of everything. */
function verify(place: Place): string {
  const { stdout, stderr, status } = spawnSync(process.execPath, [join(PROJECT, 'dist/server/verify.js')], {
    env: { ...process.env, DATABASE_URL: place.url, PHOTO_FOLDER: place.photos },
    encoding: 'utf8',
  });
  return status === 0 ? 'as written' : (stdout + stderr).trim().split('\n').at(-1)!;
}

interface Row {
  what: string;
  how: string;
  acknowledged: number;
  lost: number;
  answers: string;
  ledger: string;
  held: boolean;
}
const rows: Row[] = [];

function note(what: string, how: string, writers: readonly Writer[], lost: number, ledger: string, held = true): void {
  const answers = new Map<number, number>();
  for (const w of writers) for (const [s, n] of w.written.answers) answers.set(s, (answers.get(s) ?? 0) + n);
  const told = [...answers]
    .sort(([a], [b]) => a - b)
    .map(([s, n]) => `${s === 0 ? 'none' : s} ${n}`)
    .join(', ');
  const acknowledged = writers.reduce((n, w) => n + w.written.acknowledged.size, 0);
  // Busy, full and no answer at all are what a tablet waits through; anything else from 500 on is a failure.
  const bad = [...answers.keys()].some((s) => s >= 500 && s !== 503 && s !== 507);
  const row = {
    what,
    how,
    acknowledged,
    lost,
    answers: told,
    ledger,
    held: held && !bad && lost === 0 && ledger === 'as written',
  };
  rows.push(row);
  console.log(
    `${row.held ? 'held' : 'FAILED'}: ${what}: ${acknowledged} acknowledged, ${lost} lost; ${told}; ledger ${ledger}`,
  );
}

async function begin(count: number, addresses: () => string[]): Promise<Writer[]> {
  const writers = Array.from({ length: count }, () => new Writer(addresses));
  for (const w of writers) void w.write();
  // Each is at work before anything happens to it.
  while (writers.some((w) => w.written.acknowledged.size < 3)) await sleep(50);
  return writers;
}

async function end(writers: readonly Writer[], address: string): Promise<number> {
  const before = writers.map((w) => w.written.acknowledged.size);
  // Everybody writes on once it is over: nobody is stuck.
  for (let k = 0; k < 600 && writers.some((w, i) => w.written.acknowledged.size < before[i]! + 3); k += 1)
    await sleep(50);
  const stuck = writers.filter((w, i) => w.written.acknowledged.size < before[i]! + 3).length;
  for (const w of writers) w.stop();
  await sleep(300);
  let lost = 0;
  for (const w of writers) lost += await w.lost(address);
  return lost + stuck;
}

const DRILLS: Record<string, () => Promise<void>> = {
  async 'the server is killed'() {
    const place = await makePlace();
    let server = await serve(place);
    const writers = await begin(3, () => [server.address]);
    for (let k = 0; k < 12; k += 1) {
      await sleep(200 + Math.random() * 600);
      kill(server);
      server = await serve(place, { port: server.port });
    }
    const lost = await end(writers, server.address);
    note('the server is killed', '12 times in the middle of writing', writers, lost, verify(place));
    await leave(place);
  },

  async 'the database is killed'() {
    const place = await makePlace();
    const server = await serve(place);
    const writers = await begin(3, () => [server.address]);
    for (let k = 0; k < 6; k += 1) {
      await sleep(200 + Math.random() * 800);
      const lock = join(clusterFolder(place.folder), 'data/postmaster.pid');
      process.kill(Number(readFileSync(lock, 'utf8').split('\n')[0]), 'SIGKILL');
      await restart(place);
    }
    const lost = await end(writers, server.address);
    note('the database is killed', '6 times in the middle of writing', writers, lost, verify(place));
    await leave(place);
  },

  async 'a table is locked'() {
    const place = await makePlace();
    const server = await serve(place);
    const writers = await begin(4, () => [server.address]);
    const holder = new pg.Client({ connectionString: place.url });
    await holder.connect();
    await holder.query('BEGIN; LOCK TABLE entry IN ACCESS EXCLUSIVE MODE');
    await sleep(12_000);
    const ready = await ask(server.address, 'GET', '/ready');
    await holder.query('ROLLBACK');
    await holder.end();
    const lost = await end(writers, server.address);
    note(
      'a table is locked',
      'for 12 s; /ready is asked meanwhile',
      writers,
      lost,
      verify(place),
      ready.status === 200,
    );
    await leave(place);
  },

  async 'the pool is dry'() {
    const place = await makePlace();
    const server = await serve(place);
    const writers = await begin(2, () => [server.address]);
    const holder = new pg.Client({ connectionString: place.url });
    await holder.connect();
    await holder.query('BEGIN; LOCK TABLE shower_head IN ACCESS EXCLUSIVE MODE');
    const cookie = await signIn(server.address);
    const many = Promise.all(
      Array.from({ length: 120 }, () => ask(server.address, 'GET', '/api/showers', { cookie, ms: 60_000 })),
    );
    await sleep(9000);
    const health = await ask(server.address, 'GET', '/health');
    await holder.query('ROLLBACK');
    await holder.end();
    const statuses = new Set((await many).map((a) => a.status));
    const lost = await end(writers, server.address);
    const held = health.status === 200 && [...statuses].every((s) => s === 200 || s === 503);
    note(
      'the pool is dry',
      `120 requests wait for 10 connections (answers: ${[...statuses].join(', ')})`,
      writers,
      lost,
      verify(place),
      held,
    );
    await leave(place);
  },

  async 'two servers, one database'() {
    const place = await makePlace();
    const pair = await Promise.all([serve(place), serve(place)]);
    const writers = await begin(4, () => pair.map((s) => s.address));
    for (let k = 0; k < 6; k += 1) {
      await sleep(400 + Math.random() * 500);
      const at = k % 2;
      kill(pair[at]!);
      await sleep(300);
      pair[at] = await serve(place, { port: pair[at]!.port });
    }
    const lost = await end(writers, pair[0]!.address);
    const client = new pg.Client({ connectionString: place.url });
    await client.connect();
    const { rows: days } = await client.query('SELECT day, count(*)::int AS n FROM anchor GROUP BY day');
    await client.end();
    const once = days.every((d) => d.n === 1) && days.length > 0;
    note(
      'two servers, one database',
      'each killed 3 times, tablets send to both in turn',
      writers,
      lost,
      verify(place),
      once,
    );
    await leave(place);
  },

  async 'the disk is full'() {
    const folder = temporaryFolder('drill');
    const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=320m,mode=0755', 'tmpfs', folder]).status === 0;
    if (!mounted) {
      console.log('not played here: the disk is full (needs the right to mount a small disk)');
      return;
    }
    try {
      const place = await makePlace(folder);
      const server = await serve(place);
      const writers = await begin(2, () => [server.address]);
      const ballast = join(folder, 'ballast');
      const { bavail, bsize } = statfsSync(folder);
      // First nearly full: pictures are refused, entries go on.
      spawnSync('fallocate', ['-l', String(bavail * bsize - 12_000_000), ballast]);
      const cookie = await signIn(server.address);
      const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#668' } })
        .jpeg()
        .toBuffer();
      const put = await fetch(`${server.address}/api/photos/${sha256Hex(picture)}`, {
        method: 'PUT',
        headers: { 'x-careful-seam': '1', 'content-type': 'image/jpeg', cookie },
        body: new Uint8Array(picture),
      });
      const went = writers.map((w) => w.written.acknowledged.size);
      await sleep(1500);
      const wentOn = writers.every((w, i) => w.written.acknowledged.size > went[i]!);
      // Then full to the last byte: the database itself can write nothing.
      const left = statfsSync(folder);
      spawnSync('fallocate', ['-l', String(left.bavail * left.bsize), join(folder, 'more')]);
      await sleep(8000);
      rmSync(join(folder, 'more'));
      truncateSync(ballast, 0);
      await restart(place);
      const lost = await end(writers, server.address);
      note(
        'the disk is full',
        `first nearly (a picture: ${put.status}, entries went on: ${wentOn ? 'yes' : 'no'}), then to the last byte for 8 s`,
        writers,
        lost,
        verify(place),
        put.status === 507 && wentOn,
      );
      await leave({ ...place, folder: join(folder, 'nothing') });
    } finally {
      await sleep(500);
      spawnSync('umount', ['-l', folder]);
      rmSync(folder, { recursive: true, force: true });
    }
  },

  async 'the clock jumps'() {
    const faketime = spawnSync('sh', ['-c', 'ls /usr/lib/*/faketime/libfaketime.so.1']).stdout.toString().trim();
    if (!existsSync(faketime)) {
      console.log('not played here: the clock jumps (needs the Debian package faketime)');
      return;
    }
    const place = await makePlace();
    let server = await serve(place);
    const cookie = await signIn(server.address);
    const writers = await begin(2, () => [server.address]);
    for (const jump of ['+400d', '-90d']) {
      kill(server);
      server = await serve(place, { port: server.port, before: ['env', `LD_PRELOAD=${faketime}`, `FAKETIME=${jump}`] });
      await sleep(3000);
      kill(server);
      server = await serve(place, { port: server.port });
      await sleep(500);
    }
    const session = await ask(server.address, 'GET', '/api/session', { cookie });
    const lost = await end(writers, server.address);
    const client = new pg.Client({ connectionString: place.url });
    await client.connect();
    const { rows: today } = await client.query("SELECT 1 FROM anchor WHERE day = (now() AT TIME ZONE 'UTC')::date");
    await client.end();
    note(
      'the clock jumps',
      '400 days ahead, back, 90 days behind, back; who was signed in still is, today has its anchor',
      writers,
      lost,
      verify(place),
      session.status === 200 && today.length === 1,
    );
    await leave(place);
  },

  async 'a restore is killed'() {
    const place = await makePlace();
    const server = await serve(place);
    const writers = await begin(1, () => [server.address]);
    const env = { ...process.env, DATABASE_URL: place.url, PHOTO_FOLDER: place.photos };
    const backup = join(place.folder, 'backup.tar');
    const command = [join(PROJECT, 'dist/server/backup.js')];
    execFileSync(process.execPath, [...command, 'backup', backup], { env, stdio: 'ignore' });
    const whole = Date.now();
    execFileSync(process.execPath, [...command, 'drill', backup], { env, stdio: 'ignore' });
    const took = Date.now() - whole;
    let killed = 0;
    let ended = 0;
    let broken = 0;
    // From its first moment to past its last, in 24 steps.
    for (let k = 1; k <= 24; k += 1) {
      const restore = spawn(process.execPath, [...command, 'restore', backup], { env, stdio: 'ignore' });
      const over = new Promise<void>((done) => restore.once('exit', () => done()));
      const timer = setTimeout(() => restore.kill('SIGKILL'), (took * 1.15 * k) / 24);
      await over;
      clearTimeout(timer);
      if (restore.signalCode === 'SIGKILL') killed += 1;
      else ended += 1;
      for (let tries = 0; tries < 100; tries += 1) {
        if ((await ask(server.address, 'GET', '/ready')).status === 200) break;
        await sleep(100);
      }
      if (verify(place) !== 'as written') broken += 1;
    }
    // What came after the backup lies on the tablet, which sends it again; here it is counted as known to be outside.
    for (const w of writers) w.stop();
    note(
      'a restore is killed',
      `${killed} times at 24 moments from its beginning to its end (${ended} got to their end); after each the ledger in force is whole`,
      [],
      broken,
      verify(place),
    );
    await leave(place);
  },
};

/** The database again on its port; one that was killed may need a moment until its last process is gone. */
async function restart(place: Place): Promise<void> {
  for (let k = 0; k < 60; k += 1) {
    const again = await startCluster({ folder: clusterFolder(place.folder), port: place.cluster.port }).catch(
      () => null,
    );
    if (again) {
      place.cluster = again;
      return;
    }
    await sleep(500);
  }
  throw new Error('the database did not start again');
}

async function main(): Promise<void> {
  for (const [name, play] of Object.entries(DRILLS)) {
    if (wanted.length > 0 && !wanted.some((w) => name.includes(w))) continue;
    console.log(`· ${name}`);
    await play();
  }
  const table = [
    '| drill | how | acknowledged | lost | answers on the way | ledger after it |',
    '|---|---|---|---|---|---|',
    ...rows.map((r) => `| ${r.what} | ${r.how} | ${r.acknowledged} | **${r.lost}** | ${r.answers} | ${r.ledger} |`),
  ].join('\n');
  console.log(`\n${table}`);
  if (wanted.length === 0)
    writeSection(
      'Bad nights',
      `Made by \`npm run drills\`: real processes, on databases of their own. An entry counts as acknowledged when a tablet was told so, and as lost when it is not in the ledger afterwards, or otherwise, or twice; a tablet that could not go on writing counts as one too. "none" is no answer at all, 503 busy, 507 full: a tablet waits through them.\n\n${table}`,
    );
  const failed = rows.filter((r) => !r.held).length;
  if (failed > 0) process.exitCode = 1;
  console.log(failed === 0 ? '\nNothing was lost.' : `\n${failed} drills failed.`);
}

try {
  await main();
} finally {
  for (const place of places) await leave(place).catch(() => undefined);
}
process.exit();
