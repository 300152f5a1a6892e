import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ShowerRecord } from '@careful-seam/contract/record/record';
import { CALCULATIONS } from '@careful-seam/core/calc/registry';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { makeAnchor } from '@careful-seam/server/ledger/anchors';
import { buildRecord } from '@careful-seam/server/record/buildRecord';
import { loadShower } from '@careful-seam/server/showers/loadShower';
import { UserEntity } from '@careful-seam/server/store/entities/people';
import { EntryEntity } from '@careful-seam/server/store/entities/showers';
import { PASSWORD, push, rowOf, type TestServer, testServer, testTablet } from '@careful-seam/server/tests/testServer';
import { verifyLedger } from '@careful-seam/server/verify/verifyLedger';
import { verifyShower } from '@careful-seam/server/verify/verifyShower';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoShowers } from '../demoShowers';
import { CREWS, PEOPLE as DEMO_PEOPLE } from '../firm';
import { loadDemoFirm } from './loadDemoFirm';

let server: TestServer;
const services = () => ({
  store: server.store,
  picturePlace: server.picturePlace,
  now: () => new Date(),
  mail: null,
  publicUrl: '',
});
beforeAll(async () => {
  server = await testServer();
  const users = await server.store.getRepository(UserEntity).find();
  await server.store.getRepository(UserEntity).clear();
  await loadDemoFirm(services());
  await server.store.getRepository(UserEntity).delete(DEMO_PEOPLE.map((p) => p.id));
  await server.store.getRepository(UserEntity).insert(users);
});
afterAll(() => server.close());

const findings = async () => (await verifyLedger(server.store, server.picturePlace)).findings;
const byName = async (name: string) => loadShower(server.store, await rowOf(server.store, 'name', name));

/** Changes stored rows the way somebody with the database's own keys could, then puts them back. */
async function tampered<T>(
  sql: string,
  values: unknown[],
  undo: string,
  undoValues: unknown[],
  look: () => Promise<T>,
): Promise<T> {
  const apply = async (text: string, v: unknown[]) => {
    await server.store.query('ALTER TABLE entry DISABLE TRIGGER entries_stand');
    await server.store.query(text, v);
    await server.store.query('ALTER TABLE entry ENABLE TRIGGER entries_stand');
  };
  await apply(sql, values);
  try {
    return await look();
  } finally {
    await apply(undo, undoValues);
  }
}

describe('the demo firm', () => {
  it('has showers in the states that a person meets', async () => {
    const state = async (name: string) => (await byName(name)).state;
    const short = await state('3B hall');
    expect(blockersOf(short, 'membrane').some((b) => b.kind === 'check' && b.verdict === 'fail')).toBe(true);
    expect([...short.defects.values()].map((d) => [d.kind, d.photos.length, d.closedAt])).toEqual([
      ['short-lap', 1, null],
    ]);
    const unseen = await state('3C guest');
    expect(unseen.defects.size).toBe(0);
    const held = blockersOf(unseen, 'membrane').filter((b) => b.kind !== 'deviation-pending');
    expect(held.every((b) => b.kind === 'check' && b.verdict === 'unseen')).toBe(true);
    expect([...unseen.deviations.values()].map((d) => d.decision)).toEqual([null]);
    expect((await state('18 annex')).stages.get('base')!.word).toBe('contested');
    expect([...(await state('14 loft')).stages.values()].filter((s) => s.begun).map((s) => s.word)).toEqual(
      Array(6).fill('released'),
    );
    const redone = await state('16 ground');
    expect([redone.redos.length, [...redone.defects.values()].every((d) => d.closedAt !== null)]).toEqual([1, true]);
    expect((await state('1 wet corner')).covered.size).toBeGreaterThan(0);
    expect((await state('B7')).stages.get('base')!.word).toBe('held');
  });
  it('is loaded once', async () => {
    expect(await loadDemoFirm(services())).toBe(false);
  });
  it('is the same from the same moment', async () => {
    const book = defaultRuleBook();
    const texts = async () =>
      (await demoShowers(1_800_000_000_000, () => book)).flatMap((w) => w.sealed.map((s) => s.sealed.hash));
    expect(await texts()).toEqual(await texts());
    expect(CREWS.length).toBeGreaterThan(2);
  });
});

