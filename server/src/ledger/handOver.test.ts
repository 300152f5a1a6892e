import { DefectList } from '@careful-seam/contract/api/defects';
import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { followLedgers } from '../facts/projector';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;
const BOOK = sampleBook();
const body = { ...created, crewId: 'heron' };

/** A shower of crew Heron with its membrane begun, and whoever writes in it. */
async function shower() {
  const maren = await server.as('maren');
  const tablet = testTablet('maren', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  const send = (agent: Agent, ...texts: string[]) => agent.post(path).send(push(texts));
  const first = v4();
  await send(
    maren,
    tablet.seal('shower-created', body, { id: first }),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
    tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }),
  ).expect(200);
  const handOver = (stageCrews: Record<string, string>) =>
    send(maren, tablet.seal('correction', { target: first, action: 'replace', body: { ...body, stageCrews } })).expect(
      200,
    );
  const defect = (stage: string) =>
    tablet.seal('defect-found', {
      ...{ stage, place: { element: 'floor' }, kind: 'wrinkle', severity: 'fix', words: '', photos: [] },
    });
  return { id: tablet.showerId, first, tablet, send, handOver, defect, maren };
}
/** All ways in which a crew lead may come by a shower. */
async function seenBy(agent: Agent, id: string): Promise<string> {
  const sync = SyncAnswer.parse((await agent.post('/api/sync').send({ since: null, firm: null }).expect(200)).body);
  const list = (await agent.get('/api/showers').expect(200)).body.showers;
  const search = (await agent.get('/api/showers/search?q=Test').expect(200)).body.showers;
  const batch =
    (
      await agent
        .post('/api/sync/entries')
        .send({ want: [{ id, after: 0 }] })
        .buffer(true)
    ).text ?? '';
  const marks = [
    sync.showers.some((s) => s.id === id),
    list.some((s: { id: string }) => s.id === id),
    search.some((s: { id: string }) => s.id === id),
    !batch.includes('"missing":true'),
    (await agent.get(`/api/showers/${id}/record.json`)).status === 200,
  ];
  return marks.map((m) => (m ? 'yes' : 'no')).join(' ');
}
const [ALL, NOTHING] = ['yes yes yes yes yes', 'no no no no no'];

describe('a stage that is handed to another crew', () => {
  it('lets its lead see the shower and tell work there, beside the own crew, until it is taken back', async () => {
    const { id, send, handOver, maren } = await shower();
    const [pavel, lucia] = [await server.as('pavel'), await server.as('lucia')];
    const work = testTablet('lucia', id);
    const told = (crewId: string) =>
      work.seal('work-done', { stage: 'membrane', crewId, who: 'They', day: '2026-05-01' });
    expect([await seenBy(pavel, id), await seenBy(lucia, id)]).toEqual([ALL, NOTHING]);
    expect((await send(lucia, testTablet('lucia', id).seal('note', { words: 'x' }))).body.refused.code).toBe(
      'another-crews-shower',
    );
    await handOver({ membrane: 'otter' });
    expect([await seenBy(pavel, id), await seenBy(lucia, id)]).toEqual([ALL, ALL]);
    expect((await send(lucia, told('otter'))).body.refused).toBeNull();
    expect(
      (
        await send(
          lucia,
          testTablet('lucia', id).seal('work-done', { stage: 'curb', crewId: 'heron', who: 'x', day: '2026-05-01' }),
        )
      ).body.refused.code,
    ).toBe('another-crews-work');
    const faults = async () => JSON.stringify((await verifyLedger(server.store, server.picturePlace)).findings);
    expect(await faults()).toBe('[]');
    await server.store.query("UPDATE shower SET also_crews = '{}' WHERE id = $1", [id]);
    expect(await faults()).toContain('its stages are not');
    await handOver({});
    expect([await seenBy(pavel, id), await seenBy(lucia, id)]).toEqual([ALL, NOTHING]);
    expect((await maren.post('/api/crews/otter/merge').send({ into: 'heron' })).status).toBe(200);
  });

  it('makes what is found there that crew’s, and nothing else; the lead is listed the own alone', async () => {
    await server.store.query(
      "UPDATE crew SET into_crew = NULL; UPDATE firm_user SET crew_id = 'otter' WHERE name = 'Lucia'",
    );
    const { id, send, handOver, defect, maren } = await shower();
    await handOver({ membrane: 'otter' });
    await send(maren, defect('membrane'), defect('curb')).expect(200);
    while ((await followLedgers(server.store, Date.now() + 20_000)) > 0);
    const facts = await server.store.query(
      'SELECT stage_found AS stage, crew FROM defect_fact WHERE shower_id = $1 ORDER BY 1',
      [id],
    );
    expect(facts).toEqual([
      { stage: 'curb', crew: 'heron' },
      { stage: 'membrane', crew: 'otter' },
    ]);
    const lucia = await server.as('lucia');
    const list = DefectList.parse((await lucia.get('/api/defects').expect(200)).body);
    expect(list.lines.filter((l) => l.showerId === id).map((l) => l.stageKey)).toEqual(['membrane']);
  });

  it('is a manager’s to hand over: an inspector’s own word changes nothing', async () => {
    const ines = await server.as('ines');
    const tablet = testTablet('ines', v4());
    const first = v4();
    const path = `/api/showers/${tablet.showerId}/entries`;
    await ines
      .post(path)
      .send(push([tablet.seal('shower-created', body, { id: first })]))
      .expect(200);
    const wanted = { ...body, stageCrews: { membrane: 'otter' } };
    await ines
      .post(path)
      .send(push([tablet.seal('correction', { target: first, action: 'replace', body: wanted })]))
      .expect(200);
    const [row] = await server.store.query('SELECT also_crews AS also FROM shower WHERE id = $1', [tablet.showerId]);
    expect(row.also).toEqual([]);
    expect(await seenBy(await server.as('lucia'), tablet.showerId)).toBe(NOTHING);
  });
});
