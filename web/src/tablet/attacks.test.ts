import 'fake-indexeddb/auto';
import type { Person } from '@careful-seam/contract/api/messages';
import type { EntryKind } from '@careful-seam/core/log/bodies';
import type { Entry } from '@careful-seam/core/log/entry';
import { orderMs } from '@careful-seam/core/log/order';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';
import { v4 } from 'uuid';
import { beforeEach, describe, expect, it } from 'vitest';
import { responseOf, SimulatedServer } from '../tests/simulatedServer';
import { serverOver } from './api';
import { type Database, openDatabase, readKept } from './database';
import { onceFor, sameDrafts } from './once';
import { append, arrivalsOf, entriesOf, type Ports, type Writing, waiting } from './outbox';
import { emptyReport } from './round';
import { syncOnce } from './sync';

const ines: Person = { id: 'a', name: 'A', role: 'inspector', crewId: null };
let clock = Date.parse('2026-03-10T08:00:00Z');
/** What the tablet's clock shows beyond the truth. */
let aheadMs = 0;
const ports: Ports = {
  newId: v4,
  nowMs: () => {
    clock += 7;
    return clock + aheadMs;
  },
  offsetMinutes: () => 0,
};

let server: SimulatedServer;
/** What stands between tablet and server: an answer of its own, or null to let the request pass. */
let between: (method: string, path: string, body: string) => { status: number; json: unknown } | 'lost' | null;
beforeEach(() => {
  server = new SimulatedServer();
  between = () => null;
  aheadMs = 0;
});
const wire = serverOver(async (path, init) => {
  const own = between(init.method!, path, String(init.body ?? ''));
  if (own === 'lost') throw new TypeError('network');
  return responseOf(own ?? (await server.handle(init.method!, path, init.body)));
});
const sync = (db: Database, report = emptyReport()) => syncOnce(db, 'a', { server: wire, ports }, report);
const refusal = (code: string): { status: number; json: unknown } => ({
  status: 409,
  json: { error: { code, field: 'x', message: code } },
});

const write = (db: Database, showerId: string, kind: EntryKind, body: unknown) =>
  append(db, ports, [{ showerId, kind, body, person: ines, geometryVersion: 1 } as Writing<EntryKind>]);
async function begin(db: Database, showerId: string): Promise<void> {
  await write(db, showerId, 'shower-created', { name: 'n', job: 'j', crewId: 'heron', timeZone: 'UTC' });
  await write(db, showerId, 'geometry-set', { version: 1, geometry: sampleShower() });
  await write(db, showerId, 'rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
}
const texts = (showerId: string) =>
  (server.ledgers.get(showerId)?.places ?? []).map((p) => JSON.parse(p.text) as Entry);
const left = async (db: Database, showerId: string) => waiting(await entriesOf(db, showerId), 'a').length;

describe('a round that breaks', () => {
  it('has told what it brought until then, and the rule books that it missed come with the next', async () => {
    const [one, two, id] = [await openDatabase(v4()), await openDatabase(v4()), v4()];
    await begin(one, id);
    await sync(one);
    between = (_m, path) => (path.startsWith('/api/rule-books/') && !path.endsWith('newest') ? 'lost' : null);
    const key = `${BOOK.id}@${BOOK.version}`;
    const report = emptyReport();
    await two.delete('books', key);
    between = (_m, path) => (path.startsWith('/api/rule-books') ? 'lost' : null);
    await expect(sync(two, report)).rejects.toMatchObject({ code: 'offline' });
    expect([...report.changed]).toEqual([id]);
    expect(await two.get('books', key)).toBeUndefined();
    // Nothing new comes in the next round; what was missed is made up for all the same.
    between = (_m, path) => (path === '/api/rule-books/newest' ? refusal('not-found') : null);
    const next = emptyReport();
    await sync(two, next).catch(() => undefined);
    between = () => null;
    await sync(two, next);
    expect(next.books).toBe(true);
    expect(await two.get('books', key)).toBeDefined();
  });
});

describe('one sick shower', () => {
  const [sick, well] = [v4(), v4()];
  it.each<[string, ReturnType<typeof refusal>]>([
    ['that the server refuses', refusal('internal')],
    ['whose answer can not be read', { status: 200, json: { nonsense: true } }],
  ])('%s does not block the entries of the others', async (_name, answer) => {
    const db = await openDatabase(v4());
    await begin(db, sick);
    await begin(db, well);
    between = (method, path) => (method === 'POST' && path.includes(sick) ? answer : null);
    await expect(sync(db)).rejects.toThrow();
    expect([texts(well).length, await left(db, well), await left(db, sick)]).toEqual([3, 0, 3]);
    between = () => null;
    await sync(db);
    expect(await left(db, sick)).toBe(0);
    server = new SimulatedServer();
  });
});

describe('a draft', () => {
  it('that the server would refuse is never sealed: its field is named, and the chain goes on', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    const long = write(db, id, 'note', { words: 'x'.repeat(2001) });
    await expect(long).rejects.toMatchObject({ code: 'entry-invalid', field: 'body.words' });
    await expect(write(db, id, 'flood-ended', { lowestLevelMm: Number.NaN, verdict: 'pass' })).rejects.toThrow();
    expect(await entriesOf(db, id)).toHaveLength(3);
    await write(db, id, 'note', { words: 'x'.repeat(2000) });
    await sync(db);
    expect(texts(id).map((e) => e.deviceSeq)).toEqual([1, 2, 3, 4]);
  });

  it('of several entries is kept whole or not at all', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    const two = ['good', ''].map((words) => ({
      showerId: id,
      kind: 'note' as const,
      body: { words },
      person: ines,
      geometryVersion: 1,
    }));
    await expect(append(db, ports, two)).rejects.toMatchObject({ field: 'body.words' });
    expect(await entriesOf(db, id)).toHaveLength(3);
  });
});

