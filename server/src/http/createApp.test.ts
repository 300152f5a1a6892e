import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { CALCULATIONS } from '@careful-seam/core/calc/registry';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { ROLES } from '@careful-seam/core/log/roles';
import { statusOf } from '@careful-seam/words/errors/errors';
import sharp from 'sharp';
import supertest from 'supertest';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeDataSource } from '../store/dataSource';
import { SessionEntity, UserEntity } from '../store/entities/people';
import { created, PASSWORD, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { createApp } from './createApp';
import { makeLogger } from './logger';
import { ROUTES } from './routes';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const BY_ROLE = { inspector: 'ines', manager: 'maren', 'crew-lead': 'pavel' } as const;
const concrete = (path: string) =>
  path
    .replace(':id', v4())
    .replace(':code', 'guessed')
    .replace(':crew', 'heron')
    .replace(':job', 'none')
    .replace(':hash', 'a'.repeat(64))
    .replace(':book', 'firm-rule-book')
    .replace(':version', '1')
    .replace(':name', 'lap-leg');

describe('the role table', () => {
  const signedIn = new Map<string, Awaited<ReturnType<typeof server.as>>>();
  /** Somebody of a role, signed in once: a password takes its time. Whoever was signed out by a route signs in anew. */
  const somebody = async (role: (typeof ROLES)[number]) => {
    const known = signedIn.get(role);
    if (known && (await known.get('/api/session')).status === 200) return known;
    const agent = await server.as(BY_ROLE[role]);
    signedIn.set(role, agent);
    return agent;
  };
  it.each(ROUTES.map((r) => [`${r.method} ${r.path}`, r] as const))('%s', async (_name, route) => {
    const nobody = await supertest(server.app)[route.method](concrete(route.path)).set('x-careful-seam', '1');
    expect(nobody.status === 401 && nobody.body.error.code === 'not-signed-in').toBe(route.roles !== 'anyone');
    for (const role of ROLES) {
      const agent = await somebody(role);
      const { status, body } = await agent[route.method](concrete(route.path));
      const turnedAway = status === 403 && body.error.field === 'role';
      expect(turnedAway).toBe(route.roles !== 'anyone' && !route.roles.includes(role));
    }
  });

  it('lists no route twice', () => {
    expect(new Set(ROUTES.map((r) => `${r.method} ${r.path}`)).size).toBe(ROUTES.length);
  });
});

describe('what stands behind a question mark', () => {
  const asking = ROUTES.flatMap((route) =>
    Object.keys(route.asks?.shape ?? {}).map((field) => [`${route.path}?${field}=`, route, field] as const),
  );
  it.each(asking)('%s with nothing behind it counts as not asked', async (_name, route, field) => {
    const role = route.roles === 'anyone' ? 'maren' : BY_ROLE[route.roles[0]!];
    const agent = await server.as(role);
    const [plain, empty] = [concrete(route.path), `${concrete(route.path)}?${field}=`];
    const [without, withEmpty] = [await agent[route.method](plain), await agent[route.method](empty)];
    expect(withEmpty.status).toBe(without.status);
    expect(withEmpty.body.error?.field).toBe(without.body.error?.field);
    // A route that takes a body is refused for the lack of it, in the same words.
    const { code, field: about } = withEmpty.body.error ?? {};
    expect([code, about]).not.toEqual(['input-invalid', field]);
  });
  it('goes through the audit page by page, the first as the office asks for it', async () => {
    const maren = await server.as('maren');
    const first = (await maren.get('/api/audit?before=').expect(200)).body;
    expect(first.lines.length).toBeGreaterThan(1);
    const { at } = first.lines[0];
    const older = (await maren.get(`/api/audit?before=${encodeURIComponent(at)}`).expect(200)).body;
    expect(older.lines.every((line: { at: string }) => line.at < at)).toBe(true);
    const { error } = (await maren.get('/api/audit?before=yesterday').expect(422)).body;
    expect(error).toMatchObject({ code: 'input-invalid', field: 'before' });
  });
});

describe('signing in', () => {
  const post = (body: object) => supertest(server.app).post('/api/session').set('x-careful-seam', '1').send(body);
  it('gives a cookie that scripts and other sites do not get', async () => {
    const { headers, body } = await post({ signIn: 'Ines', password: PASSWORD }).expect(200);
    expect(headers['set-cookie']![0]).toMatch(/HttpOnly/);
    expect(headers['set-cookie']![0]).toMatch(/SameSite=Strict/);
    expect(body.person).toEqual({ id: PEOPLE.ines.id, name: 'Ines', role: 'inspector', crewId: null });
  });
  it('says the same for a wrong name and a wrong password', async () => {
    const wrong = await post({ signIn: 'ines', password: 'nope' }).expect(401);
    const unknown = await post({ signIn: 'nobody', password: 'nope' }).expect(401);
    expect(wrong.body).toEqual(unknown.body);
  });
  it('keeps no password and no token readable', async () => {
    await server.as('ines');
    const [user] = await server.store.getRepository(UserEntity).findBy({ signIn: 'ines' });
    expect(user!.passwordHash).toMatch(/^\$argon2id\$/);
    for (const s of await server.store.getRepository(SessionEntity).find())
      expect(s.tokenHash).toMatch(/^[0-9a-f]{64}$/);
  });
  it('ends with sign-out, and for a disabled person at once', async () => {
    const tomas = await server.as('tomas');
    await tomas.delete('/api/session').expect(200);
    await tomas.get('/api/session').expect(401);
    const again = await server.as('tomas');
    await server.store.getRepository(UserEntity).update({ signIn: 'tomas' }, { disabled: true });
    await again.get('/api/session').expect(401);
    await server.store.getRepository(UserEntity).update({ signIn: 'tomas' }, { disabled: false });
  });
  it('slows down guessing', async () => {
    // A clock of its own: five guesses on a busy machine may last into the next minute, in which three more are free.
    let now = new Date('2026-03-02T09:00:01Z');
    const strict = await testServer({ account: 3, address: 1000, usual: 100 }, undefined, () => now);
    const guess = () =>
      supertest(strict.app).post('/api/session').set('x-careful-seam', '1').send({ signIn: 'ines', password: 'x' });
    const codes: number[] = [];
    for (let i = 0; i < 5; i += 1) codes.push((await guess()).status);
    now = new Date('2026-03-02T09:01:01Z');
    codes.push((await guess()).status);
    await strict.close();
    expect(codes).toEqual([401, 401, 401, 429, 429, 401]);
  });
});

describe('the edges', () => {
  it('refuses requests that other sites could send', async () => {
    const { body } = await supertest(server.app)
      .post('/api/session')
      .send({ signIn: 'ines', password: PASSWORD })
      .expect(403);
    expect(body.error.code).toBe('cross-site');
  });
  it('sets a strict content policy', async () => {
    const { headers } = await supertest(server.app).get('/health').expect(200);
    expect(headers['content-security-policy']).toContain("default-src 'none'");
    expect(headers['content-security-policy']).toContain("script-src 'self';");
    expect(headers['x-powered-by']).toBeUndefined();
  });
  it('tells health and readiness', async () => {
    await supertest(server.app).get('/health').expect(200);
    await supertest(server.app).get('/ready').expect(200);
  });
  it('answers every error in one shape with a status of the table', async () => {
    const ines = await server.as('ines');
    const answers = [
      await ines.get('/api/nothing'),
      await ines.post('/api/showers/x/entries').send('{'),
      await ines.get(`/api/showers/${v4()}/record.pdf`),
      await ines.post('/api/calc/no-such').send({}),
      await ines.post(`/api/showers/${v4()}/entries`).send({ clock: 'now', entries: [] }),
    ];
    for (const { body, status } of answers) {
      expect(body.error.message.length).toBeGreaterThan(10);
      expect(status).toBe(statusOf(body.error.code));
    }
    expect(answers[4]!.body.error.field).toBe('clock');
  });
  it('refuses a body that is too large by name', async () => {
    const ines = await server.as('ines');
    const { body } = await ines
      .post(`/api/showers/${v4()}/entries`)
      .send({ clock: new Date().toISOString(), entries: ['x'.repeat(9_000_000)] })
      .expect(413);
    expect(body.error.code).toBe('too-large');
  });
  it('does what the schema says: no drift between entities and migrations', async () => {
    const options = server.store.options as { url?: string };
    const source = await makeDataSource(options.url!, 1).initialize();
    const log = await source.driver.createSchemaBuilder().log();
    await source.destroy();
    expect(log.upQueries.map((q) => q.query)).toEqual([]);
  });
});

describe('calculations over HTTP', () => {
  it('list themselves and answer as the command line does', async () => {
    const ines = await server.as('ines');
    const { body } = await ines.get('/api/calc').expect(200);
    expect(body.calculations.map((c: { name: string }) => c.name)).toEqual(CALCULATIONS.map((c) => c.name));
    expect((await ines.post('/api/calc/length-parse').send({ text: '2 1/4' }).expect(200)).body).toEqual({
      mm: 57.15,
      unit: 'in',
      shown: '2 1/4 in',
    });
    const wrong = await ines.post('/api/calc/lap-leg').send({ bandWidthMm: -1, lossMm: 0, offCentreMm: 0 }).expect(422);
    expect(wrong.body.error.field).toBe('bandWidthMm');
  });
});

describe('pictures', () => {
  const picture = (colour: string) =>
    sharp({ create: { width: 80, height: 60, channels: 3, background: colour } })
      .jpeg()
      .toBuffer();
  const put = async (bytes: Buffer, hash = sha256Hex(bytes)) =>
    (await server.as('ines')).put(`/api/photos/${hash}`).set('content-type', 'image/jpeg').send(bytes);

  it('are kept by their hash, once, and come back byte for byte', async () => {
    const bytes = await picture('#b97333');
    expect((await put(bytes)).body).toEqual({ hash: sha256Hex(bytes), widthPx: 80, heightPx: 60 });
    expect((await put(bytes)).status).toBe(200);
    const back = await (await server.as('pavel')).get(`/api/photos/${sha256Hex(bytes)}`).expect(200);
    expect(sha256Hex(new Uint8Array(back.body))).toBe(sha256Hex(bytes));
    const small = await (await server.as('pavel')).get(`/api/photos/${sha256Hex(bytes)}?width=320`).expect(200);
    expect(small.headers['content-type']).toBe('image/webp');
  });
  it.each([
    ['no picture', Buffer.from('this is text'), 'not-a-picture'],
    ['an SVG', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), 'not-a-picture'],
    ['nothing', Buffer.alloc(0), 'picture-empty'],
  ])('that are %s are refused', async (_name, bytes, code) => {
    expect((await put(bytes)).body.error.code).toBe(code);
  });
  it('cut off in the middle are refused', async () => {
    const bytes = await sharp({
      create: {
        width: 600,
        height: 600,
        channels: 3,
        background: '#123456',
        noise: { type: 'gaussian', mean: 120, sigma: 60 },
      },
    })
      .png()
      .toBuffer();
    expect((await put(bytes.subarray(0, bytes.length / 3))).body.error.code).toBe('not-a-picture');
  });
  it('too large are refused by name', async () => {
    expect((await put(Buffer.alloc(13 * 1024 * 1024))).body.error.code).toBe('too-large');
  });
  it('with camera data are refused: it may tell a place', async () => {
    const bytes = await sharp(await picture('#204060'))
      .withExif({ IFD0: { Copyright: 'x' }, IFD3: { GPSLatitudeRef: 'N' } })
      .jpeg()
      .toBuffer();
    expect((await put(bytes)).body.error.code).toBe('picture-metadata');
  });
  it('that arrive changed are refused', async () => {
    expect((await put(await picture('#ffffff'), 'b'.repeat(64))).body.error.code).toBe('picture-mismatch');
  });
});

