import type { Person } from '@careful-seam/contract/api/messages';
import { type BatchLine, SyncAnswer } from '@careful-seam/contract/api/sync';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openEpoch } from '../firm/epoch';
import { created, PASSWORD, PEOPLE, push, rowOf, type TestServer, testServer, testTablet } from '../tests/testServer';
import { whatMoved } from './whatMoved';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;

async function shower(agent: Agent, change: Partial<typeof created> = {}) {
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  await agent
    .post(path)
    .send(push([tablet.seal('shower-created', { ...created, ...change })]))
    .expect(200);
  const write = (words: string) =>
    agent
      .post(path)
      .send(push([tablet.seal('note', { words })]))
      .expect(200);
  return { tablet, id: tablet.showerId, write };
}
const ask = async (agent: Agent, since: string | null, change: object = {}) =>
  SyncAnswer.parse(
    (
      await agent
        .post('/api/sync')
        .send({ since, firm: null, ...change })
        .expect(200)
    ).body,
  );
/** Asks on until nothing is told: what moves beside other tests' transactions is told twice, never left out. */
async function quiet(agent: Agent, from: SyncAnswer): Promise<SyncAnswer> {
  for (let answer = from; ; ) {
    answer = await ask(agent, answer.since, { firm: answer.mark });
    if (answer.showers.length === 0) return answer;
  }
}
const idsOf = (answer: SyncAnswer) => answer.showers.map((s) => s.id);

/** A finished shower that nobody touched for so many days. */
async function finished(agent: Agent, daysAgo: number): Promise<string> {
  const { id } = await shower(agent);
  await server.store.query(
    `UPDATE shower_head SET is_signed = true, updated_at = now() - $2 * interval '1 day' WHERE shower_id = $1`,
    [id, daysAgo],
  );
  return id;
}

