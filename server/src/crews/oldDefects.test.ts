import { CompareAnswer, HoldsAnswer, SlippedAnswer, WrongAnswer } from '@careful-seam/contract/api/crews';
import { DefectList } from '@careful-seam/contract/api/defects';
import { OldTableRead, OldTables } from '@careful-seam/contract/api/oldDefects';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { followLedgers } from '../facts/projector';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let server: TestServer;
let maren: Agent;
beforeAll(async () => {
  server = await testServer();
  maren = await server.as('maren');
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;
const HEADS = 'Date,Defect,Job,Shower,Crew,Stage,Made at,Cause,Date fixed,Hours,Notes';
const TABLE = `${HEADS}
2024-03-01,Short lap,Old house,2A,Heron,tile,membrane,Tool,2024-03-05,2.5,=cmd()
2024-03-02,Wrinkle or fishmouth,Old house,2A,Heron,membrane,membrane,,,,
2024-04-02,Short lap,Old house,2B,Otter,membrane,membrane,Tool,2024-04-03,1,
`;
const look = async (text: string, mapping?: object) =>
  OldTableRead.parse((await maren.post('/api/old-defects/look').send({ text, mapping }).expect(200)).body);
const take = (text: string, change: object = {}) =>
  maren.post('/api/old-defects').send({ text, name: 'old.csv', leaveOut: false, ...change });
const get = async <T extends z.ZodType>(schema: T, path: string, agent: Agent = maren): Promise<z.infer<T>> =>
  schema.parse((await agent.get(path).expect(200)).body);
const count = async () => (await get(DefectList, '/api/defects')).total;
const tables = async () => (await get(OldTables, '/api/old-defects')).tables;

describe('defects of an old table', () => {
  it('are looked at, taken once, counted where no exposure is needed, and taken out again', async () => {
    const read = await look(TABLE);
    expect(read).toMatchObject({ rows: 3, good: 3, problemCount: 0, unknown: [], daysSure: true, days: 'ymd' });
    expect(read.preview[0]).toEqual({
      ...{ line: 2, found: '2024-03-01', kind: 'Lap short or missing', crew: 'Heron', shower: '2A, Old house' },
      kind: expect.any(String),
    });
    expect(await count()).toBe(0);
    const { body } = await take(TABLE).expect(200);
    expect(body).toMatchObject({ taken: 3, leftOut: 0 });

    const { lines } = await get(DefectList, '/api/defects?q=old house');
    expect(lines.map((l) => [l.shower, l.crew, l.step, l.showerId, l.hours, l.words])).toEqual([
      ['2B', 'Otter', 'closed', null, 1, ''],
      ['2A', 'Heron', 'closed', null, null, ''],
      ['2A', 'Heron', 'closed', null, 2.5, '=cmd()'],
    ]);
    expect((await get(DefectList, '/api/defects?state=open')).total).toBe(0);
    expect((await get(DefectList, '/api/defects?job=Old%20house&crew=heron&month=2024-03')).total).toBe(2);
    const csv = (await maren.get('/api/defects.csv').expect(200)).text;
    expect(csv).toContain('Old house');
    expect(csv).not.toMatch(/[,\n"]=cmd/);
    expect((await get(WrongAnswer, '/api/across/wrong')).total).toBe(3);
    expect((await get(SlippedAnswer, '/api/across/slipped')).escaped).toMatchObject({ count: 1 });
    // One whose closing nobody knows is no hold that still stands.
    expect((await get(HoldsAnswer, '/api/across/holds')).all).toMatchObject({ count: 2, open: 0 });
    // Nobody knows how much was looked at then: no rate has a part of it.
    expect((await get(CompareAnswer, '/api/across/compare')).firm?.count ?? 0).toBe(0);

    // A crew lead sees the own crew's, and no other's.
    const pavel = await server.as('pavel');
    expect((await get(DefectList, '/api/defects', pavel)).lines.map((l) => l.crew)).toEqual(['Heron', 'Heron']);
    for (const ask of [
      pavel.get('/api/old-defects'),
      pavel.post('/api/old-defects').send({}),
      pavel.post('/api/old-defects/look').send({}),
      pavel.delete(`/api/old-defects/${body.id}`),
    ])
      expect((await ask).status).toBe(403);

    // The same table again, also in another order with one row more: only that one.
    expect((await take(TABLE)).body.error.code).toBe('old-table-empty');
    const [head, ...rows] = TABLE.trim().split('\n');
    const more = [head, '2024-05-01,Short lap,,,,,,,,,', ...rows.reverse(), rows[0]].join('\n');
    expect((await look(more)).twice).toEqual({ here: 1, taken: 3, recorded: 0 });
    expect((await take(more).expect(200)).body).toMatchObject({ taken: 1, leftOut: 4 });
    expect((await tables()).map((t) => t.defects)).toEqual([1, 3]);
    for (const table of await tables()) await maren.delete(`/api/old-defects/${table.id}`).expect(200);
    expect((await maren.delete(`/api/old-defects/${body.id}`)).body.error.code).toBe('no-such-table');
    expect(await count()).toBe(0);
  });

  it('are all taken or none: what can not be read is left out only where somebody says so', async () => {
    const text = `${TABLE}yesterday,Short lap,Old house,2C,Heron,membrane,,,,,\n2024-06-01,Overlap,Old house,2C,Heron,membrane,,,,,\n`;
    const read = await look(text);
    expect(read.problems).toEqual([{ line: 5, field: 'found', cell: 'yesterday', why: 'day-unreadable' }]);
    expect(read.unknown).toEqual([{ field: 'kind', word: 'Overlap', rows: 1 }]);
    expect((await take(text)).body.error).toMatchObject({ code: 'old-table-rows', values: { count: 2 } });
    expect(await count()).toBe(0);
    const meanings = [{ field: 'kind', word: 'Overlap', id: 'short-lap' }];
    expect((await take(text, { mapping: { meanings }, leaveOut: true }).expect(200)).body).toMatchObject({
      taken: 4,
      leftOut: 1,
    });
    // The next table with these headings is read the same way.
    const next = await look(`${HEADS}\n2024-07-01,overlap,,,,,,,,,\n`);
    expect([next.remembered, next.good]).toEqual([true, 1]);
    for (const table of await tables()) await maren.delete(`/api/old-defects/${table.id}`).expect(200);
  });

  it('two who take the same table at once take each row once', async () => {
    const both = await Promise.all([take(TABLE), take(TABLE)]);
    expect(await count()).toBe(3);
    expect(both.filter((r) => r.status === 200).reduce((n, r) => n + r.body.taken, 0)).toBe(3);
    for (const table of await tables()) await maren.delete(`/api/old-defects/${table.id}`).expect(200);
  });

  it('are found where the shower’s own record has them', async () => {
    const tablet = testTablet('maren', v4());
    await maren
      .post(`/api/showers/${tablet.showerId}/entries`)
      .send(
        push([
          tablet.seal('shower-created', { ...created, name: '2A', job: 'Old house' }),
          tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
          tablet.seal('defect-found', {
            ...{
              stage: 'membrane',
              place: { element: 'shower' },
              kind: 'short-lap',
              severity: 'fix',
              words: '',
              photos: [],
            },
          }),
        ]),
      )
      .expect(200);
    while ((await followLedgers(server.store, Date.now() + 20_000)) > 0);
    const [{ on }] = await server.store.query('SELECT found_on::text AS on FROM defect_fact');
    const row = (rest: string) => `${HEADS}\n${on},Short lap,${rest}`;
    expect((await look(row('old house,2a,,,,,,,\n'))).twice.recorded).toBe(1);
    expect((await look(row(',2A,,,,,,,\n'))).twice.recorded).toBe(1);
    expect((await look(row('Another,2A,,,,,,,\n'))).twice.recorded).toBe(0);
  });

  it('refuses what is no table, what is too long, and says so', async () => {
    for (const text of ['', '\n\n', 'hello', '{"a":1}']) {
      expect((await look(text)).good).toBe(0);
      expect((await take(text)).body.error.code).toMatch(/^old-table-(empty|rows)$/);
    }
    const long = `found,kind\n${'2024-01-01,wrinkle\n'.repeat(20_001)}`;
    expect((await take(long)).body.error).toMatchObject({ code: 'old-table-long', values: { rows: 20_001 } });
    expect((await take('x'.repeat(5_000_001))).status).toBe(422);
    const forged = { columns: { found: -1 }, meanings: [{ field: 'kind', word: 'x', id: 'y' }] };
    expect((await maren.post('/api/old-defects/look').send({ text: 'a', mapping: forged })).status).toBe(422);
    expect(await tables()).toEqual([]);
  });
});
