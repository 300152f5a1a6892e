import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import supertest from 'supertest';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { urlOf } from '../backup/makeBackup';
import { createApp } from '../http/createApp';
import { makeLogger } from '../http/logger';
import { makePapers } from '../papers/papers';
import { startRounds } from '../rounds';
import { openStore } from '../store/dataSource';
import { dropDatabase } from '../store/dropDatabase';
import { verifyLedger } from '../verify/verifyLedger';
import { created, PASSWORD, push, type TestServer, testServer, testTablet } from './testServer';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** A second server on the same database and the same folder of pictures. */
async function another() {
  const store = await openStore(urlOf(server.store), 4);
  const papers = makePapers(urlOf(store), server.picturePlace);
  const services = {
    store,
    picturePlace: server.picturePlace,
    papers,
    now: () => new Date(),
    mail: null,
    publicUrl: 'https://seam.test',
  };
  const logger = makeLogger('silent');
  const app = createApp({ ...services, logger, webFolder: null });
  const close = async () => {
    papers.stop();
    await store.destroy();
  };
  return { app, services, logger, close };
}

describe('two servers on one database', () => {
  it('take the entries of one chain in turn, know each other’s sessions, and tell each other’s news', async () => {
    const second = await another();
    const ines = await server.as('ines');
    const there = supertest.agent(second.app).set('x-careful-seam', '1');
    await there.post('/api/session').send({ signIn: 'ines', password: PASSWORD }).expect(200);
    const tablet = testTablet('ines', v4());
    const path = `/api/showers/${tablet.showerId}/entries`;
    const texts = [
      tablet.seal('shower-created', created),
      ...Array.from({ length: 19 }, (_, k) => tablet.seal('note', { words: String(k) })),
    ];
    const asked = await there.post('/api/sync').send({ since: null, firm: null }).expect(200);
    for (const [k, text] of texts.entries())
      await (k % 2 === 0 ? ines : there)
        .post(path)
        .send(push([text]))
        .expect(200);
    const { body } = await there.post('/api/sync').send({ since: asked.body.since, firm: asked.body.mark }).expect(200);
    expect(body.showers).toContainEqual(expect.objectContaining({ id: tablet.showerId, headSeq: 20 }));
    // Both at once with the same entry, and with the next of the same chain: it stands once.
    const last = tablet.seal('note', { words: 'twice' });
    const both = await Promise.all([ines, there].map((agent) => agent.post(path).send(push([last]))));
    expect(both.map((b) => b.body.taken?.[0]?.ledgerSeq)).toEqual([21, 21]);
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
    await second.close();
  });

  it('do by themselves what is to be done once, once', async () => {
    const second = await another();
    const services = { ...second.services, store: server.store, papers: server.papers };
    const stops = [startRounds(services, second.logger, null), startRounds(second.services, second.logger, null)];
    await expect
      .poll(async () => (await server.store.query('SELECT count(*)::int AS n FROM server_day'))[0].n, {
        timeout: 10_000,
      })
      .toBe(1);
    const [{ n }] = await server.store.query('SELECT count(*)::int AS n FROM anchor');
    expect(n).toBe(1);
    for (const stop of stops) stop();
    await new Promise((later) => setTimeout(later, 300));
    await second.close();
  });

  it('begin together on an empty database: one brings it up to date, one epoch is opened', async () => {
    const name = `t_${v4().replaceAll('-', '')}`;
    await server.store.query(`CREATE DATABASE ${name}`);
    const url = urlOf(server.store).replace(/\/[^/]*$/, `/${name}`);
    const children: ChildProcess[] = [];
    const built = process.env.BUILT_PROGRAMS;
    const program = built ? [join(built, 'main.js')] : ['--import', 'tsx', join(import.meta.dirname, '../main.ts')];
    const serves = () =>
      new Promise<string>((done, fail) => {
        const child = spawn(process.execPath, program, {
          env: { PATH: process.env.PATH, DATABASE_URL: url, PORT: '0', PHOTO_FOLDER: server.picturePlace },
          stdio: ['ignore', 'pipe', 'inherit'],
        });
        children.push(child);
        let said = '';
        child.stdout.on('data', (part) => {
          said += String(part);
          if (said.includes('with the code')) done(said);
        });
        child.once('exit', (code) => fail(new Error(`ended with code ${code}`)));
      });
    const said = await Promise.all([serves(), serves(), serves()]);
    expect(said.every((s) => s.includes('SERVING'))).toBe(true);
    const store = await openStore(url, 2);
    const [{ epochs, books }] = await store.query(
      'SELECT (SELECT count(*)::int FROM server_epoch) AS epochs, (SELECT count(*)::int FROM rule_book) AS books',
    );
    expect([epochs, books]).toEqual([1, 1]);
    await store.destroy();
    for (const child of children) child.kill('SIGKILL');
    await dropDatabase(server.store, name);
  }, 60_000);
});
