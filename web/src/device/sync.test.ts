import 'fake-indexeddb/auto';
import type { Person } from '@careful-seam/contract/api/messages';
import type { Entry, EntryKind } from '@careful-seam/core/entries/entry';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';
import { v4 } from 'uuid';
import { beforeEach, describe, expect, it } from 'vitest';
import { SimulatedServer } from '../tests/simulatedServer';
import { type Server, serverOver } from './api';
import { type Database, openDatabase } from './database';
import { acknowledge, append, entriesOf, type Ports, showersWaiting, takeBack, type Writing, waiting } from './outbox';
import { sendPictures } from './pictures';
import { rechain } from './rechain';
import { isOffline, syncOnce as syncWith } from './sync';

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
  const { status, json } = await server.handle(init.method!, path, init.body);
  if (now === 'answer-lost') throw new TypeError('network');
  return new Response(JSON.stringify(json), { status });
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
    expect(asked).toEqual(['/api/firm', '/api/showers']);
    expect(used.filter((u) => /byShower|"showers","readwrite"/.test(u))).toEqual([]);
    // One entry more: its shower alone is read.
    await write(db, people[0]!, 'note', { words: 'one more' });
    expect(await showersWaiting(db)).toEqual([SHOWER]);
    asked.length = 0;
    await syncWith(watched, 'a', { server: counting, ports });
    expect(asked).toEqual(['/api/firm', '/api/showers', `/api/showers/${SHOWER}/entries`]);
    expect(await showersWaiting(db)).toEqual([]);
  });

  it('brings several showers at a time and counts them; when one fails the rest comes with the next round', async () => {
    const [one, two] = [await openDatabase(v4()), await openDatabase(v4())];
    const ids = Array.from({ length: 9 }, () => v4());
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
    let [running, most, asked] = [0, 0, 0];
    let broken = true;
    const slow: Server = {
      ...wire,
      call: async (shape, method, path, body) => {
        if (!path.includes('/entries?')) return wire.call(shape, method, path, body);
        running += 1;
        asked += 1;
        const mine = asked;
        most = Math.max(most, running);
        await new Promise((later) => setTimeout(later, 1));
        running -= 1;
        if (broken && mine === 6) throw new TypeError('broken');
        return wire.call(shape, method, path, body);
      },
    };
    const told: string[] = [];
    const round = () =>
      syncWith(two, 'b', { server: slow, ports, onPulled: (done, of) => told.push(`${done} of ${of}`) });
    await expect(round()).rejects.toThrow('broken');
    expect([most, running]).toEqual([4, 0]);
    const here = told.length;
    expect(here).toBeGreaterThan(4);
    expect(here).toBeLessThan(9);
    broken = false;
    await round();
    expect(told.at(-1)).toBe(`${9 - here} of ${9 - here}`);
    for (const id of ids) expect(await entriesOf(two, id)).toHaveLength(1);
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
    await db.delete('entries', lost!.id);
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
        refused: { id: bad!.id, code: 'forbidden', field: 'kind', message: 'No.' },
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
