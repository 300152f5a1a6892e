import { BlindChoices, BlindKept, BlindTasks, EyesAnswer } from '@careful-seam/contract/api/blind';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { created, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let server: TestServer;
let [ines, tomas, maren]: Agent[] = [];
beforeAll(async () => {
  server = await testServer();
  [ines, tomas, maren] = [await server.as('ines'), await server.as('tomas'), await server.as('maren')];
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;
type Answer = 'ok' | 'defect' | 'could-not-see';
const BOOK = sampleBook();
const PAIR = { first: PEOPLE.ines.id, second: PEOPLE.tomas.id };

/** A shower whose membrane lies, with who writes in it. */
async function laid() {
  const showerId = v4();
  const [tablet, work] = [testTablet('ines', showerId), testTablet('maren', showerId)];
  const path = `/api/showers/${showerId}/entries`;
  const send = (agent: Agent, text: string) =>
    agent
      .post(path)
      .send(push([text]))
      .expect(200);
  await send(ines!, tablet.seal('shower-created', created));
  await send(ines!, tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }));
  await send(ines!, tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }));
  const done = { stage: 'membrane', crewId: 'heron', who: 'They', day: '2026-05-01' };
  await send(maren!, work.seal('work-done', done));
  const look = (element: string, answer: 'ok' | 'defect' = 'ok') =>
    tablet.seal('look', { stage: 'membrane', checks: ['bond'], places: [{ element }], answer });
  return { showerId, tablet, look, send: (text: string) => send(ines!, text) };
}
const askFor = (shower: string, change: object = {}) =>
  maren!.post('/api/blind-looks').send({ shower, stage: 'membrane', check: 'bond', ...PAIR, ...change });
/** Asks, and gives the look's id. */
async function asked(shower: string): Promise<string> {
  return (await askFor(shower).expect(200)).body.id;
}
const tasksOf = async (agent: Agent) =>
  BlindTasks.parse((await agent.get('/api/blind-looks/mine').expect(200)).body).tasks;
const taskOf = async (agent: Agent, id: string) => (await tasksOf(agent)).find((t) => t.id === id);
const answerAll = async (agent: Agent, id: string, answerOf: (i: number) => Answer) => {
  const places = (await taskOf(agent, id))!.places;
  return { answers: Object.fromEntries(places.map((p, i) => [p.element, answerOf(i)])) };
};
const send = (agent: Agent, id: string, body: object) => agent.post(`/api/blind-looks/${id}/answers`).send(body);
const eyes = async (by = 'group') => EyesAnswer.parse((await maren!.get(`/api/across/eyes?by=${by}`).expect(200)).body);
const rowOf = async (id: string) => (await eyes()).looks.find((l) => l.id === id)!;

