import 'fake-indexeddb/auto';
import { seal } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { BOOK, begun } from '@careful-seam/core/tests/sampleTablet';
import { v4 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { type Database, openDatabase, readKept } from './database';
import { fold, readBooks } from './localShower';
import { readStored } from './readStored';
import { emptyShower, type StoredEntry } from './stored';

const SHOWER = v4();
const stored = (entry: object, more: Partial<StoredEntry> = {}): StoredEntry => {
  const { text, hash } = seal(entry as Entry);
  const { id, author, deviceId, deviceSeq } = entry as Entry;
  return {
    id,
    showerId: SHOWER,
    authorId: author.id,
    deviceId,
    deviceSeq,
    text,
    hash,
    ledgerSeq: 1,
    refused: null,
    ...more,
  };
};
const ENTRIES = begun().entries.map((e) => ({ ...e, showerId: SHOWER }));

/** A store with a sound shower, then changed as a hand or a failing disk would, and opened anew. */
async function reopened(change: (db: Database) => Promise<unknown>): Promise<Database> {
  const name = v4();
  const db = await openDatabase(name);
  await db.put('showers', { ...emptyShower(SHOWER), cursor: 3, booksAt: 3 });
  for (const entry of ENTRIES) await db.put('entries', stored(entry));
  await db.put('books', BOOK, `${BOOK.id}@${BOOK.version}`);
  await db.put('kept', { ...(await readKept(db)), since: 'here', devices: { me: 'device' }, book: 'e b@1' }, 'kept');
  await change(db);
  db.close();
  return openDatabase(name);
}
const foldIn = async (db: Database) => (await fold(db, await readBooks(db, 'en'), SHOWER))!;

describe('what lies in the store', () => {
  it('stays as it is where it is sound', async () => {
    const db = await reopened(async () => undefined);
    expect(await db.get('showers', SHOWER)).toMatchObject({ cursor: 3, booksAt: 3 });
    expect(await readKept(db)).toMatchObject({ since: 'here', book: 'e b@1' });
    expect(await foldIn(db)).toMatchObject({ unread: 0, state: { rules: { pinned: { method: 'bonded-sheet' } } } });
  });
  it('of a shower that can not be read is asked for from the beginning; its entries stay', async () => {
    const db = await reopened((d) =>
      d.put('showers', { id: SHOWER, row: { name: 7 }, cursor: 'three', chains: [], headHash: 5 } as never),
    );
    expect(await db.get('showers', SHOWER)).toMatchObject({
      cursor: 0,
      row: null,
      chains: {},
      headHash: null,
      bookless: 1,
    });
    expect((await foldIn(db)).entries).toHaveLength(ENTRIES.length);
  });
  it('of what is remembered is forgotten alone, and the next round asks from the beginning', async () => {
    const db = await reopened((d) =>
      d.put(
        'kept',
        { person: { id: 3 }, since: 'here', devices: { me: 'device' }, clockOffMs: 'late' } as never,
        'kept',
      ),
    );
    expect(await readKept(db)).toMatchObject({ person: null, clockOffMs: 0, devices: { me: 'device' }, since: null });
  });
  it('of a rule book is let go, and is looked for again for every shower', async () => {
    const db = await reopened((d) => d.put('books', { id: 'x' } as never, 'x@1'));
    expect(await db.getAllKeys('books')).toEqual([`${BOOK.id}@${BOOK.version}`]);
    expect(await db.get('showers', SHOWER)).toMatchObject({ bookless: 1 });
    expect((await readKept(db)).book).toBeNull();
  });
});

describe('an entry in the store', () => {
  const first = ENTRIES[0]!;
  it('that a later version wrote, or that is no entry at all, is kept, told and not counted', async () => {
    const later = { ...first, id: v4(), kind: 'smell-read', deviceSeq: 90 };
    const newer = { ...first, id: v4(), v: 99, deviceSeq: 91 };
    const db = await reopened(async (d) => {
      await d.put('entries', stored(later));
      await d.put('entries', stored(newer));
      await d.put('entries', { ...stored({ ...first, id: v4() }), text: '{"half' });
    });
    const shower = await foldIn(db);
    // Two of them have a hash of their own; the torn one has the hash of what it was.
    expect([shower.entries.length, shower.unread]).toEqual([ENTRIES.length + 3, 3]);
    expect(shower.state.created?.body).toEqual(first.body);
  });
  it('that only this tablet has is read whole: nothing that the server would refuse is shown as kept', () => {
    const odd = { ...first, id: v4(), body: { name: 5 } };
    expect(readStored(stored(odd, { ledgerSeq: null }))).toBeNull();
    expect(readStored(stored(first, { ledgerSeq: null }))).toEqual(first);
  });
});
