import { canonicalText } from '@careful-seam/core/log/chain';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EntryEntity } from '../store/entities/showers';
import { created, PASSWORD, PEOPLE, push, rowOf, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

async function newShower(crewId = 'heron') {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  await ines
    .post(path)
    .send(push([tablet.seal('shower-created', { ...created, crewId })]))
    .expect(200);
  return { ines, tablet, path };
}
const count = (showerId: string) => server.store.getRepository(EntryEntity).countBy({ showerId });

describe('appending entries', () => {
  it('takes them in order, numbers them, and gives them back to another tablet', async () => {
    const { ines, tablet, path } = await newShower();
    const texts = ['a', 'b', 'c'].map((words) => tablet.seal('note', { words }));
    const { body } = await ines.post(path).send(push(texts)).expect(200);
    expect(body).toMatchObject({ refused: null, taken: [{ ledgerSeq: 2 }, { ledgerSeq: 3 }, { ledgerSeq: 4 }] });
    const tomas = await server.as('tomas');
    const pulled = await tomas.get(`${path}?after=1`).expect(200);
    expect(pulled.body.entries.map((e: { text: string }) => e.text)).toEqual(texts);
    const row = await rowOf(server.store, 'id', tablet.showerId);
    expect(row).toMatchObject({ headSeq: 4, headHash: body.taken[2].ledgerHash });
  });

  it('hands a shower to another crew: by a manager alone, seen by that crew from then on, and sound to a check', async () => {
    const { ines, tablet, path } = await newShower('heron');
    const row = () => rowOf(server.store, 'id', tablet.showerId);
    const first = (await ines.get(`${path}?after=0`).expect(200)).body.entries[0];
    const target = JSON.parse(first.text).id as string;
    const handed = { target, action: 'replace' as const, body: { ...created, crewId: 'otter' } };
    const own = await ines.post(path).send(push([tablet.seal('correction', handed)]));
    expect(own.body.refused).toMatchObject({ code: 'manager-hands-over', field: 'body.body.crewId' });
    expect((await row()).crewId).toBe('heron');
    const maren = await server.as('maren');
    const office = testTablet('maren', tablet.showerId, JSON.parse(first.text).orderAt);
    const given = v4();
    const taken = await maren
      .post(path)
      .send(push([office.seal('correction', handed, { id: given })]))
      .expect(200);
    expect(taken.body.refused).toBeNull();
    expect((await row()).crewId).toBe('otter');
    const [pavel, lucia] = [await server.as('pavel'), await server.as('lucia')];
    await pavel.get(path).expect(403);
    await lucia.get(path).expect(200);
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
    // Taken back it is whose it was.
    await maren
      .post(path)
      .send(push([office.seal('correction', { target: given, action: 'withdraw' })]))
      .expect(200);
    expect((await row()).crewId).toBe('heron');
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
  });

  it('takes the same entry twice as one', async () => {
    const { ines, tablet, path } = await newShower();
    const text = tablet.seal('note', { words: 'once' });
    const first = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    const again = await ines
      .post(path)
      .send(push([text, text]))
      .expect(200);
    expect(again.body.taken).toEqual([first.body.taken[0], first.body.taken[0]]);
    expect(await count(tablet.showerId)).toBe(2);
  });

  it('refuses the same id with other content and changes nothing', async () => {
    const { ines, tablet, path } = await newShower();
    const id = v4();
    await ines
      .post(path)
      .send(push([tablet.seal('note', { words: 'one' }, { id })]))
      .expect(200);
    const { body } = await ines
      .post(path)
      .send(push([tablet.seal('note', { words: 'two' }, { id })]))
      .expect(200);
    expect(body.refused).toMatchObject({ id, code: 'id-taken', field: 'id' });
    expect(await count(tablet.showerId)).toBe(2);
  });

  it('stops at the first one refused and keeps those before it', async () => {
    const { ines, tablet, path } = await newShower();
    const good = tablet.seal('note', { words: 'good' });
    const bad = good.replace('"words":"good"', '"words":""').replace(/"id":"[^"]+"/g, (m) => m);
    const { body } = await ines
      .post(path)
      .send(push([good, bad]))
      .expect(200);
    expect(body.taken).toHaveLength(1);
    expect(body.refused).toMatchObject({ code: 'entry-invalid', field: 'body.words' });
  });

  it.each([
    ['not JSON', 'x{', 'entry-not-json', 'entries'],
    ['not canonical', '{"b":1,"a":2}', 'entry-invalid', ''],
  ])('refuses what is %s', async (_name, text, code) => {
    const { ines, path } = await newShower();
    const { body } = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    expect(body.refused.code).toBe(code);
  });

  it('refuses a text that is valid but not in canonical form', async () => {
    const { ines, tablet, path } = await newShower();
    const text = JSON.stringify(JSON.parse(tablet.seal('note', { words: 'spaces' })), null, 1);
    const { body } = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    expect(body.refused.message).toContain('RFC 8785');
  });

  it('names a version of the future', async () => {
    const { ines, tablet, path } = await newShower();
    const text = tablet.seal('note', { words: 'x' }).replace(/"v":\d+/, '"v":7');
    const { body } = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    expect(body.refused).toMatchObject({ code: 'version-too-new', field: 'v' });
  });

  it('refuses a gap and a fork of a tablet chain', async () => {
    const { ines, tablet, path } = await newShower();
    const [one, two] = [tablet.seal('note', { words: '1' }), tablet.seal('note', { words: '2' })];
    const gap = await ines
      .post(path)
      .send(push([two]))
      .expect(200);
    expect(gap.body.refused).toMatchObject({ code: 'chain-gap', field: 'deviceSeq' });
    const late = await ines
      .post(path)
      .send(push([one, two]))
      .expect(200);
    expect(late.body.refused).toBeNull();
  });

  it('keeps one chain without holes when many tablets send at once', async () => {
    const { ines, tablet, path } = await newShower();
    const tablets = Array.from({ length: 6 }, () => testTablet('ines', tablet.showerId));
    await Promise.all(
      tablets.map((t) =>
        ines
          .post(path)
          .send(push(Array.from({ length: 8 }, (_, k) => t.seal('note', { words: String(k) }))))
          .expect(200),
      ),
    );
    const rows = await server.store
      .getRepository(EntryEntity)
      .find({ where: { showerId: tablet.showerId }, order: { ledgerSeq: 'ASC' } });
    expect(rows.map((r) => r.ledgerSeq)).toEqual(Array.from({ length: 49 }, (_, k) => k + 1));
    rows.slice(1).forEach((r, i) => void expect(r.prevLedgerHash).toBe(rows[i]!.ledgerHash));
  });

  it('measures the clock of the tablet and tells it', async () => {
    const { ines, tablet, path } = await newShower();
    const clock = new Date(Date.now() + 26 * 3_600_000).toISOString();
    const { body } = await ines
      .post(path)
      .send({ clock, entries: [tablet.seal('note', { words: 'a day ahead' })] })
      .expect(200);
    expect(body.refused).toBeNull();
    expect(body.skewMs / 3_600_000).toBeCloseTo(-26, 1);
    const row = await server.store.getRepository(EntryEntity).findOneByOrFail({ id: body.taken[0].id });
    expect(row.skewMs).toBe(body.skewMs);
  });

  it('asks for the first entry of a shower that it does not know', async () => {
    const ines = await server.as('ines');
    const tablet = testTablet('ines', v4());
    const { body } = await ines
      .post(`/api/showers/${tablet.showerId}/entries`)
      .send(push([tablet.seal('note', { words: 'lost' })]))
      .expect(200);
    expect(body.refused).toMatchObject({ code: 'shower-not-sent-first', field: 'showerId' });
  });

  it('never updates or deletes a stored entry, not even by SQL', async () => {
    const { tablet } = await newShower();
    await expect(
      server.store.query('UPDATE entry SET kind = $1 WHERE shower_id = $2', ['note', tablet.showerId]),
    ).rejects.toThrow('append-only');
    await expect(server.store.query('DELETE FROM entry WHERE shower_id = $1', [tablet.showerId])).rejects.toThrow(
      'append-only',
    );
  });
});

describe('who may write what', () => {
  const asCrew = async (
    who: 'pavel' | 'lucia',
    showerId: string,
    make: (t: ReturnType<typeof testTablet>) => string,
  ) => {
    const agent = await server.as(who);
    const { body } = await agent
      .post(`/api/showers/${showerId}/entries`)
      .send(push([make(testTablet(who, showerId))]))
      .expect(200);
    return body.refused;
  };
  const done = { stage: 'base', crewId: 'heron', who: 'all', day: '2026-02-03' };

  it('a crew lead says work is done on the own crew only', async () => {
    const { tablet } = await newShower();
    expect(await asCrew('pavel', tablet.showerId, (t) => t.seal('work-done', done))).toBeNull();
    expect(await asCrew('lucia', tablet.showerId, (t) => t.seal('work-done', done))).toMatchObject({
      code: 'another-crews-shower',
      field: 'showerId',
    });
    expect(
      await asCrew('pavel', tablet.showerId, (t) => t.seal('work-done', { ...done, crewId: 'otter' })),
    ).toMatchObject({ code: 'another-crews-work', field: 'body.crewId' });
  });

  it('a crew lead does not measure; an inspector tells work that was done, and does not ask for a look at it', async () => {
    const { ines, tablet, path } = await newShower();
    const reading = {
      stage: 'membrane',
      check: 'lap',
      place: { element: 'x' },
      atMm: 1,
      valueMm: 50,
      typed: '50',
      instrument: 'tape',
    };
    expect(await asCrew('pavel', tablet.showerId, (t) => t.seal('reading', reading))).toMatchObject({
      code: 'role-may-not-write',
      field: 'kind',
      values: { role: 'crew-lead', kind: 'reading' },
    });
    const told = await ines
      .post(path)
      .send(push([tablet.seal('work-done', { ...done, doneAt: '2026-03-02T15:30:00.000Z' })]))
      .expect(200);
    expect(told.body.refused).toBeNull();
    const asked = await ines
      .post(path)
      .send(push([tablet.seal('look-requested', { stage: 'membrane' })]))
      .expect(200);
    expect(asked.body.refused).toMatchObject({ code: 'role-may-not-write', field: 'kind' });
  });

  it('nobody writes in the name of another, nor signs by the ordinary way', async () => {
    const { ines, tablet, path } = await newShower();
    const forged = testTablet('ines', tablet.showerId).seal('note', { words: 'x' }, { authorId: PEOPLE.maren.id });
    expect((await ines.post(path).send(push([forged]))).body.refused).toMatchObject({
      code: 'written-by-another',
      field: 'author',
    });
    const signed = testTablet('ines', tablet.showerId).seal('record-signed', {
      name: 'I',
      ledgerHash: 'x',
      statement: 's',
    });
    expect((await ines.post(path).send(push([signed]))).body.refused).toMatchObject({
      code: 'role-may-not-write',
      field: 'kind',
    });
  });

  it('inspectors correct their own entries, managers any', async () => {
    const { ines, tablet, path } = await newShower();
    const id = v4();
    await ines
      .post(path)
      .send(push([tablet.seal('note', { words: 'mine' }, { id })]))
      .expect(200);
    const correct = async (
      who: 'ines' | 'tomas' | 'maren',
      body: { action: 'withdraw' } | { action: 'replace'; body: Record<string, unknown> },
    ) => {
      const agent = await server.as(who);
      return (
        await agent
          .post(path)
          .send(push([testTablet(who, tablet.showerId).seal('correction', { target: id, ...body })]))
      ).body.refused;
    };
    expect(await correct('tomas', { action: 'withdraw' })).toMatchObject({
      code: 'another-persons-entry',
      field: 'body.target',
    });
    expect(await correct('maren', { action: 'withdraw' })).toBeNull();
    expect(await correct('ines', { action: 'replace', body: { words: 'better' } })).toBeNull();
    expect(await correct('ines', { action: 'replace', body: { words: '' } })).toMatchObject({
      code: 'entry-invalid',
      field: 'body.words',
    });
  });

  it('refuses dimensions of absurd size before they are stored', async () => {
    const { ines, tablet, path } = await newShower();
    const geometry = { ...sampleShower(), perimeterRiseMm: -4 };
    const { body } = await ines
      .post(path)
      .send(push([tablet.seal('geometry-set', { version: 1, geometry })]))
      .expect(200);
    expect(body.refused).toMatchObject({ code: 'entry-invalid', field: 'body.geometry.perimeterRiseMm' });
  });
});

describe('what is stored is what was sealed', () => {
  it('an entry that reading would change, or that no database keeps, is refused by its field and never a failure', async () => {
    const { ines, tablet, path } = await newShower();
    const sound = tablet.seal('note', { words: 'sound' });
    const forged = (change: (e: Record<string, unknown> & { body: Record<string, unknown> }) => void) => {
      const e = JSON.parse(sound);
      change(e);
      return canonicalText(e);
    };
    const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
    const texts = [
      forged((e) => Object.assign(e.body, { words: 'a blank at its end ' })),
      forged((e) => Object.assign(e.body, { more: 'of it' })),
      forged((e) => Object.assign(e, { id: String(e.id).toUpperCase().replace(/^./, 'A') })),
      forged((e) => Object.assign(e.body, { words: 'nul \u0000 nul' })),
      sound.replace('"sound"', '"\\ud83d"'),
      sound.replace('"sound"', deep),
      sound.replace('"deviceSeq":2', '"deviceSeq":1e999'),
      `{"kind":"note","body":${deep}}`,
      'null',
      '"x"',
    ];
    for (const text of texts) {
      const { status, body } = await ines.post(path).send(push([text]));
      expect([text.slice(0, 60), status]).toEqual([text.slice(0, 60), 200]);
      expect(body.taken).toEqual([]);
      expect(body.refused.message.length).toBeGreaterThan(10);
    }
    expect(await count(tablet.showerId)).toBe(1);
    await ines
      .post(path)
      .send(push([sound]))
      .expect(200);
    expect(await count(tablet.showerId)).toBe(2);
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
  });
  it('numbers beyond everything that is built are refused by their field: they would stop record, calendar and marks', async () => {
    const { ines, tablet, path } = await newShower();
    const geometry = sampleShower();
    const far = (change: object) => tablet.seal('geometry-set', { version: 1, geometry: { ...geometry, ...change } });
    const cases: [string, string][] = [
      [far({ drain: { ...geometry.drain, xMm: 1e300 } }), 'body.geometry.drain.xMm'],
      [
        far({
          footprint: [
            { xMm: 0, yMm: 0 },
            { xMm: 1e9, yMm: 0 },
            { xMm: 0, yMm: 1e9 },
          ],
        }),
        'body.geometry.footprint.1.xMm',
      ],
      [
        tablet.seal('flood-started', {
          waterLineMm: 76,
          plannedHours: 1e300,
          method: 'marks',
          resolutionMm: 1,
          panResolutionMm: 1,
          smallestLeakMmPerDay: 1,
          prepared: [],
        }),
        'body.plannedHours',
      ],
      [
        tablet.seal('climate-reading', {
          airC: 20,
          relativeHumidity: 0.5,
          series: {
            startAt: '2026-01-01T00:00:00.000Z',
            minutes: [0, 1e300],
            airC: [20, 20],
            relativeHumidity: [0.5, 0.5],
            file: 'x',
          },
        }),
        'body.series.minutes.1',
      ],
    ];
    for (const [text, field] of cases) {
      const { body } = await ines
        .post(path)
        .send(push([text]))
        .expect(200);
      expect(body.refused).toMatchObject({ code: 'entry-invalid', field });
    }
  });
});

describe('authorship', () => {
  it('is the account’s: an entry under another name is refused, and known ones stay as they are', async () => {
    const { ines, tablet, path } = await newShower();
    const text = tablet.seal('note', { words: 'by whom' });
    const forged = canonicalText({ ...JSON.parse(text), author: { ...JSON.parse(text).author, name: 'Maren' } });
    const { body } = await ines
      .post(path)
      .send(push([forged]))
      .expect(200);
    expect(body.refused).toMatchObject({ code: 'author-renamed', field: 'author.name' });
    expect(body.taken).toEqual([]);
    await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    // The account is called otherwise later: what was taken is taken, and what comes again is known.
    await server.store.query('UPDATE firm_user SET name = $1 WHERE id = $2', ['Ines Married', PEOPLE.ines.id]);
    const again = await ines
      .post(path)
      .send(push([text]))
      .expect(200);
    expect(again.body.refused).toBeNull();
    const next = await ines
      .post(path)
      .send(push([tablet.seal('note', { words: 'old name' })]))
      .expect(200);
    expect(next.body.refused).toMatchObject({ code: 'author-renamed' });
    await server.store.query('UPDATE firm_user SET name = $1 WHERE id = $2', [PEOPLE.ines.name, PEOPLE.ines.id]);
  });
  it('of a signature stands: its name is the account’s, nobody corrects it, and it is over the record as it stands', async () => {
    const { ines, tablet, path } = await newShower();
    const head = async () => (await rowOf(server.store, 'id', tablet.showerId)).headHash!;
    const sign = (entry: string) =>
      ines.post(path.replace('entries', 'sign')).send({ password: PASSWORD, clock: new Date().toISOString(), entry });
    const signature = async (name: string) =>
      tablet.seal('record-signed', { name, ledgerHash: await head(), statement: 's' });
    const forged = JSON.parse(await signature('Ines'));
    const other = await sign(canonicalText({ ...forged, body: { ...forged.body, name: 'Maren' } }));
    expect([other.status, other.body.error.code]).toEqual([409, 'author-renamed']);
    // Two at once over the same head: the second one would be over a record that has grown.
    const sound = canonicalText(forged);
    expect((await sign(sound)).status).toBe(200);
    const late = tablet.seal('record-signed', { name: 'Ines', ledgerHash: forged.body.ledgerHash, statement: 's' });
    expect((await sign(late)).body.error.code).toBe('head-moved');
    const maren = await server.as('maren');
    for (const action of ['withdraw', 'replace'] as const) {
      const boss = testTablet('maren', tablet.showerId, forged.orderAt);
      const body = {
        target: forged.id,
        action,
        ...(action === 'replace' ? { body: { ...forged.body, name: 'X' } } : {}),
      };
      const { body: answer } = await maren
        .post(path)
        .send(push([boss.seal('correction', body as never, { id: v4() })]))
        .expect(200);
      expect(answer.refused).toMatchObject({ code: 'signature-stands', field: 'body.target' });
    }
  });
  it('a one-time code works once, whoever tries it at the same moment', async () => {
    const maren = await server.as('maren');
    const { body } = await maren.post('/api/links').send({ kind: 'password', userId: PEOPLE.tomas.id }).expect(200);
    const code = body.path.split('/').at(-1);
    const tries = await Promise.all(
      Array.from({ length: 8 }, (_, k) => maren.post('/api/password').send({ code, password: `a long password ${k}` })),
    );
    expect(tries.map((r) => r.status).sort()).toEqual([200, ...Array(7).fill(410)]);
  });
});
