import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import type { MadeLink, RestoreState } from '@careful-seam/contract/api/office';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { NOT_KNOWN } from '@careful-seam/core/rules/notKnown';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import sharp from 'sharp';
import supertest from 'supertest';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeBackup, urlOf } from '../backup/makeBackup';
import { restoreBackup } from '../backup/restoreBackup';
import { currentEpoch } from '../firm/epoch';
import { makeAnchor } from '../ledger/anchors';
import { RuleBookEntity } from '../store/entities/firm';
import { MailEntity } from '../store/entities/mail';
import { LinkEntity } from '../store/entities/people';
import { EntryEntity } from '../store/entities/showers';
import { shipRuleBook } from '../store/shipRuleBook';
import {
  created,
  PASSWORD,
  PEOPLE,
  push,
  rowOf,
  type TestServer,
  testServer,
  testTablet,
  type Who,
} from '../tests/testServer';
import { verifyHead } from '../verify/verifyHead';
import { verifyLedger } from '../verify/verifyLedger';
import { verifyRecord } from '../verify/verifyRecord';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const nobody = () => supertest.agent(server.app).set('x-careful-seam', '1');

/** A shower with rules and one reading; gives its tablet and the path of its entries. */
async function shower(who: Who = 'ines', more: Partial<typeof created> = {}) {
  const agent = await server.as(who);
  const tablet = testTablet(who, v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  const entries = [
    tablet.seal('shower-created', { ...created, ...more }),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
    tablet.seal('rules-pinned', { ruleBook: 'firm-rule-book', version: 3, method: 'bonded-sheet' }),
  ];
  await agent.post(path).send(push(entries)).expect(200);
  return { agent, tablet, path };
}

async function linkTo(wanted: object): Promise<{ made: MadeLink; code: string }> {
  const maren = await server.as('maren');
  const { body } = await maren.post('/api/links').send(wanted).expect(200);
  return { made: body, code: body.path.split('/').at(-1) };
}
const crewLink = () =>
  linkTo({ kind: 'crew', crewId: 'heron', label: 'Phone of the Heron van', hours: 24, email: null });

describe('people', () => {
  it('are added, set their own password once by a link, and sign in', async () => {
    const maren = await server.as('maren');
    const input = { name: 'Nia', signIn: 'Nia.K', role: 'crew-lead', crewId: 'otter', email: 'nia@example.test' };
    const { body: nia } = await maren.post('/api/people').send(input).expect(200);
    expect(nia).toMatchObject({ signIn: 'nia.k', disabled: false });
    expect(nia.passwordHash).toBeUndefined();
    await maren.post('/api/people').send(input).expect(409);
    const { code, made } = await linkTo({ kind: 'password', userId: nia.id });
    expect(made.mailed).toBe(true);
    const short = await nobody().post('/api/password').send({ code, password: 'short' }).expect(422);
    expect(short.body.error.field).toBe('password');
    await nobody().post('/api/password').send({ code, password: 'a long enough one' }).expect(200);
    await nobody().post('/api/password').send({ code, password: 'a second time' }).expect(410);
    await nobody().post('/api/session').send({ signIn: 'nia.k', password: 'a long enough one' }).expect(200);
  });
  it('are disabled at once, on every tablet', async () => {
    const maren = await server.as('maren');
    const tomas = await server.as('tomas');
    const { id, name, role, crewId } = PEOPLE.tomas;
    const change = { name, role, crewId, email: null };
    await maren
      .put(`/api/people/${id}`)
      .send({ ...change, disabled: true })
      .expect(200);
    await tomas.get('/api/session').expect(401);
    await maren
      .put(`/api/people/${id}`)
      .send({ ...change, disabled: false })
      .expect(200);
  });
  it('keep one manager, and a crew lead a crew', async () => {
    const maren = await server.as('maren');
    const { id, name } = PEOPLE.maren;
    const change = { name, role: 'inspector', crewId: null, email: null, disabled: false };
    expect((await maren.put(`/api/people/${id}`).send(change)).body.error.code).toBe('last-manager');
    const lead = { ...change, role: 'crew-lead', name: 'X', signIn: 'x.y' };
    expect((await maren.post('/api/people').send(lead)).body.error.field).toBe('crewId');
  });
});

describe('links', () => {
  it('give crew-lead rights on one crew, and write down that it was the link', async () => {
    const { path } = await shower();
    const other = await shower('ines', { crewId: 'otter' });
    const { code } = await crewLink();
    const phone = nobody();
    const { body } = await phone.post('/api/session/link').send({ code }).expect(200);
    expect(body.person).toMatchObject({ role: 'crew-lead', crewId: 'heron', name: 'Phone of the Heron van (link)' });
    const ids = (await phone.get('/api/showers').expect(200)).body.showers.map((s: { id: string }) => s.id);
    expect(path).toContain(ids[0]);
    await phone.get(other.path).expect(403);
    await phone.get('/api/people').expect(403);
    const { body: audit } = await (await server.as('maren')).get('/api/audit').expect(200);
    expect(
      audit.lines.some((l: { did: string; who: string }) => l.did === 'link-opened' && l.who.includes('Heron van')),
    ).toBe(true);
  });
  it('guessed, revoked and expired ones all say the same', async () => {
    const guessed = await nobody().post('/api/session/link').send({ code: 'abc' }).expect(410);
    const { code, made } = await crewLink();
    const phone = nobody();
    await phone.post('/api/session/link').send({ code }).expect(200);
    await (await server.as('maren')).delete(`/api/links/${made.id}`).expect(200);
    const revoked = await nobody().post('/api/session/link').send({ code }).expect(410);
    await phone.get('/api/showers').expect(401);
    const late = await crewLink();
    await server.store.getRepository(LinkEntity).update({ id: late.made.id }, { expiresAt: new Date(0) });
    const expired = await nobody().post('/api/session/link').send({ code: late.code }).expect(410);
    expect([revoked.body, expired.body]).toEqual([guessed.body, guessed.body]);
  });
  it('live at most seven days for a crew, and keep no code readable', async () => {
    const wanted = { kind: 'crew', crewId: 'heron', label: 'x', hours: 169, email: null };
    await (await server.as('maren')).post('/api/links').send(wanted).expect(422);
    const { code } = await crewLink();
    expect(await server.store.getRepository(LinkEntity).countBy({ codeHash: code })).toBe(0);
  });
  it('show one record, read only, to whoever has it, and count it', async () => {
    const { tablet } = await shower();
    const { code } = await linkTo({
      kind: 'record',
      showerId: tablet.showerId,
      label: 'The owners',
      days: 30,
      email: 'owner@example.test',
    });
    const { body } = await nobody().get(`/api/shared-record/${code}`).expect(200);
    expect(body.shower.name).toBe(created.name);
    const pdf = await nobody().get(`/api/shared-record/${code}/record.pdf`).expect(200);
    expect(pdf.body.subarray(0, 5).toString()).toBe('%PDF-');
    await nobody().post('/api/session/link').send({ code }).expect(410);
    const { body: list } = await (await server.as('maren')).get('/api/links').expect(200);
    expect(list.links.find((l: { label: string }) => l.label === 'The owners')).toMatchObject({
      uses: 2,
      about: `${created.name}, ${created.job}`,
    });
    const mail = await server.store.getRepository(MailEntity).findOneByOrFail({ recipient: 'owner@example.test' });
    expect(mail.words).not.toContain(code);
    expect(mail.secret).toContain(`/r/${code}`);
    await nobody().get('/api/shared-record/guessed').expect(410);
  });
});

describe('the office', () => {
  it('keeps jobs with their site and time zone, and refuses a zone that does not exist', async () => {
    await shower('ines', { job: 'Quay 4' });
    const maren = await server.as('maren');
    await maren.put('/api/jobs/Quay%204').send({ address: '4 Quay', timeZone: 'America/Denver' }).expect(200);
    const bad = await maren.put('/api/jobs/Quay%204').send({ address: '', timeZone: 'Mars/North' }).expect(422);
    expect(bad.body.error.field).toBe('timeZone');
    const { body } = await maren.get('/api/jobs').expect(200);
    expect(body.jobs).toContainEqual({ name: 'Quay 4', address: '4 Quay', timeZone: 'America/Denver', showers: 1 });
  });
  it('finds showers by the beginnings of words, and gives crews their own alone', async () => {
    await shower('ines', { name: 'Upper bath', job: 'Linden Court' });
    await shower('ines', { name: 'Lower bath', job: 'Linden Court', crewId: 'otter' });
    const found = async (who: Who, q: string) =>
      (await (await server.as(who)).get(`/api/showers/search?q=${encodeURIComponent(q)}`).expect(200)).body.showers
        .length;
    expect([
      await found('ines', 'lind bath'),
      await found('pavel', 'lind bath'),
      await found('ines', "x'); DROP"),
    ]).toEqual([2, 1, 0]);
  });
  it('plans visits, which reach the tablet that is to have them', async () => {
    const { tablet } = await shower();
    const maren = await server.as('maren');
    const visitOn = new Date().toISOString().slice(0, 10);
    await maren
      .put(`/api/showers/${tablet.showerId}/visit`)
      .send({ inspectorId: PEOPLE.tomas.id, visitOn })
      .expect(200);
    const { body } = await (await server.as('tomas')).get(`/api/showers/${tablet.showerId}`).expect(200);
    expect(body).toMatchObject({ inspectorId: PEOPLE.tomas.id, visitOn });
    await maren
      .put(`/api/showers/${tablet.showerId}/visit`)
      .send({ inspectorId: PEOPLE.pavel.id, visitOn })
      .expect(422);
  });
  it('sets what holds for the firm, and the smallest leak as a new version of the rule book', async () => {
    const maren = await server.as('maren');
    const settings = { ...FIRST_SETTINGS, name: 'Firm of the test', unit: 'mm', hourRate: 62 };
    await maren.put('/api/firm/settings').send(settings).expect(200);
    expect((await maren.get('/api/firm').expect(200)).body.settings).toEqual(settings);
    await maren
      .put('/api/firm/settings')
      .send({ ...settings, currency: 'dollars' })
      .expect(422);
    const before = (await maren.get('/api/rule-books/newest').expect(200)).body.book.version;
    await maren.put('/api/firm/leak-limit').send({ smallestLeakMmPerDay: 1.5 }).expect(200);
    const { book } = (await maren.get('/api/rule-books/newest').expect(200)).body;
    expect(book.version).toBe(before + 1);
    expect(JSON.stringify(book)).toContain('"smallestLeakMmPerDay":1.5');
  });
  it('publishes a draft as the next version, and refuses what is no sound rule book or came too late', async () => {
    const maren = await server.as('maren');
    const newest = async () => (await maren.get('/api/rule-books/newest').expect(200)).body.book as RuleBook;
    const book = await newest();
    const put = (draft: unknown, basedOn = book.version) => maren.put('/api/rule-books').send({ book: draft, basedOn });
    const draft = structuredClone(book);
    const lap = draft.methods[0]!.stages.flatMap((s) => s.checks).find((c) => c.id === 'lap')!;
    Object.assign(lap, { limit: {} });
    expect((await put(draft).expect(422)).body.error.message).toContain('atLeastMm or atMostMm');
    Object.assign(lap, { limit: { atLeastMm: 63.5 } });
    expect((await put({ ...draft, id: 'another' }).expect(422)).body.error.field).toBe('id');
    await put(draft, book.version - 1).expect(409);
    expect((await newest()).version).toBe(book.version);
    await put(draft).expect(200);
    expect((await newest()).version).toBe(book.version + 1);
    const { books } = (await maren.get('/api/rule-books').expect(200)).body;
    expect(books.slice(0, 2).map((b: { version: number }) => b.version)).toEqual([book.version + 1, book.version]);
    const kept = (await maren.get(`/api/rule-books/${book.id}/${book.version}`).expect(200)).body.book;
    expect(JSON.stringify(kept)).toContain('"atLeastMm":50.8');
    const { lines } = (await maren.get('/api/audit').expect(200)).body;
    expect(lines.find((l: { did: string }) => l.did === 'rule-book-published').about).toContain('lap (bonded-sheet)');
  });
  it('ships a later book beside the firm’s own versions, once', async () => {
    const versions = async () =>
      (await server.store.getRepository(RuleBookEntity).find({ order: { version: 'ASC' } })).map((r) => r.version);
    const before = await versions();
    await shipRuleBook(server.store);
    await shipRuleBook(server.store);
    const after = await versions();
    expect(after).toEqual([...before, Math.max(defaultRuleBook().version, before.at(-1)! + 1)]);
  });
  it('a shipped book that comes later keeps the firm’s products, choices and smallest leak', async () => {
    const books = server.store.getRepository(RuleBookEntity);
    const row = (await books.find({ order: { version: 'DESC' } }))[0]!;
    const own = structuredClone(row.data) as RuleBook;
    own.shipped = 4;
    own.choices = { A39: 'b', gone: 'a' };
    own.productLines = [
      {
        id: 'own',
        name: 'Own',
        maker: 'One',
        kind: 'membrane',
        methods: ['liquid'],
        figures: {},
        readFrom: 'label',
        goesWith: [],
        ownPartsOnly: false,
      },
    ];
    const floods = (b: RuleBook) =>
      b.methods.flatMap((m) => m.stages.flatMap((st) => st.checks.filter((c) => c.kind === 'flood')));
    for (const check of floods(own)) if (check.kind === 'flood') check.smallestLeakMmPerDay = 0.7;
    // Older versions must not say that this shipped book was there already.
    for (const old of await books.find()) {
      const data = { ...(old.data as RuleBook), shipped: 4 };
      await books.update({ id: old.id, version: old.version }, { data: data as object });
    }
    await books.insert({ id: row.id, version: row.version + 1, data: { ...own, version: row.version + 1 } as object });
    await shipRuleBook(server.store);
    const newest = (await books.find({ order: { version: 'DESC' } }))[0]!;
    const shipped = newest.data as RuleBook;
    expect(newest.version).toBe(row.version + 2);
    expect(shipped.productLines.map((l) => l.id)).toEqual(['own']);
    expect(shipped.choices).toEqual({ A39: 'b' });
    expect(floods(shipped).every((c) => c.kind === 'flood' && c.smallestLeakMmPerDay === 0.7)).toBe(true);
    // Of a shower that others built nobody takes anything off.
    expect(shipped.methods.every((m) => m.takeOff.length > 0 || m.key === NOT_KNOWN)).toBe(true);
    await shipRuleBook(server.store);
    expect((await books.find({ order: { version: 'DESC' } }))[0]!.version).toBe(row.version + 2);
  });
  it('gives a defect to a crew and tells its lead by mail', async () => {
    const { agent, tablet, path } = await shower();
    const place = { element: 'floor' };
    const id = v4();
    await server.store.query('UPDATE firm_user SET email = $1 WHERE sign_in = $2', ['pavel@example.test', 'pavel']);
    const found = tablet.seal(
      'defect-found',
      { stage: 'base', place, kind: 'flat', severity: 'fix', words: '', photos: [] },
      { id },
    );
    const given = tablet.seal('defect-assigned', {
      defect: id,
      crewId: 'heron',
      words: 'Re-screed the left half',
      due: '2026-12-01',
    });
    await agent
      .post(path)
      .send(push([found, given]))
      .expect(200);
    const mail = await server.store.getRepository(MailEntity).findOneByOrFail({ recipient: 'pavel@example.test' });
    expect(mail.words).toContain('Re-screed the left half');
    const { body } = await (await server.as('maren')).get('/api/outbox').expect(200);
    expect([body.real, body.mail[0].subject, body.mail[0].language]).toEqual([
      false,
      `To put right: ${created.name}, ${created.job}`,
      'en',
    ]);
  });
  it('writes down who read a record and who tried to get in', async () => {
    const { agent, tablet } = await shower('ines', { name: 'Audited' });
    await agent.get(`/api/showers/${tablet.showerId}/record.json`).expect(200);
    await nobody().post('/api/session').send({ signIn: 'mallory', password: 'x' }).expect(401);
    const { body } = await (await server.as('maren')).get('/api/audit').expect(200);
    const has = (did: string, about: string) =>
      body.lines.some((l: { did: string; about: string }) => l.did === did && l.about.includes(about));
    expect([has('record-read', 'Audited'), has('sign-in-failed', 'mallory')]).toEqual([true, true]);
    await expect(server.store.query('DELETE FROM audit')).rejects.toThrow('append-only');
  });
});

describe('entries of somebody who can not send them any more', () => {
  it('are handed in by a manager, keep their author and are judged by that author', async () => {
    const { path } = await shower();
    const { code, made } = await crewLink();
    const phone = nobody();
    const { id } = (await phone.post('/api/session/link').send({ code }).expect(200)).body.person;
    const tablet = testTablet('pavel', path.split('/')[3]!);
    const note = tablet.seal('note', { words: 'written in the cellar' }, { authorId: id });
    const maren = await server.as('maren');
    const handIn = path.replace('entries', 'hand-in');
    expect((await maren.post(handIn).send(push([note]))).body.error.code).toBe('person-can-sign-in');
    await maren.delete(`/api/links/${made.id}`).expect(200);
    expect(
      (
        await maren
          .post(handIn)
          .send(push([note]))
          .expect(200)
      ).body.refused,
    ).toBeNull();
    const reading = tablet.seal('stage-reopened', { stage: 'base', reason: 'no' }, { authorId: id });
    expect(
      (
        await maren
          .post(handIn)
          .send(push([reading]))
          .expect(200)
      ).body.refused.code,
    ).toBe('role-may-not-write');
    expect(await server.store.getRepository(EntryEntity).countBy({ authorId: id })).toBe(1);
  });
});

describe("one's own password", () => {
  it('is changed by whoever knows the one in force; other tablets are signed out, this one goes on', async () => {
    const [here, there] = [await server.as('tomas'), await server.as('tomas')];
    const change = (old: string, password: string) => here.put('/api/password/own').send({ old, password });
    expect((await change('wrong', 'a new long password')).body.error).toMatchObject({
      code: 'password-not-in-force',
      field: 'old',
    });
    expect((await change(PASSWORD, 'short')).body.error.field).toBe('password');
    await there.get('/api/session').expect(200);
    await change(PASSWORD, 'a new long password').expect(200);
    await there.get('/api/session').expect(401);
    await here.get('/api/session').expect(200);
    await change('a new long password', PASSWORD).expect(200);
  });
  it('asking for what is not theirs is written down, once a minute and not more', async () => {
    const pavel = await server.as('pavel');
    for (let k = 0; k < 5; k += 1) await pavel.get('/api/people').expect(403);
    const { lines } = (await (await server.as('maren')).get('/api/audit').expect(200)).body;
    const refused = lines.filter(
      (l: { did: string; about: string }) => l.did === 'refused' && l.about.includes('/api/people'),
    );
    expect(refused.length).toBeGreaterThanOrEqual(1);
    expect(refused.length).toBeLessThanOrEqual(2);
    expect(refused[0].who).toBe('Pavel');
  });
});

describe('what stands behind a record', () => {
  async function signedShower() {
    const { agent, tablet } = await shower();
    const { headHash } = await rowOf(server.store, 'id', tablet.showerId);
    const entry = tablet.seal('record-signed', { name: 'Ines', ledgerHash: headHash!, statement: 'Seen by me.' });
    await agent
      .post(`/api/showers/${tablet.showerId}/sign`)
      .send({ password: PASSWORD, clock: new Date().toISOString(), entry })
      .expect(200);
    return { agent, id: tablet.showerId, headHash: headHash! };
  }
  it("is the firm's signature, which is checked without the server and breaks with any change", async () => {
    const { agent, id } = await signedShower();
    const { body: record } = await agent.get(`/api/showers/${id}/record.json`).expect(200);
    const { body: key } = await nobody().get('/api/firm/key').expect(200);
    expect(verifyRecord(record, key.publicKey)).toEqual([]);
    expect(verifyRecord({ ...record, madeAt: '2020-01-01T00:00:00.000Z' }, null)).toEqual(['signature']);
    const forged = structuredClone(record);
    forged.entries[0].text = forged.entries[0].text.replace(created.name, 'Another one');
    expect(verifyRecord(forged, null)).toEqual(['signature', 'entry-hash']);
    expect(verifyRecord(record, '-----BEGIN PUBLIC KEY-----')).toEqual(['other-key']);
    expect(verifyRecord({ some: 'file' }, null)).toEqual(['not-a-record']);
  });
  it('is the printed head: found in the ledger with everything before it, also when it has grown', async () => {
    const { id, headHash } = await signedShower();
    expect(await verifyHead(server.store, headHash)).toMatchObject({ found: true, place: 3, of: 4, whole: true });
    expect(await verifyHead(server.store, 'f'.repeat(64))).toEqual({ found: false });
    await server.store.query('ALTER TABLE entry DISABLE TRIGGER entries_stand');
    await server.store.query('UPDATE entry SET skew_ms = skew_ms + 1 WHERE shower_id = $1 AND ledger_seq = 2', [id]);
    expect(await verifyHead(server.store, headHash)).toMatchObject({ found: true, whole: false });
    await server.store.query('UPDATE entry SET skew_ms = skew_ms - 1 WHERE shower_id = $1 AND ledger_seq = 2', [id]);
    await server.store.query('ALTER TABLE entry ENABLE TRIGGER entries_stand');
  });
  it('is a daily anchor over the heads that moved, one a day, each chained to the one before', async () => {
    await shower();
    const first = await makeAnchor(server.store, new Date('2030-01-01T08:00:00Z'));
    expect(await makeAnchor(server.store, new Date('2030-01-01T20:00:00Z'))).toBeNull();
    await shower();
    const second = await makeAnchor(server.store, new Date('2030-01-02T08:00:00Z'));
    expect(JSON.parse(second!.text).previous).toBe(first!.hash);
    const faults = async () =>
      (await verifyLedger(server.store, server.picturePlace)).findings.filter((f) => f.where.startsWith('anchor'));
    expect(await faults()).toEqual([]);
    await server.store.query('ALTER TABLE anchor DISABLE TRIGGER anchor_stands');
    const forged = first!.text.replace(/"heads":\[\["[0-9a-f-]{36}"/, `"heads":[["${v4()}"`);
    await server.store.query('UPDATE anchor SET text = $1, hash = $2 WHERE seq = $3', [
      forged,
      sha256Hex(forged),
      first!.seq,
    ]);
    expect((await faults()).map((f) => f.what.slice(0, 20))).toEqual(['the head it names of', 'it does not follow t']);
    await server.store.query('UPDATE anchor SET text = $1, hash = $2 WHERE seq = $3', [
      first!.text,
      first!.hash,
      first!.seq,
    ]);
    await server.store.query('ALTER TABLE anchor ENABLE TRIGGER anchor_stands');
  });
});

describe('a backup', () => {
  const place = () => ({ url: urlOf(server.store), picturePlace: server.picturePlace, now: new Date() });
  const fileIn = () => join(mkdtempSync(join(tmpdir(), 'seam-test-backup-')), 'b.tar');

  it('brings everything back as it was, checked, under a new epoch; what came later goes', async () => {
    const { agent, tablet, path } = await shower('ines', { name: 'In the backup' });
    const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#557788' } })
      .jpeg()
      .toBuffer();
    await agent
      .put(`/api/photos/${sha256Hex(picture)}`)
      .set('content-type', 'image/jpeg')
      .send(picture)
      .expect(200);
    const file = fileIn();
    const made = await makeBackup(server.store, server.picturePlace, file, new Date());
    const epoch = await currentEpoch(server.store, new Date());
    await agent
      .post(path)
      .send(push([tablet.seal('note', { words: 'after the backup' })]))
      .expect(200);
    const found = await restoreBackup(file, place());
    const { madeAt, showers, entries, photos } = made;
    expect(found).toEqual({ madeAt, showers, entries, photos, findings: [] });
    const rows = await server.store.getRepository(EntryEntity).countBy({ showerId: tablet.showerId });
    expect(rows).toBe(3);
    expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
    expect(await currentEpoch(server.store, new Date())).not.toBe(epoch);
  });
  it('that was changed or cut off is refused before anything is touched', async () => {
    const { path, tablet } = await shower();
    const file = fileIn();
    await makeBackup(server.store, server.picturePlace, file, new Date());
    const bytes = readFileSync(file);
    const refused = async (change: (b: Buffer) => Buffer) => {
      const other = fileIn();
      writeFileSync(other, change(Buffer.from(bytes)));
      return restoreBackup(other, place()).catch((e: { code?: string }) => e.code);
    };
    const at = bytes.lastIndexOf('shower-created');
    expect(
      await refused((b) => {
        b[at]! ^= 0xff;
        return b;
      }),
    ).toBe('backup-database-changed');
    expect(['backup-unreadable', 'backup-database-changed', 'backup-rows-unfit']).toContain(
      await refused((b) => b.subarray(0, b.length / 2)),
    );
    expect(await refused(() => Buffer.from('this is no tar file'))).toBe('backup-unreadable');
    expect(await server.store.getRepository(EntryEntity).countBy({ showerId: tablet.showerId })).toBe(3);
    expect(path).toContain(tablet.showerId);
  });
  it('goes out and comes in over HTTP too, for managers', async () => {
    const maren = await server.as('maren');
    const file = await maren
      .get('/api/backup.tar')
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (p: Buffer) => parts.push(p));
        res.on('end', () => done(null, Buffer.concat(parts)));
      });
    expect(file.body.length).toBeGreaterThan(1000);
    const begin = (bytes: Buffer) => maren.post('/api/restore').set('content-type', 'application/x-tar').send(bytes);
    const over = async (): Promise<RestoreState> => {
      for (;;) {
        const { body, status } = await maren.get('/api/restore');
        // 503 in the moment in which the two databases change places.
        if (status !== 200) expect(status).toBe(503);
        else if (body.state !== 'running') return body;
        await new Promise((later) => setTimeout(later, 100));
      }
    };
    expect((await begin(file.body).expect(200)).body.state).toBe('running');
    // One at a time; meanwhile everybody is answered.
    expect((await begin(file.body)).body.error.code).toBe('restore-running');
    await maren.get('/api/session').expect(200);
    expect(await over()).toMatchObject({ state: 'done', found: { entries: expect.any(Number), faults: 0 } });
    await maren.get('/api/session').expect(200);
    await expect
      .poll(async () => (await maren.get('/api/audit')).body.lines.map((l: { did: string }) => l.did))
      .toContain('restored');
    await begin(Buffer.from('x')).expect(200);
    expect(await over()).toMatchObject({ state: 'failed', problem: { code: 'backup-unreadable' } });
  }, 120_000);
});