describe('a round of a tablet', () => {
  it('without news costs a few hundred bytes', async () => {
    const ines = await server.as('ines');
    for (let k = 0; k < 20; k += 1) await shower(ines, { name: `S${k}` });
    const first = await ask(ines, null);
    expect(first.showers.length).toBeGreaterThanOrEqual(20);
    const { since, mark } = await quiet(ines, first);
    const next = await ines.post('/api/sync').send({ since, firm: mark }).expect(200);
    expect(SyncAnswer.parse(next.body)).toMatchObject({ firm: null, showers: [] });
    expect(next.text.length).toBeLessThan(250);
    expect(JSON.stringify(next.headers).length).toBeLessThan(700);
  });

  it('tells what moved once, and the words of the firm when they changed', async () => {
    const ines = await server.as('ines');
    const { id, write } = await shower(ines);
    const first = await quiet(ines, await ask(ines, null));
    await write('one');
    const second = await ask(ines, first.since, { firm: first.mark });
    expect(second.showers).toContainEqual(expect.objectContaining({ id, headSeq: 2, keep: true }));
    await quiet(ines, second);
    const maren = await server.as('maren');
    await maren.put(`/api/showers/${id}/visit`).send({ inspectorId: PEOPLE.tomas.id, visitOn: null }).expect(200);
    expect((await ask(ines, second.since)).showers).toContainEqual(
      expect.objectContaining({ id, inspectorId: PEOPLE.tomas.id }),
    );
    const { settings } = (await maren.get('/api/firm').expect(200)).body;
    await maren
      .put('/api/firm/settings')
      .send({ ...settings, licence: 'L-1' })
      .expect(200);
    expect((await ask(ines, second.since, { firm: first.mark })).firm?.settings.licence).toBe('L-1');
  });

  it('misses nothing that was written before and stored after it', async () => {
    const ines = await server.as('ines');
    const [early, late] = [await shower(ines), await shower(ines)];
    let { since } = await ask(ines, null);
    const slow = server.store.createQueryRunner();
    await slow.startTransaction();
    await slow.query('UPDATE shower_head SET head_seq = head_seq + 0 WHERE shower_id = $1', [early.id]);
    await late.write('overtakes');
    const before = await ask(ines, since);
    expect(idsOf(before)).toContain(late.id);
    expect(before.showers.find((s) => s.id === early.id)?.headSeq ?? 1).toBe(1);
    since = before.since;
    await slow.commitTransaction();
    await slow.release();
    expect(idsOf(await ask(ines, since))).toContain(early.id);
  });

  it('begins with what is open, planned or of late, and tells of the rest what moves', async () => {
    const ines = await server.as('ines');
    const [old, recent, planned] = [await finished(ines, 20), await finished(ines, 5), await finished(ines, 300)];
    const maren = await server.as('maren');
    const inAWeek = new Date(Date.now() + 7 * 86_400_000).toISOString().slice(0, 10);
    await maren.put(`/api/showers/${planned}/visit`).send({ inspectorId: null, visitOn: inAWeek }).expect(200);
    const first = await ask(ines, null);
    expect(idsOf(first)).toEqual(expect.arrayContaining([recent, planned]));
    expect(idsOf(first)).not.toContain(old);
    // A tablet that has it hears of it; one that asks from the beginning names what it has.
    await server.store.query('UPDATE shower SET name = name WHERE id = $1', [old]);
    expect((await ask(ines, first.since)).showers).toContainEqual(expect.objectContaining({ id: old, keep: false }));
    expect(idsOf(await ask(ines, null, { known: [old, v4()] }))).toContain(old);
  });

  it('begins anew after a restore, in another crew, by other days, and from a place that is not known', async () => {
    const [ines, pavel] = [await server.as('ines'), await server.as('pavel')];
    const { since } = await ask(ines, null);
    expect((await ask(ines, 'no place')).since).toBeNull();
    expect((await ask(ines, `${since}0000`)).since).toBeNull();
    expect((await ask(await server.as('tomas'), since)).since).toBeNull();
    const mine = await ask(pavel, null);
    const person: Person = { ...PEOPLE.pavel, crewId: 'otter' };
    const moved = await whatMoved(server.store, person, { since: mine.since, firm: null }, new Date());
    expect([moved.since, moved.showers]).toEqual([null, []]);
    const maren = await server.as('maren');
    const { settings } = (await maren.get('/api/firm').expect(200)).body;
    await maren
      .put('/api/firm/settings')
      .send({ ...settings, tabletDays: 30 })
      .expect(200);
    expect((await ask(ines, since)).since).toBeNull();
    const again = await ask(ines, null);
    await openEpoch(server.store, 'test', new Date(Date.now() + 1000));
    expect((await ask(ines, again.since)).since).toBeNull();
  });

  it('shows a crew its own showers only, also those it names', async () => {
    const ines = await server.as('ines');
    const other = await shower(ines, { crewId: 'otter' });
    const pavel = await server.as('pavel');
    const first = await ask(pavel, null, { known: [other.id] });
    expect(idsOf(first)).not.toContain(other.id);
    // The own crew's showers of the tests before may be told twice, beside other tests' transactions.
    const { since } = await quiet(pavel, first);
    await other.write('moved');
    expect(idsOf(await ask(pavel, since))).toEqual([]);
  });

  it('is given 1,000 showers at most and told that there are more; of more than moved so much, it begins anew', async () => {
    const ines = await server.as('ines');
    const { since } = await ask(ines, null);
    await server.store.query(`WITH made AS (
      INSERT INTO shower (id, name, job, crew_id) SELECT gen_random_uuid(), 'many', 'many', 'heron' FROM generate_series(1, 2100) RETURNING id)
      INSERT INTO shower_head (shower_id, updated_at) SELECT id, now() FROM made`);
    const first = await ask(ines, null);
    expect([first.showers.length, first.more]).toEqual([1000, true]);
    expect((await ask(ines, since)).since).toBeNull();
    // The list of a job comes in pages, and each shower once.
    const seen: string[] = [];
    for (let from = ''; ; ) {
      const { body } = await ines.get('/api/showers').query({ job: 'many', from }).expect(200);
      seen.push(...body.showers.map((s: { id: string }) => s.id));
      if (body.next === null) break;
      from = body.next;
    }
    expect([seen.length, new Set(seen).size]).toEqual([2100, 2100]);
    await server.store.query(`DELETE FROM shower_head WHERE shower_id IN (SELECT id FROM shower WHERE job = 'many')`);
    await server.store.query(`DELETE FROM shower WHERE job = 'many'`);
  });
});