describe('verify', () => {
  it('finds all as written', async () => {
    const { showers, entries, photos, findings: none } = await verifyLedger(server.store, server.picturePlace);
    expect([showers, photos, none]).toEqual([19, 3, []]);
    expect(entries).toBe(await server.store.getRepository(EntryEntity).count());
  });

  it('finds and names any changed character of any entry', async () => {
    const rows = await server.store.getRepository(EntryEntity).find();
    const place = fc.tuple(fc.nat(rows.length - 1), fc.nat());
    await fc.assert(
      fc.asyncProperty(place, async ([k, at]) => {
        const row = rows[k]!;
        const i = at % row.text.length;
        const changed = `${row.text.slice(0, i)}${row.text[i] === 'x' ? 'y' : 'x'}${row.text.slice(i + 1)}`;
        const found = await tampered(
          'UPDATE entry SET text = $1 WHERE id = $2',
          [changed, row.id],
          'UPDATE entry SET text = $1 WHERE id = $2',
          [row.text, row.id],
          findings,
        );
        expect(found.some((f) => f.where.includes(row.id))).toBe(true);
      }),
      { numRuns: 12 },
    );
    expect(await findings()).toEqual([]);
  });

  it.each([
    ['kind', "'note'", 'kind'],
    ['author_id', "'somebody'", 'author_id'],
    ['order_at', "'000000000000001-000000'", 'order_at'],
    ['received_at', "received_at + interval '1 second'", 'ledger hash'],
    ['skew_ms', 'skew_ms + 1', 'ledger hash'],
    ['ledger_hash', "decode(repeat('0', 64), 'hex')", 'ledger hash'],
    ['hash', "decode(repeat('0', 64), 'hex')", 'hash'],
    ['text', "'null'", 'not an entry'],
  ])('finds a changed column %s', async (column, value, word) => {
    const row = (await byName('3B hall')).rows[10]!;
    const before = (await server.store.query(`SELECT ${column} AS v FROM entry WHERE id = $1`, [row.id]))[0].v;
    const found = await tampered(
      `UPDATE entry SET ${column} = ${value} WHERE id = $1`,
      [row.id],
      `UPDATE entry SET ${column} = $2 WHERE id = $1`,
      [row.id, before],
      findings,
    );
    expect(found.some((f) => f.where.includes(row.id) && f.what.includes(word))).toBe(true);
    expect(await findings()).toEqual([]);
  });

  it('finds an entry taken out, and a head set back', async () => {
    const loaded = await byName('B7');
    const found = await tampered(
      `UPDATE shower_head SET head_seq = head_seq - 1, head_hash = decode($2, 'hex') WHERE shower_id = $1`,
      [loaded.row.id, loaded.rows.at(-1)!.prevLedgerHash],
      `UPDATE shower_head SET head_seq = $2, head_hash = decode($3, 'hex') WHERE shower_id = $1`,
      [loaded.row.id, loaded.row.headSeq, loaded.row.headHash],
      findings,
    );
    expect(found).toMatchObject([{ what: 'its head is not its last entry' }]);
  });

  it.each([
    ['a shower called otherwise', 'UPDATE shower SET name = $2 WHERE id = $1', 'name', 'another', 'its name is not'],
    [
      'a shower of another crew',
      'UPDATE shower SET crew_id = $2 WHERE id = $1',
      'crewId',
      'otter',
      'its crewId is not',
    ],
    [
      'a signature that is none',
      'UPDATE shower_head SET is_signed = $2 WHERE shower_id = $1',
      'isSigned',
      true,
      'wrongly whether',
    ],
  ])('finds %s', async (_what, sql, key, value, word) => {
    const { row } = await byName('B7');
    const found = await tampered(sql, [row.id, value], sql, [row.id, row[key as 'name']], findings);
    expect(found).toMatchObject([{ what: expect.stringContaining(word) }]);
  });

  it('finds a head that is gone', async () => {
    const { row } = await byName('B7');
    const [head] = await server.store.query('SELECT * FROM shower_head WHERE shower_id = $1', [row.id]);
    const found = await tampered(
      'DELETE FROM shower_head WHERE shower_id = $1',
      [row.id],
      'INSERT INTO shower_head (shower_id, head_seq, head_hash, updated_at) VALUES ($1, $2, $3, $4)',
      [row.id, head.head_seq, head.head_hash, head.updated_at],
      findings,
    );
    expect(found).toMatchObject([{ what: 'it has no head' }]);
  });

  it('finds a rule book that was changed since an anchor named it, and one that can not be read', async () => {
    await makeAnchor(server.store, new Date());
    const [book] = await server.store.query(`SELECT * FROM rule_book WHERE origin = '' ORDER BY version DESC LIMIT 1`);
    const put = 'UPDATE rule_book SET data = $3 WHERE id = $1 AND version = $2';
    const change = async (data: unknown) =>
      tampered(put, [book.id, book.version, data], put, [book.id, book.version, book.data], findings);
    const milder = await change({ ...book.data, title: 'Milder' });
    expect(milder).toMatchObject([
      { where: expect.stringContaining('anchor'), what: expect.stringContaining('not what it was') },
    ]);
    const none = await change({ ...book.data, methods: 'none' });
    expect(none.map((f) => f.what)).toContain('it can not be read');
    expect(await findings()).toEqual([]);
  });

  it('finds a signature that is not over what stands before it', async () => {
    const { row } = await byName('B7');
    const tablet = testTablet('ines', row.id);
    const entry = JSON.parse(tablet.seal('record-signed', { name: 'Ines', ledgerHash: row.headHash!, statement: 's' }));
    const find = () => null;
    const shower = { ...row, headSeq: 1, headHash: 'f'.repeat(64), isSigned: true };
    const at = (over: string | null) =>
      verifyShower(
        shower,
        [
          {
            ...entry,
            text: JSON.stringify({ ...entry, body: { ...entry.body, ledgerHash: over } }),
            prevLedgerHash: null,
            ledgerHash: shower.headHash,
            ledgerSeq: 1,
            receivedAt: new Date(),
            skewMs: 0,
            imported: false,
            authorId: entry.author.id,
          },
        ],
        find,
      ).map((f) => f.what);
    expect(at('e'.repeat(64))).toContain('its signature is not over the entries before it');
    expect(at(null)).not.toContain('its signature is not over the entries before it');
  });

  it('tells how far it is, does its part alone, and the parts are the whole', async () => {
    const told: [number, number][] = [];
    const whole = await verifyLedger(server.store, server.picturePlace, { tell: (done, of) => told.push([done, of]) });
    expect(told.at(-1)).toEqual([whole.showers + whole.photos, whole.showers + whole.photos]);
    const parts = await Promise.all(
      [0, 1, 2].map((k) => verifyLedger(server.store, server.picturePlace, { part: { k, of: 3 } })),
    );
    for (const what of ['showers', 'entries', 'photos'] as const)
      expect(parts.reduce((n, p) => n + p[what], 0)).toBe(whole[what]);
    const none = await verifyLedger(server.store, server.picturePlace, { movedSince: new Date(Date.now() + 60_000) });
    expect(none.showers).toBe(0);
  });

  it('finds a changed byte of a picture', async () => {
    const folder = readdirSync(server.picturePlace)[0]!;
    const name = readdirSync(join(server.picturePlace, folder)).find((n) => n.length === 64)!;
    const path = join(server.picturePlace, folder, name);
    const bytes = readFileSync(path);
    const changed = Buffer.from(bytes);
    changed[changed.length >> 1]! ^= 1;
    writeFileSync(path, changed);
    const found = await findings();
    writeFileSync(path, bytes);
    expect(found).toEqual([{ where: `picture ${name}`, what: 'its bytes do not have its hash' }]);
  });
});

