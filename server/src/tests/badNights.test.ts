import { rmSync, writeFileSync } from 'node:fs';
import { sha256Hex } from '@careful-seam/core/log/chain';
import sharp from 'sharp';
import { v4 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { urlOf } from '../backup/makeBackup';
import { picturesAt } from '../photos/picturesAt';
import { openStore } from '../store/dataSource';
import { verifyLedger } from '../verify/verifyLedger';
import { created, push, type TestServer, testServer, testTablet } from './testServer';

let server: TestServer;
beforeEach(async () => {
  server = await testServer();
});
afterEach(() => server.close());

async function shower() {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  await ines
    .post(path)
    .send(push([tablet.seal('shower-created', created)]))
    .expect(200);
  return { ines, tablet, path };
}

describe('a table that somebody holds', () => {
  it('makes requests busy, none a failure, and all is taken when it is free again', async () => {
    const { ines, tablet, path } = await shower();
    const other = await openStore(urlOf(server.store), 1);
    const holding = other.createQueryRunner();
    await holding.startTransaction();
    await holding.query('LOCK TABLE entry IN ACCESS EXCLUSIVE MODE');
    const text = tablet.seal('note', { words: 'while it is held' });
    const answers = await Promise.all(Array.from({ length: 12 }, () => ines.post(path).send(push([text]))));
    for (const { status, body, headers } of answers) {
      expect([status, body.error?.code]).toEqual([503, 'database-busy']);
      expect(headers['retry-after']).toBe('5');
    }
    expect((await ines.get('/health')).status).toBe(200);
    await holding.rollbackTransaction();
    await holding.release();
    await other.destroy();
    await ines.get('/ready').expect(200);
    const again = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    expect(again.body.taken).toHaveLength(1);
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
  }, 60_000);
});

describe('several servers that start at once', () => {
  it('one brings the tables up to date, the others wait for it', async () => {
    await server.store.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public');
    const stores = await Promise.all(Array.from({ length: 4 }, () => openStore(urlOf(server.store), 2)));
    const [{ n }] = await stores[0]!.query('SELECT count(*)::int AS n FROM migrations');
    expect(n).toBeGreaterThan(4);
    for (const store of stores) await store.destroy();
  });
});

describe('a picture', () => {
  const jpeg = () =>
    sharp({ create: { width: 50, height: 30, channels: 3, background: '#225577' } })
      .jpeg()
      .toBuffer();
  it('that was lost or damaged on the disk is named, never a failure, and is taken in again', async () => {
    const ines = await server.as('ines');
    const bytes = await jpeg();
    const hash = sha256Hex(bytes);
    const send = () => ines.put(`/api/photos/${hash}`).set('content-type', 'image/jpeg').send(bytes);
    await send().expect(200);
    const path = picturesAt(server.picturePlace).where(hash);
    const harm = [
      () => rmSync(path),
      () => writeFileSync(path, bytes.subarray(0, bytes.length / 2)),
      () => writeFileSync(path, Buffer.alloc(bytes.length)),
    ];
    for (const hurt of harm) {
      hurt();
      const named = (await verifyLedger(server.store, server.picturePlace)).findings;
      expect(named.map((f) => f.where)).toEqual([`picture ${hash}`]);
      for (const width of ['', '?width=320']) {
        const { status } = await ines.get(`/api/photos/${hash}${width}`);
        expect([200, 410]).toContain(status);
      }
      await send().expect(200);
      expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
    }
    rmSync(path);
    const gone = await ines.get(`/api/photos/${hash}`);
    expect([gone.status, gone.body.error.code]).toEqual([410, 'picture-lost']);
  });
});