describe('a blind look', () => {
  it('is asked of two, answered by each, and told to nobody before both have', async () => {
    const { showerId } = await laid();
    const choices = BlindChoices.parse((await maren!.get(`/api/showers/${showerId}/blind-looks`)).body);
    const choice = choices.questions.find((q) => q.check === 'bond')!;
    expect(choice).toMatchObject({ stage: 'membrane', places: expect.any(Number) });
    const before = (await eyes()).all.places;
    const id = await asked(showerId);
    expect((await taskOf(tomas!, id))!.places).toHaveLength(choice.places);

    // One of the two has answered: the other, and the manager, learn nothing of it.
    const firstBody = await answerAll(ines!, id, (i) => (i < 3 ? 'defect' : 'ok'));
    const kept = BlindKept.parse((await send(ines!, id, firstBody).expect(200)).body);
    expect(kept.wrong).toHaveLength(3);
    expect(await taskOf(ines!, id)).toBeUndefined();
    const waiting = await rowOf(id);
    expect([waiting.places, waiting.waitsFor]).toEqual([null, [PEOPLE.tomas.name]]);
    expect((await eyes()).all.places).toBe(before);
    const { text } = await tomas!.get('/api/blind-looks/mine').expect(200);
    expect(text).not.toMatch(/defect|answer/);

    await send(tomas!, id, await answerAll(tomas!, id, (i) => (i < 2 ? 'defect' : i === 4 ? 'could-not-see' : 'ok')));
    const row = await rowOf(id);
    expect(row.waitsFor).toEqual([]);
    expect(row.places).toHaveLength(choice.places - 1);
    expect(row.places!.filter((p) => p.first !== p.second)).toHaveLength(1);
    const { all, lines } = await eyes('pair');
    expect(all.places - before).toBe(choice.places - 1);
    expect(all.kappa).toBeGreaterThan(0);
    expect(lines.map((l) => l.name)).toEqual([`${PEOPLE.ines.name}, ${PEOPLE.tomas.name}`]);
    for (const by of ['group', 'check'])
      expect((await eyes(by)).lines.reduce((n, l) => n + l.places, 0)).toBe(all.places);
  });

  it('stands as it was answered: not twice, not by another, not of other places', async () => {
    const { showerId } = await laid();
    const id = await asked(showerId);
    const body = await answerAll(ines!, id, () => 'ok');
    const [one, ...rest] = Object.entries(body.answers);
    for (const wrong of [
      { answers: Object.fromEntries(rest) },
      { answers: { ...body.answers, elsewhere: 'ok' } },
      { answers: { ...Object.fromEntries(rest), elsewhere: one![1] } },
    ])
      expect((await send(ines!, id, wrong)).body.error.code).toBe('blind-look-places');
    expect((await send(ines!, id, { answers: { ...body.answers, [one![0]]: 'perhaps' } })).status).toBe(422);
    expect((await send(maren!, id, body)).body.error.code).toBe('no-such-blind-look');
    const both = await Promise.all([send(ines!, id, body), send(ines!, id, body)]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    expect((await send(ines!, id, body)).body.error.code).toBe('blind-look-answered');
    const pavel = await server.as('pavel');
    expect((await pavel.get('/api/blind-looks/mine')).status).toBe(403);
    expect((await ines!.get('/api/across/eyes')).status).toBe(403);
    expect((await ines!.post('/api/blind-looks').send({})).status).toBe(403);
    expect((await ines!.delete(`/api/blind-looks/${id}`)).status).toBe(403);
  });

  it('leaves out what the other’s record shows by now, and compares none of it', async () => {
    const { showerId, look, send: write } = await laid();
    const id = await asked(showerId);
    const all = (await taskOf(tomas!, id))!.places.map((p) => p.element);
    await send(ines!, id, await answerAll(ines!, id, () => 'ok')).expect(200);
    // Who has answered writes it into the record too, where the other could read it.
    await write(look(all[0]!, 'defect'));
    const task = (await taskOf(tomas!, id))!;
    expect([task.places.map((p) => p.element), task.leftOut]).toEqual([all.slice(1), 1]);
    expect((await send(tomas!, id, { answers: Object.fromEntries(all.map((p) => [p, 'ok'])) })).status).toBe(409);
    await send(tomas!, id, await answerAll(tomas!, id, () => 'ok')).expect(200);
    expect((await rowOf(id)).places!.map((p) => p.element)).not.toContain(all[0]);
  });

  it('is not asked of one alone, of somebody who does not look, of nothing', async () => {
    const { showerId, look, send: write } = await laid();
    const codeOf = async (change: object) => {
      const { error } = (await askFor(showerId, change)).body;
      return `${error.code} ${error.field}`;
    };
    expect(await codeOf({ second: PAIR.first })).toBe('blind-look-alone second');
    expect(await codeOf({ second: PEOPLE.pavel.id })).toBe('inspector-unknown second');
    expect(await codeOf({ first: v4() })).toBe('inspector-unknown first');
    expect(await codeOf({ shower: v4() })).toBe('no-such-shower shower');
    expect(await codeOf({ check: 'lap' })).toBe('blind-look-nothing check');
    expect(await codeOf({ stage: 'tile' })).toBe('blind-look-nothing check');
    const { questions } = BlindChoices.parse((await maren!.get(`/api/showers/${showerId}/blind-looks`)).body);
    const id = await asked(showerId);
    for (const place of (await taskOf(tomas!, id))!.places) await write(look(place.element));
    expect(await codeOf({})).toBe('blind-look-nothing check');
    const after = BlindChoices.parse((await maren!.get(`/api/showers/${showerId}/blind-looks`)).body);
    expect(after.questions.map((q) => q.check)).toEqual(questions.map((q) => q.check).filter((c) => c !== 'bond'));
    // Nothing is left to the other of the two: an empty answer ends the waiting.
    expect((await taskOf(tomas!, id))!.places).toEqual([]);
    await send(tomas!, id, { answers: {} }).expect(200);
    expect(await taskOf(tomas!, id)).toBeUndefined();
  });

  it('is taken back with what was answered, and is in the audit without its answers', async () => {
    const { showerId } = await laid();
    const id = await asked(showerId);
    await send(ines!, id, await answerAll(ines!, id, () => 'defect')).expect(200);
    await maren!.delete(`/api/blind-looks/${id}`).expect(200);
    expect((await maren!.delete(`/api/blind-looks/${id}`)).body.error.code).toBe('no-such-blind-look');
    expect((await maren!.delete('/api/blind-looks/x')).status).toBe(404);
    expect(await server.store.query('SELECT 1 FROM blind_answer WHERE look_id = $1', [id])).toEqual([]);
    expect(await taskOf(tomas!, id)).toBeUndefined();
    const notes: { did: string; about: string; detail: unknown }[] = await server.store.query(
      "SELECT did, about, detail FROM audit WHERE did LIKE 'blind-look-%'",
    );
    expect(new Set(notes.map((n) => n.did))).toEqual(
      new Set(['blind-look-asked', 'blind-look-answered', 'blind-look-ended']),
    );
    expect(JSON.stringify(notes)).not.toMatch(/"ok"|"defect"/);
  });
});