describe('a signature', () => {
  const signature = { name: 'A', ledgerHash: 'x', statement: 's' };
  it('that was broken off does not hold back what was written after it', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    await write(db, id, 'record-signed', signature);
    await write(db, id, 'note', { words: 'after' });
    await sync(db);
    expect(texts(id)).toHaveLength(3);
    clock += 3 * 60_000;
    await sync(db);
    expect(texts(id).map((e) => e.kind)).toEqual(['shower-created', 'geometry-set', 'rules-pinned', 'note']);
    expect((await entriesOf(db, id)).find((e) => e.aside)?.text).toContain('record-signed');
  });

  it('that was refused is set aside at once', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    const [signed] = await write(db, id, 'record-signed', signature);
    await db.put('entries', { ...signed!, refused: { code: 'head-moved', field: 'x', message: 'm' } });
    await write(db, id, 'note', { words: 'after' });
    await sync(db);
    expect(texts(id).at(-1)!.kind).toBe('note');
  });
});

describe('a clock that runs ahead', () => {
  const HOUR = 3_600_000;
  /** The server's part: it refuses what is written ahead of its own time, and tells by how much the clock is off. */
  const strict = () => {
    between = (method, path, body) => {
      if (method !== 'POST' || !path.endsWith('/entries')) return null;
      const { entries, clock: theirs } = JSON.parse(body) as { entries: string[]; clock: string };
      const ahead = entries.map((t) => JSON.parse(t) as Entry).find((e) => orderMs(e.orderAt) > clock + 600_000);
      if (!ahead) return null;
      const refused = { id: ahead.id, code: 'clock-ahead', field: 'orderAt', message: 'ahead' };
      return { status: 200, json: { taken: [], refused, skewMs: clock - Date.parse(theirs) } };
    };
  };
  it('is set right: everything is sealed anew in its order with a sound clock, nothing typed is lost, and it is told', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    strict();
    aheadMs = 26 * HOUR;
    await begin(db, id);
    await write(db, id, 'note', { words: 'typed ahead of time' });
    const report = await sync(db);
    expect(report.resealed).toBe(4);
    const sent = texts(id);
    expect(sent.map((e) => e.kind)).toEqual(['shower-created', 'geometry-set', 'rules-pinned', 'note']);
    for (const e of sent) {
      expect(Math.abs(orderMs(e.orderAt) - clock)).toBeLessThan(60_000);
      expect(Math.abs(Date.parse(e.observedAt) - clock)).toBeLessThan(60_000);
    }
    const kept = (await entriesOf(db, id)).find((e) => e.text.includes('typed ahead'))!;
    expect(Date.parse(kept.clockWas!) - clock).toBeGreaterThan(25 * HOUR);
    // What is written next is by the sound clock at once.
    await write(db, id, 'note', { words: 'next' });
    expect((await sync(db)).resealed).toBe(0);
    expect(Math.abs(orderMs(texts(id).at(-1)!.orderAt) - clock)).toBeLessThan(60_000);
  });

  it('set right by hand afterwards is followed', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    strict();
    aheadMs = 26 * HOUR;
    await begin(db, id);
    await sync(db);
    expect((await readKept(db)).clockOffMs).toBeLessThan(-25 * HOUR);
    aheadMs = 0;
    between = (method, path, body) => {
      if (method !== 'POST' || !path.endsWith('/entries')) return null;
      const { entries, clock: theirs } = JSON.parse(body) as { entries: string[]; clock: string };
      const taken = entries.map((t, i) => ({
        id: (JSON.parse(t) as Entry).id,
        ledgerSeq: 4 + i,
        ledgerHash: 'h',
        receivedAt: new Date(clock).toISOString(),
      }));
      return { status: 200, json: { taken, refused: null, skewMs: clock - Date.parse(theirs) } };
    };
    await write(db, id, 'note', { words: 'now right' });
    await sync(db);
    expect(Math.abs((await readKept(db)).clockOffMs)).toBeLessThan(1000);
  });

  it('a little off is no harm: what it was off by comes with the entries', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    await sync(db);
    const arrivals = arrivalsOf(await entriesOf(db, id), -90_000);
    expect([...arrivals.values()].every((a) => a.skewMs === 0 && a.receivedAtMs !== null && !a.imported)).toBe(true);
    const [note] = await write(db, id, 'note', { words: 'not sent yet' });
    expect(arrivalsOf(await entriesOf(db, id), -90_000).get(note!.id)).toEqual({
      skewMs: -90_000,
      receivedAtMs: null,
      imported: false,
    });
  });
});

