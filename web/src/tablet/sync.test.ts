import 'fake-indexeddb/auto';
import type { Person } from '@careful-seam/contract/api/messages';
import type { EntryKind } from '@careful-seam/core/log/bodies';
import type { Entry } from '@careful-seam/core/log/entry';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';
import { v4 } from 'uuid';
import { beforeEach, describe, expect, it } from 'vitest';
import { responseOf, SimulatedServer } from '../tests/simulatedServer';
import { isOffline, type Server, serverOver } from './api';
import { type Database, openDatabase } from './database';
import {
  acknowledge,
  append,
  entriesOf,
  type Ports,
  showersWaiting,
  takeBack,
  takeIn,
  type Writing,
  waiting,
} from './outbox';
import { fetchCopies, letGoSent, sendPictures } from './pictures';
import { rechain } from './rechain';
import { emptyReport } from './round';
import { syncOnce as syncWith } from './sync';

const SHOWER = v4();
const people: Person[] = ['a', 'b', 'c'].map((id) => ({ id, name: id.toUpperCase(), role: 'inspector', crewId: null }));
let clock = 1_700_000_000_000;
const ports: Ports = { newId: v4, nowMs: () => (clock += 7), offsetMinutes: () => 0 };

type Fate = 'pass' | 'lost' | 'answer-lost';
let server: SimulatedServer;
/** Decides what happens to the next request: passed on, lost before, or its answer lost after. */
let fate: () => Fate;
beforeEach(() => {
  server = new SimulatedServer();
  fate = () => 'pass';
});
const wire = serverOver(async (path, init) => {
  const now = fate();
  if (now === 'lost') throw new TypeError('network');
  const answer = await server.handle(init.method!, path, init.body);
  if (now === 'answer-lost') throw new TypeError('network');
  return responseOf(answer);
});
const places = () => server.ledgers.get(SHOWER)?.places ?? [];
const syncOnce = (db: Database, personId: string) => syncWith(db, personId, { server: wire, ports });

const write = (db: Database, person: Person, kind: EntryKind, body: unknown) =>
  append(db, ports, [{ showerId: SHOWER, kind, body, person, geometryVersion: 1 } as Writing<EntryKind>]);

