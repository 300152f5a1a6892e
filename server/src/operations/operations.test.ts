import { mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ServerState } from '@careful-seam/contract/api/office';
import { pino } from 'pino';
import supertest from 'supertest';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeBackup, urlOf } from '../backup/makeBackup';
import { restoreBackup } from '../backup/restoreBackup';
import { currentEpoch, openEpoch } from '../firm/epoch';
import { createApp } from '../http/createApp';
import { makeAnchor } from '../ledger/anchors';
import { isNearlyFull, keepRoom, roomOf } from '../photos/room';
import { openStore } from '../store/dataSource';
import { AnchorEntity } from '../store/entities/trust';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { doChore, lastChores, purge } from './chores';
import { type Night, nightsWork } from './night';
import { noteSizes } from './serverState';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const DAY = 86_400_000;

async function shower() {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  await ines
    .post(`/api/showers/${tablet.showerId}/entries`)
    .send(push([tablet.seal('shower-created', created), tablet.seal('note', { words: 'kept' })]))
    .expect(200);
  return tablet;
}

const nightInto = (backupFolder: string, now: () => Date): Night => ({
  store: server.store,
  databaseUrl: urlOf(server.store),
  picturePlace: server.picturePlace,
  now,
  backupFolder,
  at: '02:30',
  daily: 1,
  monthly: 0,
});

describe('a night', () => {
  it('makes a backup that can be restored, checks the ledger, clears up, and each once', async () => {
    await shower();
    const folder = join(mkdtempSync(join(tmpdir(), 'seam-night-')), 'backups');
    let now = new Date('2026-03-07T02:31:00Z');
    const night = nightInto(folder, () => now);
    await nightsWork(night);
    await nightsWork(night);
    expect(readdirSync(folder)).toEqual(['careful-seam-2026-03-07T023100.tar']);
    expect(statSync(join(folder, readdirSync(folder)[0]!)).mode & 0o777).toBe(0o600);
    const lines = await lastChores(server.store);
    expect(lines.map((l) => [l.what, l.ok])).toEqual([
      ['backup', true],
      ['purge', true],
      ['verify', true],
    ]);
    expect(lines.find((l) => l.what === 'verify')!.words).toContain('all as written');
    // A Sunday: everything is checked, and the older backup goes once the new one is whole.
    now = new Date('2026-03-08T02:31:00Z');
    await nightsWork(night);
    expect(readdirSync(folder)).toEqual(['careful-seam-2026-03-08T023100.tar']);
    const drill = await restoreBackup(join(folder, readdirSync(folder)[0]!), {
      url: urlOf(server.store),
      picturePlace: server.picturePlace,
      now: new Date(),
      drill: true,
    });
    expect(drill).toMatchObject({ findings: [], sameHeads: drill.showers });
  });

  it('that fails says why, keeps what it had, and goes on with the rest', async () => {
    const [at, folder] = [new Date('2026-04-07T02:31:00Z'), mkdtempSync(join(tmpdir(), 'seam-night-'))];
    const notAFolder = join(folder, 'taken');
    writeFileSync(notAFolder, 'something of somebody');
    await nightsWork(nightInto(notAFolder, () => at));
    expect(readFileSync(notAFolder, 'utf8')).toBe('something of somebody');
    const by = new Map((await lastChores(server.store)).map((l) => [l.what, l]));
    expect([by.get('backup')!.ok, by.get('verify')!.ok]).toEqual([false, true]);
    expect(by.get('backup')!.words).toContain('EEXIST');
  });

  it('is done by one of several servers', async () => {
    const others = await Promise.all([0, 1].map(() => openStore(urlOf(server.store), 3)));
    let done = 0;
    const now = () => new Date('2026-05-07T02:31:00Z');
    const due = (last: Date | null) => last?.getTime() !== now().getTime();
    const went = await Promise.all(
      [server.store, ...others].map((store) =>
        doChore(store, 'backup', now, due, async () => {
          done += 1;
          await new Promise((later) => setTimeout(later, 100));
          return 'done';
        }),
      ),
    );
    expect([done, went.filter((w) => w === true).length]).toEqual([1, 1]);
    for (const store of others) await store.destroy();
  });
});

describe('a drill', () => {
  it('names what the ledger in force holds otherwise than the backup, and changes nothing', async () => {
    const tablet = await shower();
    const file = join(mkdtempSync(join(tmpdir(), 'seam-drill-')), 'b.tar');
    await makeBackup(server.store, server.picturePlace, file, new Date());
    const place = { url: urlOf(server.store), picturePlace: server.picturePlace, now: new Date(), drill: true };
    await server.store.query('ALTER TABLE entry DISABLE TRIGGER USER');
    const set = (hash: string) =>
      server.store.query(`UPDATE entry SET ledger_hash = ${hash} WHERE shower_id = $1 AND ledger_seq = 2`, [
        tablet.showerId,
      ]);
    const [{ hash }] = await server.store.query(
      `SELECT encode(ledger_hash, 'hex') AS hash FROM entry WHERE shower_id = $1 AND ledger_seq = 2`,
      [tablet.showerId],
    );
    await set(`decode(repeat('0', 64), 'hex')`);
    const epoch = await currentEpoch(server.store, new Date());
    const found = await restoreBackup(file, place);
    await set(`decode('${hash}', 'hex')`);
    await server.store.query('ALTER TABLE entry ENABLE TRIGGER USER');
    expect(found.findings).toEqual([
      { where: `shower ${tablet.showerId}`, what: 'the ledger in force does not hold what the backup holds' },
    ]);
    expect(await currentEpoch(server.store, new Date())).toBe(epoch);
    const left: unknown[] = await server.store.query(
      "SELECT 1 FROM pg_database WHERE datname LIKE current_database() || '_restoring_%'",
    );
    expect(left).toEqual([]);
  });
});

