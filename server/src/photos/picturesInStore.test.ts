import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { v4 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { makeBackup, urlOf } from '../backup/makeBackup';
import { restoreBackup } from '../backup/restoreBackup';
import { sha256 } from '../store/sha256';
import { type S3Server, s3Server } from '../tests/s3Server';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';
import { picturesAt } from './picturesAt';

let s3: S3Server;
let server: TestServer;
beforeAll(async () => {
  s3 = await s3Server();
  server = await testServer(undefined, s3.place(v4()));
});
afterAll(async () => {
  await server.close();
  await s3.stop();
});

it('a server whose pictures lie in an S3-compatible store: taken in, made smaller, printed, verified, backed up, restored, waited for', async () => {
  const ines = await server.as('ines');
  const bytes = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#a66b3f' } })
    .jpeg()
    .toBuffer();
  const hash = sha256(bytes);
  const send = () => ines.put(`/api/photos/${hash}`).set('content-type', 'image/jpeg').send(bytes);
  const get = (width = '') => ines.get(`/api/photos/${hash}${width}`).buffer(true);
  await send().expect(200);
  expect(sha256((await get().expect(200)).body)).toBe(hash);
  const small = await get('?width=320').expect(200);
  expect([small.type, (await sharp(small.body).metadata()).width]).toEqual(['image/webp', 320]);
  expect((await picturesAt(server.picturePlace).read(`${hash}.320.webp`))!.equals(small.body)).toBe(true);

  const shower = v4();
  const tablet = testTablet('ines', shower);
  const photo = { photo: { hash, widthPx: 600, heightPx: 400, marks: [] } };
  const entries = [tablet.seal('shower-created', created), tablet.seal('photo', photo)];
  const taken = await ines.post(`/api/showers/${shower}/entries`).send(push(entries)).expect(200);
  expect(taken.body.taken).toHaveLength(2);
  const found = () => verifyLedger(server.store, server.picturePlace).then((f) => f.findings);
  expect(await found()).toEqual([]);
  // The worker that makes papers reads from the same place.
  const made = await server.papers.make({ what: 'shower.json', shower }, new Date());
  expect(readFileSync(made.file, 'utf8')).toContain(bytes.toString('base64'));
  await made.done();

  const file = join(mkdtempSync(join(tmpdir(), 'seam-test-s3-')), 'b.tar');
  expect((await makeBackup(server.store, server.picturePlace, file, new Date())).photos).toBe(1);
  await picturesAt(server.picturePlace).clear();
  const lost = await found();
  expect(lost.map((f) => f.where)).toEqual([`picture ${hash}`]);
  expect(lost[0]!.what).toContain(`missing at http`);
  expect((await get()).status).toBe(410);
  const place = { url: urlOf(server.store), picturePlace: server.picturePlace, now: new Date() };
  const drill = await restoreBackup(file, { ...place, drill: true });
  expect([drill.findings, (await get()).status]).toEqual([[], 410]);
  expect((await restoreBackup(file, place)).findings).toEqual([]);
  expect(await found()).toEqual([]);
  expect(sha256((await get().expect(200)).body)).toBe(hash);

  // The page of the server says what it can't know.
  const state = await (await server.as('maren')).get('/api/server').expect(200);
  expect([state.body.disk, state.body.pictures]).toEqual([null, 1]);
});

it.skipIf(process.env.TEST_S3)('a store that is away keeps pictures waiting, and entries go on', async () => {
  const ines = await server.as('ines');
  const bytes = await sharp({ create: { width: 40, height: 40, channels: 3, background: '#225577' } })
    .png()
    .toBuffer();
  const send = () =>
    ines
      .put(`/api/photos/${sha256(bytes)}`)
      .set('content-type', 'image/png')
      .send(bytes);
  await s3.stop();
  const refused = await send();
  expect([refused.status, refused.body.error.code, refused.get('retry-after')]).toEqual([503, 'pictures-away', '5']);
  const shower = v4();
  const entries = [testTablet('ines', shower).seal('shower-created', created)];
  await ines.post(`/api/showers/${shower}/entries`).send(push(entries)).expect(200);
  // Not lost, but not to be read now.
  const findings = (await verifyLedger(server.store, server.picturePlace)).findings;
  expect(findings.map((f) => f.what.replace(/ at .*: /, ': '))).toEqual([
    "can't be read: The store of pictures does not answer now. It is tried again by itself.",
  ]);
  await s3.begin();
  await send().expect(200);
});
