import supertest from 'supertest';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { PASSWORD, type TestServer, testServer } from '../tests/testServer';
import { createApp } from './createApp';
import { forgetTries, takeTry } from './limits';
import { makeLogger } from './logger';

let server: TestServer;
/** A clock that stands: tries on a busy machine may last into the next minute, in which as many more are free. */
const began = new Date();
const now = () => began;
beforeEach(async () => {
  server = await testServer({ account: 4, address: 30, usual: 25 }, undefined, now);
});
afterEach(() => server.close());

const door = (app = server.app) => supertest.agent(app).set('x-careful-seam', '1');
const knock = (signIn: string, password: string, app = server.app) =>
  door(app).post('/api/session').send({ signIn, password });

describe('tries in a minute', () => {
  it('at one account end soon, and lock nobody else of the building out', async () => {
    const guesses = [];
    for (let k = 0; k < 6; k += 1) guesses.push((await knock('maren', `guess ${k}`)).status);
    expect(guesses).toEqual([401, 401, 401, 401, 429, 429]);
    // Nor does the right password help within the minute; everybody else comes in from the same address.
    expect((await knock('maren', PASSWORD)).body.error.code).toBe('too-many');
    expect((await knock('ines', PASSWORD)).status).toBe(200);
    expect((await knock('INES', PASSWORD)).status).toBe(200);
    const spelled = [];
    for (const name of ['ines', 'Ines', 'iNES']) spelled.push((await knock(name, 'x')).status);
    expect(spelled).toEqual([401, 401, 429]);
  });
  it('of codes are counted by address', async () => {
    const tries = [];
    for (let k = 0; k < 32; k += 1)
      tries.push(
        (
          await door()
            .post('/api/session/link')
            .send({ code: `guess${k}` })
        ).status,
      );
    expect(tries.slice(0, 30).every((s) => s === 410)).toBe(true);
    expect(tries.slice(30)).toEqual([429, 429]);
  });
  it('are counted for all servers of a database together', async () => {
    const other = createApp({
      store: server.store,
      picturePlace: server.picturePlace,
      papers: server.papers,
      now,
      mail: null,
      publicUrl: '',
      logger: makeLogger('silent'),
      webFolder: null,
      limits: { account: 4, address: 30, usual: 25 },
    });
    const tries = [];
    for (let k = 0; k < 6; k += 1) tries.push((await knock('tomas', 'guess', k % 2 === 0 ? server.app : other)).status);
    expect(tries).toEqual([401, 401, 401, 401, 429, 429]);
  });
  it('begin anew with the next minute, and are forgotten', async () => {
    const at = (s: string) => new Date(`2026-03-01T10:${s}Z`);
    await takeTry(server.store, 'k', 1, at('00:59.999'));
    await expect(takeTry(server.store, 'k', 1, at('00:59.999'))).rejects.toMatchObject({ code: 'too-many' });
    await takeTry(server.store, 'k', 1, at('01:00.000'));
    await forgetTries(server.store, at('30:00'));
    expect(await server.store.query("SELECT 1 FROM tries WHERE minute < '2026-03-01T11:00Z'")).toEqual([]);
  });
});

describe('everything else', () => {
  it('is counted by session: a tablet that runs wild locks only itself out', async () => {
    const wild = await server.as('ines');
    const answers = [];
    for (let k = 0; k < 27; k += 1) answers.push((await wild.get('/api/session')).status);
    expect(answers.filter((s) => s === 429)).toHaveLength(2);
    const calm = await server.as('tomas');
    await calm.get('/api/session').expect(200);
  });
  it('once by TLS tells the browser to stay there', async () => {
    const app = createApp({
      store: server.store,
      picturePlace: server.picturePlace,
      papers: server.papers,
      now: () => new Date(),
      mail: null,
      publicUrl: '',
      logger: makeLogger('silent'),
      webFolder: null,
      trustProxy: true,
    });
    const plain = await supertest(app).get('/health');
    expect(plain.headers['strict-transport-security']).toBeUndefined();
    const secure = await supertest(app).get('/health').set('x-forwarded-proto', 'https');
    expect(secure.headers['strict-transport-security']).toBe('max-age=31536000');
  });
});