describe('a clock that jumps once', () => {
  it('ends neither anchors, nor sessions, nor epochs', async () => {
    const { store } = server;
    const today = new Date();
    const ahead = new Date(today.getTime() + 400 * DAY);
    expect(await makeAnchor(store, new Date(today.getTime() - DAY))).not.toBeNull();
    expect(await makeAnchor(store, ahead)).not.toBeNull();
    // The clock is right again: today's anchor is made all the same, once, on the chain.
    expect(await makeAnchor(store, today)).not.toBeNull();
    expect(await makeAnchor(store, today)).toBeNull();
    const [a, b] = (await store.getRepository(AnchorEntity).find({ order: { seq: 'ASC' } })).slice(-2);
    expect(JSON.parse(b!.text).previous).toBe(a!.hash);
    const ines = await server.as('ines');
    await purge(store, ahead);
    await ines.get('/api/session').expect(200);
    const early = await openEpoch(store, 'by a clock ahead', ahead);
    expect(await currentEpoch(store, today)).toBe(early);
    const late = await openEpoch(store, 'by a clock that is right again', today);
    expect(await currentEpoch(store, today)).toBe(late);
  });
  it('takes sessions away that ended long ago, and nobody who is here', async () => {
    const ines = await server.as('ines');
    await server.store.query(
      "INSERT INTO session (token_hash, user_id, expires_at) SELECT 'old', id, now() - interval '100 days' FROM firm_user LIMIT 1",
    );
    expect(await purge(server.store, new Date())).toMatch(/^1 sessions/);
    await ines.get('/api/session').expect(200);
  });
});

describe('room on the disk', () => {
  it('is told before it is gone; pictures stop first, and entries go on', async () => {
    expect(isNearlyFull(5e9, 100e9)).toBe(true);
    expect(isNearlyFull(50e9, 100e9)).toBe(false);
    expect(isNearlyFull(2.5e9, 24e9)).toBe(false);
    expect(isNearlyFull(1.9e9, 24e9)).toBe(true);
    expect(isNearlyFull(5e6, 20e6)).toBe(false);
    const { freeBytes } = await roomOf(server.picturePlace);
    await keepRoom(server.picturePlace, 1000);
    await expect(keepRoom(server.picturePlace, freeBytes)).rejects.toMatchObject({
      code: 'disk-nearly-full',
      status: 507,
    });
  });
  it('stands on the page of the server, with what it holds, how it grew and its nights', async () => {
    await noteSizes(server.store, new Date(Date.now() - 31 * DAY));
    const maren = await server.as('maren');
    const state = ServerState.parse((await maren.get('/api/server').expect(200)).body);
    expect(state.entries).toBeGreaterThan(1);
    expect(state.grewBytes).not.toBeNull();
    expect(state.versions.database).toMatch(/^1\d/);
    await (await server.as('ines')).get('/api/server').expect(403);
  });
});

describe('what the server tells of itself', () => {
  const lines: string[] = [];
  const token = 'a token of sixteen letters';
  const app = (metricsToken: string | null) =>
    createApp({
      store: server.store,
      picturePlace: server.picturePlace,
      papers: server.papers,
      now: () => new Date(),
      mail: null,
      publicUrl: 'https://seam.test',
      logger: pino({ level: 'info' }, { write: (line: string) => void lines.push(line) }),
      webFolder: null,
      metricsToken,
    });
  it('is for whoever shows the token, by route and never by what an address holds', async () => {
    const agent = supertest(app(token));
    await agent.get('/metrics').expect(401);
    await agent.get('/metrics').set('authorization', 'Bearer wrong').expect(401);
    await agent.get('/api/shared-record/a-secret-code').expect(410);
    const { text } = await agent.get('/metrics').set('authorization', `Bearer ${token}`).expect(200);
    expect(text).toContain(
      'seam_http_request_seconds_count{method="GET",route="/api/shared-record/:code",status="410"} 1',
    );
    expect(text).toContain('seam_disk_free_bytes');
    expect(text).not.toContain('a-secret-code');
    await supertest(app(null)).get('/metrics').set('authorization', `Bearer ${token}`).expect(404);
  });
  it('logs one line for each request, without addresses, cookies or bodies', async () => {
    lines.length = 0;
    const agent = supertest(app(token));
    await agent.post('/api/session').set('x-careful-seam', '1').send({ signIn: 'ines', password: 'a secret' });
    await agent.get('/api/shared-record/a-secret-code');
    await agent.get('/health');
    const told = lines.map((line) => JSON.parse(line));
    expect(told.map((l) => [l.method, l.route, l.status])).toEqual([
      ['POST', '/api/session', 401],
      ['GET', '/api/shared-record/:code', 410],
    ]);
    expect(told[0].responseTime).toBeGreaterThanOrEqual(0);
    expect(lines.join()).not.toMatch(/secret/);
  });
  it('names slow questions without their values', async () => {
    const told: [number, string][] = [];
    const store = await openStore(urlOf(server.store), 2, { ms: 50, tell: (ms, query) => told.push([ms, query]) });
    await store.query('SELECT pg_sleep($1)', [0.12]);
    await store.query('SELECT 1');
    await store.destroy();
    expect(told.map(([, query]) => query)).toContain('SELECT pg_sleep($1)');
    expect(told.map(([, query]) => query)).not.toContain('SELECT 1');
  });
});
