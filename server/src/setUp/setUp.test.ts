import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import type { SetUpTyped } from '@careful-seam/contract/api/setUp';
import sharp from 'sharp';
import supertest from 'supertest';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createApp } from '../http/createApp';
import { makeLogger } from '../http/logger';
import { type TestServer, testServer } from '../tests/testServer';
import { cameFromHere } from './demoHere';
import { makeSetUpCode } from './setUp';

let server: TestServer;
beforeEach(async () => {
  server = await testServer();
  await server.store.query('DELETE FROM session; DELETE FROM firm_user; DELETE FROM crew');
});
afterEach(() => server.close());

const NOW = () => new Date();
const input = (code: string, more: Partial<SetUpTyped> = {}): SetUpTyped => ({
  code,
  firm: { ...FIRST_SETTINGS, name: 'North Tile', address: '1 Mill Road', licence: 'NT-7', timeZone: 'Europe/Vienna' },
  manager: { name: 'Mae Orr', signIn: 'mae', password: 'a long password' },
  crews: ['Crew North'],
  people: [
    { name: 'Ada Quill', signIn: 'ada', role: 'inspector', crew: null },
    { name: 'Bo Marsh', signIn: 'bo', role: 'crew-lead', crew: 'crew north' },
  ],
  ...more,
});
const call = () => supertest.agent(server.app).set('x-careful-seam', '1');
const post = (body: object) => call().post('/api/set-up').send(body);
const count = async (table: string) =>
  Number(((await server.store.query(`SELECT count(*) AS n FROM ${table}`)) as { n: string }[])[0]!.n);

