import { existsSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { urlOf } from '../backup/makeBackup';
import { firmKey } from '../firm/firmKey';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import type { Paper } from './makePaper';
import { makePapers } from './papers';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

async function shower(): Promise<string> {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  await ines
    .post(`/api/showers/${tablet.showerId}/entries`)
    .send(push([tablet.seal('shower-created', created)]))
    .expect(200);
  return tablet.showerId;
}

describe('a paper', () => {
  it('is made beside the server and taken away when it was sent', async () => {
    const id = await shower();
    const made = await server.papers.make({ what: 'record.pdf', shower: id, unit: 'in', language: 'en' }, new Date());
    expect(readFileSync(made.file).subarray(0, 5).toString()).toBe('%PDF-');
    await made.done();
    expect(existsSync(dirname(made.file))).toBe(false);
  });
  it('that can not be made is refused in words, and the worker goes on', async () => {
    const id = await shower();
    const refused = await server.papers
      .make({ what: 'map.pdf', shower: id, unit: 'in', language: 'en' }, new Date())
      .catch((e: unknown) => e);
    expect(refused).toMatchObject({ code: 'no-dimensions', field: 'geometry' });
    const ines = await server.as('ines');
    expect((await ines.get(`/api/showers/${id}/flood.ics`).expect(404)).body.error.field).toBe('flood');
    expect((await ines.get(`/api/showers/${id}/readings.csv`).expect(200)).headers['content-type']).toContain(
      'text/csv',
    );
    await ines.get(`/api/showers/${v4()}/record.pdf`).expect(404);
    // What the database can't read is the caller's fault, also where a worker asked it.
    await (await server.as('maren')).get('/api/jobs/%00/showers.json').expect(422);
  });
  it('takes nothing with it when its worker is killed', async () => {
    const id = await shower();
    const own = makePapers(urlOf(server.store), server.picturePlace);
    const before = own
      .make({ what: 'record.pdf', shower: id, unit: 'mm', language: 'en' }, new Date())
      .catch((e: unknown) => e);
    // While it begins or works.
    await new Promise((later) => setTimeout(later, 50));
    own.stop();
    expect(await before).toBeInstanceOf(Error);
    await (await own.make({ what: 'record.pdf', shower: id, unit: 'mm', language: 'en' }, new Date())).done();
    own.stop();
  });
  it('is made by whoever may only read: a replica will do', async () => {
    const id = await shower();
    await firmKey(server.store, new Date());
    // What a session may not write is refused as a replica refuses it.
    const url = new URL(urlOf(server.store));
    url.searchParams.set('options', '-c default_transaction_read_only=on');
    const reading = makePapers(url.toString(), server.picturePlace);
    for (const what of ['record.pdf', 'record.json', 'readings.csv', 'shower.json'] as const) {
      const made = await reading.make({ what, shower: id, unit: 'in', language: 'en' } as Paper, new Date());
      await made.done();
    }
    reading.stop();
  });
  it('asked for by many waits its turn, and too many are told to come again', async () => {
    const id = await shower();
    const own = makePapers(urlOf(server.store), server.picturePlace);
    const all = await Promise.all(
      Array.from({ length: 70 }, () =>
        own.make({ what: 'readings.csv', shower: id, unit: 'in', language: 'en' }, new Date()).then(
          async ({ done }) => done().then(() => 'made'),
          (e: { code: string }) => e.code,
        ),
      ),
    );
    own.stop();
    expect(new Set(all)).toEqual(new Set(['made', 'papers-busy']));
    expect(all.filter((a) => a === 'made').length).toBeGreaterThanOrEqual(60);
  });
});
