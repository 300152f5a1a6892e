import { DefectList } from '@careful-seam/contract/api/defects';
import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import supertest from 'supertest';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { followLedgers, forgetFacts } from '../facts/projector';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let server: TestServer;
let maren: Agent;
beforeAll(async () => {
  server = await testServer();
  maren = await server.as('maren');
  for (const name of ['Wren', 'Plover', 'Teal']) await maren.post('/api/crews').send({ name }).expect(200);
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;
const idOf = async (name: string): Promise<string> =>
  (await server.store.query('SELECT id FROM crew WHERE name = $1', [name]))[0].id;
const merge = async (crew: string, into: string) => maren.post(`/api/crews/${crew}/merge`).send({ into });
const codeOf = async (crew: string, into: string) => {
  const { status, body } = await merge(crew, into);
  return status === 200 ? 'merged' : `${body.error.code} ${body.error.field}`;
};
const follow = async () => {
  while ((await followLedgers(server.store, Date.now() + 20_000)) > 0);
};

/** A shower of a crew with a defect on it, closed by its signature where it is to be. */
async function shower(crewId: string, isSigned: boolean): Promise<string> {
  const tablet = testTablet('maren', v4());
  await maren
    .post(`/api/showers/${tablet.showerId}/entries`)
    .send(
      push([
        tablet.seal('shower-created', { ...created, crewId }),
        tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
        tablet.seal('defect-found', {
          ...{
            stage: 'membrane',
            place: { element: 'shower' },
            kind: 'wrinkle',
            severity: 'fix',
            words: '',
            photos: [],
          },
        }),
      ]),
    )
    .expect(200);
  if (isSigned)
    await server.store.query('UPDATE shower_head SET is_signed = true WHERE shower_id = $1', [tablet.showerId]);
  return tablet.showerId;
}
const crewsCounted = async (): Promise<string[]> =>
  (await server.store.query('SELECT DISTINCT crew FROM defect_fact ORDER BY 1')).map((r: { crew: string }) => r.crew);

describe('a crew that becomes part of another', () => {
  it('takes its people, links and past with it; its records stay; counted anew it is the same', async () => {
    const id = await shower('otter', true);
    await follow();
    expect(await crewsCounted()).toEqual(['otter']);
    const link = (
      await maren.post('/api/links').send({ kind: 'crew', crewId: 'otter', label: 'Otter', hours: 5, email: null })
    ).body;
    const code = /\/crew-link\/([^/?#]+)/.exec(link.path)![1];
    expect(await codeOf('otter', 'heron')).toBe('merged');
    expect(await crewsCounted()).toEqual(['heron']);
    const lucia = await server.as('lucia');
    expect((await lucia.get('/api/session').expect(200)).body.person.crewId).toBe('heron');
    const phone = supertest.agent(server.app).set('x-careful-seam', '1');
    expect((await phone.post('/api/session/link').send({ code })).status).toBe(410);
    const list = DefectList.parse((await maren.get('/api/defects?crew=heron').expect(200)).body);
    expect(list.lines.map((l) => [l.showerId, l.crew])).toEqual([[id, 'Heron']]);
    const record = await server.store.query('SELECT crew_id AS crew FROM shower WHERE id = $1', [id]);
    expect(record).toEqual([{ crew: 'otter' }]);
    await forgetFacts(server.store);
    await follow();
    expect(await crewsCounted()).toEqual(['heron']);
    // What is told later of a shower of that crew counts the same.
    await shower('otter', true);
    await follow();
    expect(await crewsCounted()).toEqual(['heron']);
    const { firm } = SyncAnswer.parse((await maren.post('/api/sync').send({ since: null, firm: null })).body);
    expect(firm!.crews).toContainEqual({ id: 'otter', name: 'Otter', into: 'heron' });
  });

  it('work that its lead told without a network is taken, and another crew’s is not', async () => {
    const id = await shower('heron', false);
    const lucia = await server.as('lucia');
    const tablet = testTablet('lucia', id);
    const work = async (crewId: string) => {
      const text = tablet.seal('work-done', { stage: 'membrane', crewId, who: 'They', day: '2026-05-01' });
      return (
        (
          await lucia
            .post(`/api/showers/${id}/entries`)
            .send(push([text]))
            .expect(200)
        ).body.refused?.code ?? null
      );
    };
    expect(await work('otter')).toBeNull();
    expect(await work(await idOf('Wren'))).toBe('another-crews-work');
  });

  it('takes in old defects of its name as the other’s', async () => {
    const text = 'found,kind,crew\n2024-01-02,wrinkle,Otter\n';
    await maren.post('/api/old-defects').send({ text, name: 'old.csv', leaveOut: false }).expect(200);
    expect(await server.store.query('SELECT crew FROM old_defect')).toEqual([{ crew: 'heron' }]);
  });

  it('is one that stands, into one that stands, and of which no shower is left open', async () => {
    const [wren, plover, teal] = [await idOf('Wren'), await idOf('Plover'), await idOf('Teal')];
    expect(await codeOf(wren, wren)).toBe('crew-into-itself into');
    expect(await codeOf(wren, 'nobody')).toBe('no-such-crew into');
    expect(await codeOf('nobody', wren)).toBe('no-such-crew crew');
    expect(await codeOf(wren, 'otter')).toBe('crew-not-standing into');
    expect(await codeOf('otter', wren)).toBe('crew-not-standing crew');
    await shower(wren, false);
    const { error } = (await merge(wren, teal)).body;
    expect([error.code, error.values]).toEqual(['crew-has-showers', { count: 1, names: 'Test shower' }]);
    // A chain ends at its last one: what was merged into the merged goes on with it.
    expect(await codeOf(plover, teal)).toBe('merged');
    expect(await codeOf(teal, 'heron')).toBe('merged');
    const into = await server.store.query('SELECT into_crew AS i FROM crew WHERE id = ANY($1)', [[plover, teal]]);
    expect(into).toEqual([{ i: 'heron' }, { i: 'heron' }]);
    const pavel = await server.as('pavel');
    expect((await pavel.post(`/api/crews/${wren}/merge`).send({ into: 'heron' })).status).toBe(403);
  });

  it('two that are made part of each other at once make no ring', async () => {
    const made = await Promise.all(['Rail', 'Crane'].map((name) => maren.post('/api/crews').send({ name })));
    const [a, b] = made.map((r) => r.body.id as string) as [string, string];
    const both = await Promise.all([merge(a, b), merge(b, a)]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
  });

  it('keeps its name when it is named anew', async () => {
    const { body } = await maren.put('/api/crews/otter').send({ name: 'Old Otter' }).expect(200);
    expect(body).toEqual({ id: 'otter', name: 'Old Otter', into: 'heron' });
  });
});
