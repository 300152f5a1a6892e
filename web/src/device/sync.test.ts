import 'fake-indexeddb/auto';
import type { Person, PulledEntry } from '@careful-seam/contract/api/messages';
import { canonicalText, continuesChain, ledgerHash, sha256Hex } from '@careful-seam/core/entries/chain';
import type { Entry, EntryKind } from '@careful-seam/core/entries/entry';
import { foldShower } from '@careful-seam/core/proof/foldShower';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';
import fc from 'fast-check';
import { v4 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Database, openDatabase } from './database';
import { acknowledge, append, entriesOf, type Ports, takeBack, type Writing, waiting } from './outbox';
import { rechain } from './rechain';
import { isOffline, syncOnce } from './sync';

const SHOWER = v4();
const people: Person[] = ['a', 'b', 'c'].map((id) => ({ id, name: id.toUpperCase(), role: 'inspector', crewId: null }));
let clock = 1_700_000_000_000;
const ports: Ports = { newId: v4, nowMs: () => (clock += 7), offsetMinutes: () => 0 };

/** A server in memory with the real server's manners: one ledger, chains without gaps, the same entry twice as one. */
class MemoryServer {
  ledger: PulledEntry[] = [];
  photos = new Set<string>();
  /** Decides what happens to the next request: passed on, lost before, or its answer lost after. */
  fate: () => 'pass' | 'lost' | 'answer-lost' = () => 'pass';

  handle(method: string, path: string, body: string | null): { status: number; json: unknown } {
    const url = new URL(path, 'http://x');
    if (url.pathname === '/api/crews') return { status: 200, json: { crews: [{ id: 'heron', name: 'Heron' }] } };
    if (url.pathname.startsWith('/api/rule-books')) return { status: 200, json: { book: BOOK } };
    if (url.pathname.startsWith('/api/photos/')) {
      const hash = url.pathname.split('/').at(-1)!;
      this.photos.add(hash);
      return { status: 200, json: { hash, widthPx: 1, heightPx: 1 } };
    }
    if (url.pathname === '/api/showers') {
      const head = this.ledger.at(-1);
      const row = {
        id: SHOWER,
        name: 'n',
        job: 'j',
        crewId: 'heron',
        headSeq: this.ledger.length,
        headHash: head?.ledgerHash ?? null,
        updatedAt: '',
      };
      return { status: 200, json: { showers: head ? [row] : [] } };
    }
    if (method === 'GET')
      return {
        status: 200,
        json: { entries: this.ledger.filter((e) => e.ledgerSeq > Number(url.searchParams.get('after'))), more: false },
      };
    return this.take((JSON.parse(body!) as { entries: string[] }).entries);
  }

  private take(texts: string[]): { status: number; json: unknown } {
    const taken: unknown[] = [];
    for (const text of texts) {
      const entry = JSON.parse(text) as Entry;
      expect(canonicalText(entry)).toBe(text);
      const known = this.ledger.find((e) => e.text === text);
      if (!known) {
        const mine = this.ledger.filter((e) => (JSON.parse(e.text) as Entry).deviceId === entry.deviceId).at(-1);
        const last = mine ? { deviceSeq: (JSON.parse(mine.text) as Entry).deviceSeq, hash: mine.hash } : null;
        const chained = continuesChain(entry, last);
        if (!chained.ok)
          return { status: 200, json: { taken, refused: { id: entry.id, ...chained.problem }, skewMs: 0 } };
        const link = {
          ledgerSeq: this.ledger.length + 1,
          entryHash: sha256Hex(text),
          prevLedgerHash: this.ledger.at(-1)?.ledgerHash ?? null,
          receivedAt: '2026-01-01T00:00:00.000Z',
          skewMs: 0,
        };
        this.ledger.push({
          text,
          hash: link.entryHash,
          ledgerSeq: link.ledgerSeq,
          ledgerHash: ledgerHash(link),
          receivedAt: link.receivedAt,
        });
      }
      const { ledgerSeq, ledgerHash: hash, receivedAt } = known ?? this.ledger.at(-1)!;
      taken.push({ id: entry.id, ledgerSeq, ledgerHash: hash, receivedAt });
    }
    return { status: 200, json: { taken, refused: null, skewMs: -3 } };
  }

  fetch = async (path: string, init: { method: string; body?: string }): Promise<Response> => {
    const fate = this.fate();
    if (fate === 'lost') throw new TypeError('network');
    const { status, json } = this.handle(init.method, path, typeof init.body === 'string' ? init.body : null);
    if (fate === 'answer-lost') throw new TypeError('network');
    return new Response(JSON.stringify(json), { status });
  };
}

let server: MemoryServer;
beforeEach(() => {
  server = new MemoryServer();
  vi.stubGlobal('fetch', server.fetch);
});
afterEach(() => vi.unstubAllGlobals());

const write = (db: Database, person: Person, kind: EntryKind, body: unknown) =>
  append(db, ports, [{ showerId: SHOWER, kind, body, person, geometryVersion: 1 } as Writing<EntryKind>]);