describe('entries in one answer', () => {
  const batch = async (agent: Agent, want: { id: string; after: number }[]): Promise<BatchLine[]> => {
    const { text } = await agent
      .post('/api/sync/entries')
      .send({ want })
      .buffer(true)
      .parse((res, done) => {
        let all = '';
        res.on('data', (part: Buffer) => (all += part));
        res.on('end', () => done(null, all));
      })
      .expect(200)
      .then((r) => ({ text: r.body as string }));
    return text
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as BatchLine);
  };

  it('come in the order asked, from where the tablet stands, long ones in several lines', async () => {
    const ines = await server.as('ines');
    const [one, two] = [await shower(ines), await shower(ines)];
    const notes = Array.from({ length: 1100 }, (_, k) => one.tablet.seal('note', { words: String(k) }));
    for (let k = 0; k < notes.length; k += 400)
      await ines
        .post(`/api/showers/${one.id}/entries`)
        .send(push(notes.slice(k, k + 400)))
        .expect(200);
    const lines = await batch(ines, [
      { id: two.id, after: 0 },
      { id: one.id, after: 1 },
    ]);
    expect(lines.map((l) => [l.id, l.entries.length])).toEqual([
      [two.id, 1],
      [one.id, 500],
      [one.id, 500],
      [one.id, 100],
    ]);
    expect(lines.slice(1).flatMap((l) => l.entries.map((e) => e.text))).toEqual(notes);
    expect(lines[1]!.entries[0]!.ledgerSeq).toBe(2);
  });

  it('of a shower that is not there, or another crew’s, are missing and hold none back', async () => {
    const ines = await server.as('ines');
    const [own, other, nowhere] = [await shower(ines), await shower(ines, { crewId: 'otter' }), v4()];
    const lines = await batch(
      await server.as('pavel'),
      [other.id, nowhere, own.id].map((id) => ({ id, after: 0 })),
    );
    expect(lines.map((l) => [l.id, l.missing ?? false])).toEqual([
      [other.id, true],
      [nowhere, true],
      [own.id, false],
    ]);
  });
});

describe('one id in two showers', () => {
  it('hides neither entry: an id counts within its shower', async () => {
    const ines = await server.as('ines');
    const [one, two] = [await shower(ines), await shower(ines)];
    const id = v4();
    for (const { tablet } of [one, two])
      await ines
        .post(`/api/showers/${tablet.showerId}/entries`)
        .send(push([tablet.seal('note', { words: tablet.showerId }, { id })]))
        .expect(200);
    for (const { tablet } of [one, two]) {
      const { body } = await ines.get(`/api/showers/${tablet.showerId}/entries?after=1`).expect(200);
      expect(JSON.parse(body.entries[0].text).body.words).toBe(tablet.showerId);
    }
  });
});

describe('what waits for the manager', () => {
  it('comes from all showers, longest first, whatever a tablet holds, and nobody else is told', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    const { id, tablet } = await shower(ines, { name: 'waits' });
    const path = `/api/showers/${id}/entries`;
    const defect = tablet.seal('defect-found', {
      stage: 'membrane',
      place: { element: 'floor-wall|floor|wall:back' },
      kind: 'short-lap',
      severity: 'stop',
      words: 'too short',
      photos: [],
    });
    await ines
      .post(path)
      .send(push([defect]))
      .expect(200);
    const before = (await maren.get('/api/queue').expect(200)).body;
    expect(before.behind).toBe(0);
    expect(before.lines.find((l: { id: string }) => l.id === id)).toMatchObject({ decisions: 0, holds: 1 });
    expect(before.holds).toBe(1);
    const head = (await rowOf(server.store, 'id', id)).headHash!;
    const entry = tablet.seal('record-signed', { name: 'Ines', ledgerHash: head, statement: 's' });
    await ines
      .post(`/api/showers/${id}/sign`)
      .send({ password: PASSWORD, clock: new Date().toISOString(), entry })
      .expect(200);
    expect((await rowOf(server.store, 'id', id)).isSigned).toBe(true);
    await ines.get('/api/queue').expect(403);
  });
});

describe('a page of jobs', () => {
  it('follows on the one before, and none is lost past the first', async () => {
    await server.store.query(
      `INSERT INTO job (name, address, time_zone) SELECT 'Job ' || lpad(k::text, 4, '0'), '', 'UTC' FROM generate_series(1, 450) k`,
    );
    const maren = await server.as('maren');
    const names: string[] = [];
    for (let more = true; more; ) {
      const { body } = await maren
        .get('/api/jobs')
        .query({ after: names.at(-1) ?? '' })
        .expect(200);
      names.push(...body.jobs.map((j: { name: string }) => j.name));
      more = body.more;
    }
    expect(new Set(names).size).toBe(names.length);
    expect(names.filter((n) => n.startsWith('Job '))).toHaveLength(450);
  });
});