async function begin(db: Database): Promise<void> {
  await write(db, people[0]!, 'shower-created', { name: 'n', job: 'j', crewId: 'heron', timeZone: 'UTC' });
  await write(db, people[0]!, 'geometry-set', { version: 1, geometry: sampleShower() });
  await write(db, people[0]!, 'rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
}

describe('a round of sync', () => {
  it('sends what waits, brings what others wrote, keeps the rule book', async () => {
    const [one, two] = [await openDatabase(v4()), await openDatabase(v4())];
    await begin(one);
    const report = await syncOnce(one, 'a');
    expect([report.skewMs, places().length]).toEqual([0, 3]);
    await syncOnce(two, 'b');
    expect((await entriesOf(two, SHOWER)).length).toBe(3);
    expect(await two.get('books', `${BOOK.id}@${BOOK.version}`)).toEqual(BOOK);
    expect(waiting(await entriesOf(one, SHOWER), 'a')).toEqual([]);
  });

  it('that changes nothing reads no shower through, writes no row and fetches no rule book', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    await syncOnce(db, 'a');
    // The row names the ledger's head, which the first round moved.
    await syncOnce(db, 'a');
    expect(await showersWaiting(db)).toEqual([]);
    const asked: string[] = [];
    const used: string[] = [];
    const watched = new Proxy(db, {
      get: (target, key) => {
        const value: unknown = Reflect.get(target, key);
        if (typeof value !== 'function') return value;
        return (...args: unknown[]) => {
          used.push(`${String(key)} ${JSON.stringify(args.slice(0, 2))}`);
          return value.apply(target, args);
        };
      },
    });
    const counting: Server = {
      ...wire,
      call: (shape, method, path, body) => {
        asked.push(path);
        return wire.call(shape, method, path, body);
      },
    };
    const report = await syncWith(watched, 'a', { server: counting, ports });
    expect([...report.changed, report.books]).toEqual([false]);
    expect(asked).toEqual(['/api/sync']);
    expect(used.filter((u) => /byShower|"showers","readwrite"/.test(u))).toEqual([]);
    // One entry more: its shower alone is read.
    await write(db, people[0]!, 'note', { words: 'one more' });
    expect(await showersWaiting(db)).toEqual([SHOWER]);
    asked.length = 0;
    await syncWith(watched, 'a', { server: counting, ports });
    expect(asked).toEqual(['/api/sync', `/api/showers/${SHOWER}/entries`]);
    expect(await showersWaiting(db)).toEqual([]);
  });

  /** Many showers on the server, of one entry each, written by a first tablet. */
  async function many(count: number): Promise<string[]> {
    const one = await openDatabase(v4());
    const ids = Array.from({ length: count }, () => v4());
    for (const showerId of ids)
      await append(one, ports, [
        {
          showerId,
          kind: 'shower-created',
          body: { name: showerId, job: 'j', crewId: 'heron', timeZone: 'UTC' },
          person: people[0]!,
          geometryVersion: 0,
        },
      ]);
    await syncOnce(one, 'a');
    return ids;
  }
  const heads = async (db: Database) => (await db.getAll('entries')).length;

  it('brings 200 showers in two requests, told one by one', async () => {
    await many(200);
    const db = await openDatabase(v4());
    const asked: string[] = [];
    const counting = serverOver(async (path, init) => {
      asked.push(path);
      return responseOf(await server.handle(init.method!, path, init.body));
    });
    const told: string[] = [];
    const report = await syncWith(db, 'b', {
      server: counting,
      ports,
      onPulled: (done, of) => told.push(`${done} of ${of}`),
    });
    expect(asked.filter((p) => !p.includes('rule-books'))).toEqual(['/api/sync', '/api/sync/entries']);
    expect([told[0], told.at(-1), report.behind, await heads(db)]).toEqual(['1 of 200', '200 of 200', 0, 200]);
  });

  it('whose answer breaks off keeps what came, says what is missing, and brings the rest with the next', async () => {
    await many(200);
    const db = await openDatabase(v4());
    let whole = 0.4;
    const cut = serverOver(async (path, init) =>
      responseOf(await server.handle(init.method!, path, init.body), path.endsWith('/entries') ? whole : 1),
    );
    const report = emptyReport();
    const broken = await syncWith(db, 'b', { server: cut, ports }, report).catch((e: unknown) => e);
    expect(isOffline(broken)).toBe(true);
    const here = await heads(db);
    expect([here > 50 && here < 100, report.behind, report.changed.size]).toEqual([true, 200 - here, 200]);
    whole = 1;
    await syncWith(db, 'b', { server: cut, ports }, report);
    expect([await heads(db), report.behind]).toEqual([200, 0]);
  });

  it('sends what was typed before it fetches: an answer that breaks off holds nothing of it up', async () => {
    const [one, two] = [await openDatabase(v4()), await openDatabase(v4())];
    await begin(one);
    await syncOnce(one, 'a');
    await syncOnce(two, 'b');
    await many(40);
    await write(two, people[1]!, 'note', { words: 'typed in the cellar' });
    const before = places().length;
    const deaf = serverOver(async (path, init) => {
      if (path === '/api/sync/entries') throw new TypeError('network');
      return responseOf(await server.handle(init.method!, path, init.body));
    });
    expect(isOffline(await syncWith(two, 'b', { server: deaf, ports }).catch((e: unknown) => e))).toBe(true);
    expect(places().length).toBe(before + 1);
  });

  it('one shower that can not be read holds no other back, and is named as missing', async () => {
    const ids = await many(5);
    const db = await openDatabase(v4());
    const spoilt = serverOver(async (path, init) => {
      const answer = await server.handle(init.method!, path, init.body);
      const lines = answer.lines?.map((line) => ((line as { id: string }).id === ids[2] ? { id: ids[2] } : line));
      return responseOf(lines ? { ...answer, lines } : answer);
    });
    const report = emptyReport();
    await expect(syncWith(db, 'b', { server: spoilt, ports }, report)).rejects.toThrow();
    expect([await heads(db), report.behind]).toEqual([4, 1]);
    await syncOnce(db, 'b');
    expect(await heads(db)).toBe(5);
  });

  it('goes on with a shower that a tablet took along, whatever it should hold by itself, also after a restore', async () => {
    const ids = await many(3);
    const [old, other] = [ids[0]!, ids[1]!];
    server.keeps = (id) => id !== old && id !== other;
    const db = await openDatabase(v4());
    await syncOnce(db, 'b');
    expect(await heads(db)).toBe(1);
    // It was found by its name and opened: from then on this tablet hears of it.
    await takeIn(db, old, await server.ledgers.get(old)!.after(0));
    const note = (showerId: string, words: string) =>
      append(db, ports, [{ showerId, kind: 'note', body: { words }, person: people[1]!, geometryVersion: 0 }]);
    await note(old, 'from here');
    await syncOnce(db, 'b');
    const two = await openDatabase(v4());
    await takeIn(two, old, await server.ledgers.get(old)!.after(0));
    await append(two, ports, [
      { showerId: old, kind: 'note', body: { words: 'a hold' }, person: people[2]!, geometryVersion: 0 },
    ]);
    await syncOnce(two, 'c');
    await syncOnce(db, 'b');
    expect((await entriesOf(db, old)).map((e) => e.text).join()).toContain('a hold');
    // A shower that nobody here ever had leaves no trace.
    expect(await db.get('showers', other)).toBeUndefined();
    const backup = server.backup();
    await note(old, 'after the backup');
    await syncOnce(db, 'b');
    server.restore(backup);
    const report = await syncOnce(db, 'b');
    expect(report.restored).toBe(true);
    expect(await showersWaiting(db)).toEqual([]);
    expect((await server.ledgers.get(old)!.after(0)).map((e) => e.text).join()).toContain('after the backup');
  });

  it('fetches the rule book anew after a restore: the same number may be another book', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    expect((await syncOnce(db, 'a')).books).toBe(true);
    expect((await syncOnce(db, 'a')).books).toBe(false);
    server.restore(server.backup());
    expect((await syncOnce(db, 'a')).books).toBe(true);
  });

  it('may run while entries are written: the chain keeps one place for each', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    let left = 6;
    const slow = new Proxy(db, {
      get: (target, key) => {
        if (key === 'get') return (store: 'showers', id: string) => readThenWrite(target, store, id);
        const value: unknown = Reflect.get(target, key);
        return typeof value === 'function' ? value.bind(target) : value;
      },
    });
    const readThenWrite = async (target: Database, store: 'showers', id: string) => {
      const value = await target.get(store, id);
      left -= 1;
      if (store === 'showers' && left >= 0)
        await write(db, people[0]!, 'note', { words: 'typed while sync was reading' });
      return value;
    };
    await syncOnce(slow, 'a');
    await syncOnce(slow, 'a');
    await syncOnce(db, 'a');
    await write(db, people[0]!, 'note', { words: 'last' });
    await syncOnce(db, 'a');
    const seqs = (await entriesOf(db, SHOWER)).map((e) => e.deviceSeq).sort((a, b) => a - b);
    expect(seqs).toEqual(seqs.map((_, k) => k + 1));
    expect(places()).toHaveLength(seqs.length);
    expect(seqs.length).toBeGreaterThan(4);
  });

  it('never sends a signature by itself, and one that was not given leaves the chain again', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    const [signed] = await write(db, people[0]!, 'record-signed', { name: 'A', ledgerHash: 'x', statement: 's' });
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(3);
    await takeBack(db, signed!);
    await write(db, people[0]!, 'note', { words: 'after' });
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(4);
  });

  it('of a copied tablet goes on under a new device number', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    const copy = (await db.get('showers', SHOWER))!;
    await write(db, people[0]!, 'note', { words: 'on the first' });
    await syncOnce(db, 'a');
    const [lost] = (await entriesOf(db, SHOWER)).filter((e) => e.deviceSeq === 4);
    await db.delete('entries', [SHOWER, lost!.id]);
    await db.put('showers', { ...copy, cursor: 3 });
    await write(db, people[0]!, 'note', { words: 'on the copy' });
    await syncOnce(db, 'a');
    await syncOnce(db, 'a');
    const texts = places().map((e) => JSON.parse(e.text) as Entry);
    expect(texts.map((e) => (e.kind === 'note' ? e.body.words : e.kind)).slice(3)).toEqual([
      'on the first',
      'on the copy',
    ]);
    expect(texts[4]!.deviceId).not.toBe(texts[3]!.deviceId);
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toEqual([]);
  });

  it('lets a refused entry be set aside: it stays on the tablet, the ones after it go out', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    await syncOnce(db, 'a');
    const [bad] = await write(db, people[0]!, 'note', { words: 'refused' });
    await write(db, people[0]!, 'note', { words: 'after' });
    await acknowledge(
      db,
      SHOWER,
      {
        taken: [],
        refused: { id: bad!.id, code: 'role-may-not-write', field: 'kind', values: {}, message: 'No.' },
        skewMs: 0,
      },
      await entriesOf(db, SHOWER),
    );
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(3);
    expect(await rechain(db, SHOWER, 'a', v4, bad!.id)).toBe(1);
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(4);
    expect((await entriesOf(db, SHOWER)).find((e) => e.id === bad!.id)).toMatchObject({ aside: true, ledgerSeq: null });
  });

  it('sends pictures once', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    await db.put('photos', {
      hash: 'f'.repeat(64),
      blob: new Blob(['x'], { type: 'image/jpeg' }),
      widthPx: 1,
      heightPx: 1,
      sent: false,
    });
    expect([await sendPictures(db, wire), await sendPictures(db, wire)]).toEqual([1, 0]);
    expect([server.photos.size, (await db.get('photos', 'f'.repeat(64)))!.sent]).toEqual([1, true]);

    // In the same week it stays whole, and so does for ever what the server has not confirmed; then a smaller copy stands for it.
    const week = 7 * 24 * 3_600_000;
    const taken = (await db.get('photos', 'f'.repeat(64)))!.takenMs ?? 0;
    await db.put('photos', { ...(await db.get('photos', 'f'.repeat(64)))!, hash: 'e'.repeat(64), sent: false });
    await letGoSent(db, taken + week);
    expect(await db.count('photos')).toBe(2);
    await letGoSent(db, taken + week + 1);
    expect(await db.getAllKeys('photos')).toEqual(['e'.repeat(64)]);
    expect((await db.getAll('wanted')).map((w) => w.hash)).toEqual(['f'.repeat(64)]);
  });

  it('brings pictures that arrive after their entries, the newest first, and goes on in the next round', async () => {
    const [one, two] = [await openDatabase(v4()), await openDatabase(v4())];
    await begin(one);
    const hashes = Array.from({ length: 45 }, (_, k) => k.toString(16).padStart(64, '0'));
    for (const hash of hashes)
      await write(one, people[0]!, 'photo', {
        photo: { hash, widthPx: 1, heightPx: 1, marks: [] },
      });
    await syncOnce(one, 'a');
    await syncOnce(two, 'b');
    await fetchCopies(two, wire, ports.nowMs());
    expect(await two.count('small')).toBe(0);
    for (const hash of hashes.slice(1)) server.photos.add(hash);
    // Asked a moment ago: not asked again at once, but after a while, though nothing of the shower moved.
    await fetchCopies(two, wire, ports.nowMs());
    expect(await two.count('small')).toBe(4);
    clock += 10_000;
    fate = () => 'lost';
    expect(isOffline(await fetchCopies(two, wire, ports.nowMs()).catch((e: unknown) => e))).toBe(true);
    fate = () => 'pass';
    await fetchCopies(two, wire, ports.nowMs());
    expect(await two.count('small')).toBe(44);
    expect((await two.getAll('wanted')).map((w) => [w.hash, w.tries])).toEqual([[hashes[0], 1]]);
    server.photos.add(hashes[0]!);
    clock += 3_600_000;
    await fetchCopies(two, wire, ports.nowMs());
    expect([await two.count('small'), await two.count('wanted')]).toEqual([45, 0]);
  });

  it('says that there is no network, and loses nothing', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    fate = () => 'lost';
    const error = await syncOnce(db, 'a').catch((e: unknown) => e);
    expect(isOffline(error)).toBe(true);
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toHaveLength(3);
  });

  it('an answer that was lost is asked again without doubling anything', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    let calls = 0;
    fate = () => (++calls === 3 ? 'answer-lost' : 'pass');
    await syncOnce(db, 'a').catch(() => undefined);
    expect(places()).toHaveLength(3);
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(3);
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toEqual([]);
  });

  it('sends a queue of 5,000 entries in order, also when the network breaks in the middle', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    const notes = Array.from({ length: 5000 }, (_, k) => ({ kind: 'note' as const, body: { words: String(k) } }));
    await append(
      db,
      ports,
      notes.map((n) => ({ ...n, showerId: SHOWER, person: people[0]!, geometryVersion: 1 })),
    );
    let calls = 0;
    fate = () => (++calls === 7 ? 'answer-lost' : 'pass');
    await syncOnce(db, 'a').catch(() => undefined);
    await syncOnce(db, 'a');
    expect(places()).toHaveLength(5003);
    const words = places()
      .slice(3)
      .map((p) => (JSON.parse(p.text) as { body: { words: string } }).body.words);
    expect(words).toEqual(notes.map((n) => n.body.words));
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toEqual([]);
  });
});