async function begin(db: Database): Promise<void> {
  await write(db, people[0]!, 'shower-created', { name: 'n', job: 'j', crewId: 'heron', timeZone: 'UTC' });
  await write(db, people[0]!, 'geometry-set', { version: 1, geometry: sampleShower() });
  await write(db, people[0]!, 'rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
}

const stateOf = async (db: Database) =>
  foldShower(
    (await entriesOf(db, SHOWER)).map((e) => JSON.parse(e.text) as Entry),
    () => BOOK,
  );

describe('a round of sync', () => {
  it('sends what waits, brings what others wrote, keeps the rule book', async () => {
    const [one, two] = [await openDatabase(v4()), await openDatabase(v4())];
    await begin(one);
    const report = await syncOnce(one, 'a');
    expect([report.skewMs, server.ledger.length]).toEqual([-3, 3]);
    await syncOnce(two, 'b');
    expect((await entriesOf(two, SHOWER)).length).toBe(3);
    expect(await two.get('books', `${BOOK.id}@${BOOK.version}`)).toEqual(BOOK);
    expect(waiting(await entriesOf(one, SHOWER), 'a')).toEqual([]);
  });

  it('may run while entries are written: the chain keeps one place for each', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    const slow = new Proxy(db, {
      get: (target, key) => {
        if (key === 'get') return (store: 'showers', id: string) => readThenWrite(target, store, id);
        const value: unknown = Reflect.get(target, key);
        return typeof value === 'function' ? value.bind(target) : value;
      },
    });
    const readThenWrite = async (target: Database, store: 'showers', id: string) => {
      const value = await target.get(store, id);
      if (store === 'showers') await write(db, people[0]!, 'note', { words: 'typed while sync was reading' });
      return value;
    };
    await syncOnce(slow, 'a');
    await syncOnce(slow, 'a');
    await syncOnce(db, 'a');
    await write(db, people[0]!, 'note', { words: 'last' });
    await syncOnce(db, 'a');
    const seqs = (await entriesOf(db, SHOWER)).map((e) => e.deviceSeq).sort((a, b) => a - b);
    expect(seqs).toEqual(seqs.map((_, k) => k + 1));
    expect(server.ledger).toHaveLength(seqs.length);
    expect(seqs.length).toBeGreaterThan(4);
  });

  it('never sends a signature by itself, and one that was not given leaves the chain again', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    const [signed] = await write(db, people[0]!, 'record-signed', { name: 'A', ledgerHash: 'x', statement: 's' });
    await syncOnce(db, 'a');
    expect(server.ledger).toHaveLength(3);
    await takeBack(db, signed!);
    await write(db, people[0]!, 'note', { words: 'after' });
    await syncOnce(db, 'a');
    expect(server.ledger).toHaveLength(4);
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
    const texts = server.ledger.map((e) => JSON.parse(e.text) as Entry);
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
    await acknowledge(db, {
      taken: [],
      refused: { id: bad!.id, code: 'forbidden', field: 'kind', message: 'No.' },
      skewMs: 0,
    });
    await syncOnce(db, 'a');
    expect(server.ledger).toHaveLength(3);
    expect(await rechain(db, SHOWER, 'a', v4, bad!.id)).toBe(1);
    await syncOnce(db, 'a');
    expect(server.ledger).toHaveLength(4);
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
    await syncOnce(db, 'a');
    expect([server.photos.size, (await db.get('photos', 'f'.repeat(64)))!.sent]).toEqual([1, true]);
  });

  it('says that there is no network, and loses nothing', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    server.fate = () => 'lost';
    const error = await syncOnce(db, 'a').catch((e: unknown) => e);
    expect(isOffline(error)).toBe(true);
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toHaveLength(3);
  });

  it('an answer that was lost is asked again without doubling anything', async () => {
    const db = await openDatabase(v4());
    await begin(db);
    let calls = 0;
    server.fate = () => (++calls === 2 ? 'answer-lost' : 'pass');
    await syncOnce(db, 'a').catch(() => undefined);
    expect(server.ledger).toHaveLength(3);
    await syncOnce(db, 'a');
    expect(server.ledger).toHaveLength(3);
    expect(waiting(await entriesOf(db, SHOWER), 'a')).toEqual([]);
  });
});

describe('many tablets on a bad network', () => {
  // A seed that finds a fault becomes a named test of its own.
  it('end in the same state and lose nothing, 25 seeds', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 2 }), fc.integer({ min: 30, max: 70 }), fc.boolean()), {
          minLength: 3,
          maxLength: 14,
        }),
        fc.infiniteStream(fc.integer({ min: 0, max: 9 })),
        async (steps, luck) => {
          server = new MemoryServer();
          vi.stubGlobal('fetch', server.fetch);
          const tablets = await Promise.all(people.map(() => openDatabase(v4())));
          await begin(tablets[0]!);
          await syncOnce(tablets[0]!, 'a');
          await Promise.all(tablets.map((db, i) => syncOnce(db, people[i]!.id)));
          server.fate = () => (['lost', 'answer-lost', 'lost'] as const)[luck.next().value as number] ?? 'pass';
          for (const [k, valueMm, sync] of steps) {
            const place = { element: 'floor-wall|floor|wall:back', side: 'floor', lengthMm: 1524 };
            await write(tablets[k]!, people[k]!, 'reading', {
              stage: 'membrane',
              check: 'lap',
              place,
              atMm: valueMm * 10,
              valueMm,
              typed: String(valueMm),
              instrument: 'tape',
            });
            if (sync) await syncOnce(tablets[k]!, people[k]!.id).catch(() => undefined);
          }
          server.fate = () => 'pass';
          for (let round = 0; round < 2; round += 1)
            for (const [i, db] of tablets.entries()) await syncOnce(db, people[i]!.id);
          expect(server.ledger).toHaveLength(3 + steps.length);
          const states = await Promise.all(tablets.map(stateOf));
          expect(states[1]).toEqual(states[0]);
          expect(states[2]).toEqual(states[0]);
        },
      ),
      { numRuns: 25 },
    );
  });
});