describe('the record', () => {
  it('is valid by its own schema, and its figures come back from its entries', async () => {
    const loaded = await byName('16 ground');
    const record = ShowerRecord.parse(JSON.parse(JSON.stringify(buildRecord(loaded, new Date()))));
    expect(record.entries).toHaveLength(loaded.rows.length);
    expect(record.readings.some((r) => r.counts === 'voided')).toBe(true);
    const sum = Object.values(record.figures.byState).reduce((a, b) => a + (b ?? 0), 0);
    expect(sum).toBeCloseTo(record.figures.totalMm, 6);
    expect(ShowerRecord.safeParse({ ...record, formatVersion: 2 }).success).toBe(false);
    expect(CALCULATIONS.map((c) => c.name)).toContain('lap-verdict');
  });

  it('is signed with the password, over the newest head, with every picture there', async () => {
    const ines = await server.as('ines');
    const { row } = await byName('14 loft');
    const tablet = testTablet('ines', row.id);
    const send = (entry: string, password = PASSWORD) =>
      ines.post(`/api/showers/${row.id}/sign`).send({ password, clock: new Date().toISOString(), entry });
    const body = { name: 'Ines', ledgerHash: row.headHash!, statement: 'as it says' };
    const entry = tablet.seal('record-signed', body);
    expect((await send(entry, 'wrong')).body.error.code).toBe('password-wrong');
    const old = testTablet('ines', row.id).seal('record-signed', { ...body, ledgerHash: 'f'.repeat(64) });
    expect((await send(old)).body.error.code).toBe('head-moved');
    expect((await send(testTablet('ines', row.id).seal('note', { words: 'x' }))).body.error.field).toBe('entry.kind');
    expect((await send(entry)).status).toBe(200);
    expect((await byName('14 loft')).state.signed.map((s) => s.body.name)).toEqual(['Ines']);
    await (await server.as('pavel')).post(`/api/showers/${row.id}/sign`).send({}).expect(403);
  });

  it('waits for pictures that are still on a tablet', async () => {
    const ines = await server.as('ines');
    const { row } = await byName('B7');
    const tablet = testTablet('ines', row.id);
    const photo = { hash: 'c'.repeat(64), widthPx: 4, heightPx: 3, marks: [] };
    await ines
      .post(`/api/showers/${row.id}/entries`)
      .send(push([tablet.seal('photo', { photo })]))
      .expect(200);
    const now = await byName('B7');
    const entry = tablet.seal('record-signed', { name: 'Ines', ledgerHash: now.row.headHash!, statement: 's' });
    const { body } = await ines
      .post(`/api/showers/${row.id}/sign`)
      .send({ password: PASSWORD, clock: new Date().toISOString(), entry });
    expect(body.error).toMatchObject({ code: 'pictures-pending', message: expect.stringContaining('1 pictures') });
    const pdf = await ines.get(`/api/showers/${row.id}/record.pdf`).expect(200);
    expect(pdf.body.subarray(0, 5).toString()).toBe('%PDF-');
  });
});