describe('an account that was renamed meanwhile', () => {
  it('what waits is sealed again under the name of the account, and nothing typed is lost', async () => {
    const [db, id] = [await openDatabase(v4()), v4()];
    await begin(db, id);
    await write(db, id, 'note', { words: 'by the old name' });
    between = (method, path, body) => {
      if (path === '/api/session')
        return {
          status: 200,
          json: { person: { ...ines, name: 'Ines Married' }, expiresAt: '2099-01-01T00:00:00.000Z' },
        };
      if (method !== 'POST' || !path.endsWith('/entries')) return null;
      const old = (JSON.parse(body) as { entries: string[] }).entries
        .map((t) => JSON.parse(t) as Entry)
        .find((e) => e.author.name !== 'Ines Married');
      if (!old) return null;
      const refused = { id: old.id, code: 'author-renamed', field: 'author.name', message: 'renamed' };
      return { status: 200, json: { taken: [], refused, skewMs: 0 } };
    };
    await sync(db);
    expect(texts(id).map((e) => e.kind)).toEqual(['shower-created', 'geometry-set', 'rules-pinned', 'note']);
    expect(new Set(texts(id).map((e) => e.author.name))).toEqual(new Set(['Ines Married']));
    expect((await readKept(db)).person?.name).toBe('Ines Married');
  });
});

describe('a double tap', () => {
  it('writes once; the same again a second later, or another thing at once, is written', async () => {
    let count = 0;
    const key = (words: string) => `shower ${sameDrafts([{ kind: 'note', body: { words } }])}`;
    const tap = (words: string, atMs: number) => onceFor(key(words), async () => [String(++count)], atMs);
    expect(await Promise.all([tap('a', 1000), tap('a', 1150)])).toEqual([['1'], ['1']]);
    expect(await tap('b', 1200)).toEqual(['2']);
    expect(await tap('b', 2400)).toEqual(['3']);
  });
  it('of what points to its own new entry is the same, whatever ids were made for it', () => {
    const drafts = (id: string) => [
      { kind: 'look' as const, id, body: { answer: 'defect' } },
      { kind: 'defect-found' as const, body: { about: id } },
    ];
    expect(sameDrafts(drafts(v4()))).toBe(sameDrafts(drafts(v4())));
    expect(sameDrafts(drafts(v4()))).not.toBe(sameDrafts([{ kind: 'note', body: {} }]));
  });
  it('may be tried again at once when it failed', async () => {
    let count = 0;
    const fail = () => onceFor('x', async () => Promise.reject(new Error(String(++count))), 1000);
    await expect(fail()).rejects.toThrow('1');
    await Promise.resolve();
    await expect(fail()).rejects.toThrow('2');
  });
});

describe('two tabs of one tablet', () => {
  it('write and send at the same time: one chain without gap or fork, each entry once', async () => {
    const [name, id] = [v4(), v4()];
    const [one, two] = [await openDatabase(name), await openDatabase(name)];
    await begin(one, id);
    await Promise.all(
      Array.from({ length: 20 }, (_, k) => write(k % 2 === 0 ? one : two, id, 'note', { words: String(k) })),
    );
    await Promise.allSettled([sync(one), sync(two)]);
    await Promise.all([write(one, id, 'note', { words: 'a' }), write(two, id, 'note', { words: 'b' })]);
    await sync(one);
    await sync(two);
    expect(texts(id).map((e) => e.deviceSeq)).toEqual(Array.from({ length: 25 }, (_, k) => k + 1));
    expect(new Set(texts(id).map((e) => e.deviceId)).size).toBe(1);
    expect(await left(two, id)).toBe(0);
  });
});