describe('what a crew lead sees', () => {
  it('is the own crew alone', async () => {
    const ines = await server.as('ines');
    const make = async (crewId: string) => {
      const tablet = testTablet('ines', v4());
      await ines
        .post(`/api/showers/${tablet.showerId}/entries`)
        .send(push([tablet.seal('shower-created', { ...created, crewId })]))
        .expect(200);
      return tablet.showerId;
    };
    const [heron, otter] = [await make('heron'), await make('otter')];
    const pavel = await server.as('pavel');
    const ids = (await pavel.get('/api/showers').expect(200)).body.showers.map((s: { id: string }) => s.id);
    expect(ids).toContain(heron);
    expect(ids).not.toContain(otter);
    for (const path of ['entries', 'record.json', 'record.pdf'])
      await pavel.get(`/api/showers/${otter}/${path}`).expect(403);
  });
});

describe('bad requests', () => {
  it('are answered with what they are, and never with a failure', async () => {
    const ines = await server.as('ines');
    const ask = async (method: 'get' | 'post', path: string, headers: Record<string, string> = {}, body?: string) => {
      const call = ines[method](path).set(headers);
      const { status, body: answer } = await (body === undefined ? call : call.send(body));
      return [status, answer.error?.code];
    };
    const json = { 'content-type': 'application/json' };
    expect(await ask('get', '/api/showers/%zz')).toEqual([400, 'request-unreadable']);
    expect(await ask('get', '/api/showers/%C0%80')).toEqual([400, 'request-unreadable']);
    expect(await ask('post', '/api/session', { 'content-type': 'application/json; charset=utf-99' }, '{}')).toEqual([
      415,
      'media-unknown',
    ]);
    expect(await ask('post', '/api/session', { ...json, 'content-encoding': 'nonsense' }, '{}')).toEqual([
      415,
      'media-unknown',
    ]);
    expect(await ask('post', '/api/session', { ...json, 'content-encoding': 'gzip' }, '{}')).toEqual([
      400,
      'request-unreadable',
    ]);
    expect((await ask('get', '/api/showers/search?q=%00'))[0]).toBeLessThan(500);
    expect((await ask('get', '/api/rule-books/x%00/1'))[0]).toBeLessThan(500);
  });
  it('before signing in a body holds a form, and one that swells in unpacking is no exception', async () => {
    const nobody = supertest.agent(server.app).set('x-careful-seam', '1').set('content-type', 'application/json');
    const form = (letters: number) => JSON.stringify({ signIn: 'ines', password: 'x'.repeat(letters) });
    expect((await nobody.post('/api/session').send(form(9000))).status).not.toBe(413);
    expect((await nobody.post('/api/session').send(form(11_000))).body.error.code).toBe('too-large');
    const swelling = gzipSync(form(50_000_000));
    expect(swelling.length).toBeLessThan(60_000);
    const answer = await nobody
      .post('/api/session')
      .set('content-encoding', 'gzip')
      .serialize((x) => x as never)
      .send(swelling as never);
    expect(answer.body.error.code).toBe('too-large');
    const ines = await server.as('ines');
    const big = await ines
      .post('/api/calc/length-parse')
      .set('content-type', 'application/json')
      .set('content-encoding', 'gzip')
      .serialize((x) => x as never)
      .send(swelling as never);
    expect(big.body.error.code).toBe('too-large');
  });
  it('a part of the interface that is not there is not there', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'seam-web-'));
    mkdirSync(join(folder, 'assets'));
    writeFileSync(join(folder, 'index.html'), '<p>seam</p>');
    const app = createApp({
      store: server.store,
      picturePlace: server.picturePlace,
      papers: server.papers,
      now: () => new Date(),
      mail: null,
      publicUrl: '',
      logger: makeLogger('silent'),
      webFolder: folder,
    });
    expect((await supertest(app).get('/assets/missing.js')).status).toBe(404);
    expect((await supertest(app).get('/some/screen')).status).toBe(200);
  });
});