describe('an empty installation', () => {
  it('says so, takes a firm with the code of its log, and lets its manager in', async () => {
    expect((await call().get('/api/set-up').expect(200)).body).toMatchObject({ needed: true });
    const code = (await makeSetUpCode(server.store, NOW()))!;
    expect(code).toMatch(/^([A-HJKMNP-Z2-9]{5}-){3}[A-HJKMNP-Z2-9]{5}$/);
    const { body } = await post(input(code)).expect(200);
    expect(body.signIn).toBe('mae');
    expect(body.links.map((l: { name: string }) => l.name)).toEqual(['Ada Quill', 'Bo Marsh']);
    expect((await call().get('/api/set-up')).body).toEqual({ needed: false, methods: [] });
    const mae = call();
    await mae.post('/api/session').send({ signIn: 'mae', password: 'a long password' }).expect(200);
    const firm = (await mae.get('/api/firm').expect(200)).body;
    expect(firm.settings).toMatchObject({ name: 'North Tile', licence: 'NT-7', timeZone: 'Europe/Vienna' });
    expect(firm.crews).toMatchObject([{ name: 'Crew North' }]);
    // Everybody else sets a password of their own by the link, and is who the manager said.
    const linkCode = body.links[1].path.split('/').at(-1);
    await call().post('/api/password').send({ code: linkCode, password: 'another long one' }).expect(200);
    const bo = await call().post('/api/session').send({ signIn: 'bo', password: 'another long one' }).expect(200);
    expect(bo.body.person).toMatchObject({ role: 'crew-lead', crewId: firm.crews[0].id });
  });
  it('takes a logo with it, from whoever has the code alone, and nothing at all with one that is none', async () => {
    const logo = (
      await sharp({ create: { width: 60, height: 20, channels: 3, background: '#357' } })
        .jpeg()
        .toBuffer()
    ).toString('base64');
    await post(input('WRONG', { logo })).expect(403);
    expect(await count('photo')).toBe(0);
    const code = (await makeSetUpCode(server.store, NOW()))!;
    const bad = await post(input(code, { logo: Buffer.from('no picture').toString('base64') }));
    expect([bad.status, bad.body.error.code, await count('firm_user')]).toEqual([415, 'not-a-picture', 0]);
    await post(input(code, { logo: 'x'.repeat(300_000) })).expect(422);
    await post(input(code, { logo })).expect(200);
    const mae = call();
    await mae.post('/api/session').send({ signIn: 'mae', password: 'a long password' }).expect(200);
    const { settings } = (await mae.get('/api/firm')).body;
    expect((await mae.get(`/api/photos/${settings.logo}`).expect(200)).headers['content-type']).toBe('image/jpeg');
    // A logo that never arrived is no logo.
    const gone = await mae.put('/api/firm/settings').send({ ...settings, logo: 'f'.repeat(64) });
    expect([gone.status, gone.body.error.field]).toEqual([404, 'logo']);
  });
  it('takes the code in any case, with or without its dashes', async () => {
    const code = (await makeSetUpCode(server.store, NOW()))!;
    await post(input(` ${code.toLowerCase().replaceAll('-', ' ')} `)).expect(200);
  });
  it('refuses a code that is wrong, used or a day old, and writes nothing', async () => {
    const old = (await makeSetUpCode(server.store, new Date(Date.now() - 25 * 3_600_000)))!;
    for (const code of ['AAAAA-AAAAA-AAAAA-AAAAA', old]) {
      const { body } = await post(input(code)).expect(403);
      expect(body.error).toMatchObject({ code: 'set-up-code-wrong', field: 'code' });
    }
    expect([await count('firm_user'), await count('crew')]).toEqual([0, 0]);
  });
  it('of two at the same time takes one', async () => {
    const code = (await makeSetUpCode(server.store, NOW()))!;
    const both = await Promise.all([
      post(input(code)),
      post(input(code, { firm: { ...input(code).firm, name: 'Other' } })),
    ]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    expect([await count('firm_user'), await count('crew')]).toEqual([3, 1]);
  });
  it('takes all of it or nothing: a crew that is not there, a name twice, a short password', async () => {
    const code = (await makeSetUpCode(server.store, NOW()))!;
    const lead = { name: 'Bo', signIn: 'bo', role: 'crew-lead' as const, crew: 'Nowhere' };
    const wrong = [
      input(code, { people: [lead] }),
      input(code, { people: [{ name: 'Mae', signIn: 'mae', role: 'inspector', crew: null }] }),
      input(code, { manager: { name: 'Mae', signIn: 'mae', password: 'short' } }),
      input(code, { firm: { ...input(code).firm, timeZone: 'Moon/Crater' } }),
    ];
    for (const body of wrong) {
      const answer = await post(body);
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(answer.status).toBeLessThan(500);
      expect(answer.body.error.message.length).toBeGreaterThan(20);
    }
    expect([await count('firm_user'), await count('crew')]).toEqual([0, 0]);
    // The code was not used up by what was refused.
    await post(input(code)).expect(200);
  });
  it('that is one no more makes no code and takes no firm', async () => {
    const code = (await makeSetUpCode(server.store, NOW()))!;
    await post(input(code)).expect(200);
    expect(await makeSetUpCode(server.store, NOW())).toBeNull();
    expect((await post(input(code)).expect(409)).body.error.code).toBe('set-up-done');
    expect(await count('audit')).toBe(1);
  });
});

describe('links', () => {
  it('begin with the address that the firm set, whatever host a request names', async () => {
    const code = (await makeSetUpCode(server.store, NOW()))!;
    await post(input(code)).expect(200);
    const mae = call();
    await mae.post('/api/session').send({ signIn: 'mae', password: 'a long password' }).expect(200);
    const { crews } = (await mae.get('/api/firm')).body;
    await mae
      .post('/api/links')
      .set('host', 'evil.example')
      .set('x-forwarded-host', 'evil.example')
      .send({ kind: 'crew', crewId: crews[0].id, label: 'Phone', hours: 4, email: 'crew@firm.test' })
      .expect(200);
    const [mail] = (await server.store.query('SELECT secret FROM mail')) as { secret: string }[];
    expect(mail!.secret).toContain('https://seam.test/crew-link/');
    expect(mail!.secret).not.toContain('evil.example');
  });
});

describe('the demo firm', () => {
  it('answers whoever sits at its machine, and nobody else', async () => {
    const app = createApp({
      store: server.store,
      picturePlace: server.picturePlace,
      papers: server.papers,
      now: NOW,
      mail: null,
      publicUrl: '',
      logger: makeLogger('silent'),
      webFolder: null,
      onlyHere: true,
    });
    const ask = (headers: Record<string, string>) => supertest(app).get('/api/set-up').set(headers);
    await ask({ host: '127.0.0.1:4310' }).expect(200);
    await ask({ host: 'localhost' }).expect(200);
    for (const headers of [
      { host: 'seam.example.com' },
      { host: '192.168.0.7:4310' },
      { host: '127.0.0.1', 'x-forwarded-for': '10.0.0.1' },
      { host: 'localhost', forwarded: 'for=10.0.0.1' },
      { host: 'localhost', via: '1.1 proxy' },
      { host: 'localhost', 'x-real-ip': '10.0.0.1' },
    ]) {
      const { body, status } = await ask(headers);
      expect([headers, status, body.error?.code]).toEqual([headers, 403, 'demo-here-only']);
    }
  });
  it('knows this machine by its own names', () => {
    const from = (host: string) => cameFromHere((name) => (name === 'host' ? host : undefined));
    expect(['[::1]:4310', '127.0.0.1', 'localhost:80'].map(from)).toEqual([true, true, true]);
    expect(['[::2]', 'localhost.evil.example', '127.0.0.1.evil.example:80', ''].map(from)).toEqual(
      Array(4).fill(false),
    );
  });
});
