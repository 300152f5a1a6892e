import type { Entry } from '@careful-seam/core/log/entry';
import { photosNeeded } from '@careful-seam/core/log/photosNeeded';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type DBSchema, type IDBPDatabase, type IDBPTransaction, openDB, type StoreNames } from 'idb';
import type { StoredDraft } from './drafts';
import {
  type Kept,
  mendKept,
  mendShower,
  NOTHING_KEPT,
  type SmallPicture,
  type StoredEntry,
  type StoredPhoto,
  type StoredShower,
  type WantedPicture,
} from './stored';

/** The rooms of the store, with what finds what in them. */
interface Schema extends DBSchema {
  /** By shower and id; those that wait are found without reading any other. */
  entries: { key: [string, string]; value: StoredEntry; indexes: { byShower: string; byWaiting: number } };
  /** By id; those that lag or miss a rule book are found without reading any other. */
  showers: { key: string; value: StoredShower; indexes: { byLag: number; byBookless: number } };
  /** Pictures that were taken here, by hash. */
  photos: { key: string; value: StoredPhoto };
  /** Smaller copies of pictures from elsewhere, the oldest first. */
  small: { key: string; value: SmallPicture; indexes: { byOrder: string } };
  /** Pictures that are named and not here. */
  wanted: { key: string; value: WantedPicture };
  /** Rule books, by `bookKey`. */
  books: { key: string; value: RuleBook };
  /** What was typed and not kept yet. */
  drafts: { key: string; value: StoredDraft };
  /** One row: what is remembered beside showers. */
  kept: { key: string; value: Kept };
}
/** The store of this tablet. */
export type Database = IDBPDatabase<Schema>;

/** Of the store; a step up is an upgrade below. */
const VERSION = 6;

/**
 * Opens the tablet's own store; an older one is brought up to date with everything in it. `onOutdated` is called when
 * a newer program opens it in another window: this one must let go. The name is an argument so that tests have theirs.
 */
export async function openDatabase(name = 'careful-seam', onOutdated?: () => void): Promise<Database> {
  const db = await openDB<Schema>(name, VERSION, {
    async upgrade(db, from, _to, tx) {
      if (from < 1) {
        db.createObjectStore('entries', { keyPath: 'id' }).createIndex('byShower', 'showerId');
        db.createObjectStore('showers', { keyPath: 'id' });
        db.createObjectStore('photos', { keyPath: 'hash' });
        db.createObjectStore('books');
        db.createObjectStore('kept');
      }
      if (from < 2) db.createObjectStore('small', { keyPath: 'hash' });
      if (from < 3) {
        const entries = tx.objectStore('entries');
        entries.createIndex('byWaiting', 'waits');
        for (const entry of await entries.getAll())
          if (entry.ledgerSeq === null) await entries.put({ ...entry, waits: 1 });
      }
      if (from < 4) await keyByShower(db, tx);
      if (from < 5) await listWanted(db, tx);
      if (from < 6) db.createObjectStore('drafts', { keyPath: 'key' });
    },
    blocking(_now, _wanted, event) {
      (event.target as IDBDatabase | null)?.close();
      onOutdated?.();
    },
  });
  await readThrough(db);
  return db;
}

/**
 * What lies in the store is read through its schemas once, when it is opened: what can't be read of a shower or of what is
 * remembered is taken as not known, and is fetched again; a rule book that can't be read is let go for the same. Entries are
 * read when they are needed, since they are many, and none is ever thrown away.
 */
async function readThrough(db: Database): Promise<void> {
  const tx = db.transaction(['showers', 'kept', 'books'], 'readwrite');
  const [showers, kept, books] = [tx.objectStore('showers'), tx.objectStore('kept'), tx.objectStore('books')];
  const [keys, values] = [await books.getAllKeys(), await books.getAll()];
  const unread = keys.filter((_, i) => !RuleBook.safeParse(values[i]).success);
  for (const key of unread) void books.delete(key);
  for (const stored of await showers.getAll()) {
    const { row, lost } = mendShower(stored.id, stored);
    const { booksAt: _, ...without } = row;
    if (unread.length > 0) void showers.put(marked(without));
    else if (lost.length > 0) void showers.put(marked(row));
  }
  const { row, lost } = mendKept(await kept.get('kept'));
  if (unread.length > 0 || lost.length > 0) void kept.put({ ...row, since: null, book: null }, 'kept');
  await tx.done;
}

/** A step up, all of it or nothing. */
type Upgrade = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>;

/**
 * Entries are told apart within their shower, as the server does: an id that two showers have hides neither. A shower is marked
 * while something of it is missing here, so that a round finds it without reading the others.
 */
async function keyByShower(db: Database, tx: Upgrade): Promise<void> {
  const old = tx.objectStore('entries');
  old.name = 'old-entries';
  const entries = db.createObjectStore('entries', { keyPath: ['showerId', 'id'] });
  entries.createIndex('byShower', 'showerId');
  entries.createIndex('byWaiting', 'waits');
  for (let at = await old.openCursor(); at; at = await at.continue()) void entries.put(at.value);
  // @ts-expect-error: the schema does not know the name that it has for the time of this upgrade.
  db.deleteObjectStore('old-entries');
  const showers = tx.objectStore('showers');
  showers.createIndex('byLag', 'lags');
  showers.createIndex('byBookless', 'bookless');
  for (const shower of await showers.getAll()) void showers.put(marked(shower));
}

/** Pictures that are named and not here are listed, so that a round finds them without reading any entry. */
async function listWanted(db: Database, tx: Upgrade): Promise<void> {
  const small = tx.objectStore('small');
  small.createIndex('byOrder', 'orderAt');
  for (const copy of await small.getAll()) void small.put({ ...copy, orderAt: '' });
  const wanted = db.createObjectStore('wanted', { keyPath: 'hash' });
  for (let at = await tx.objectStore('entries').openCursor(); at; at = await at.continue())
    if (at.value.text.includes('"photo')) noteWanted(wanted, JSON.parse(at.value.text) as Entry);
}

/** Lists the pictures that an entry names as wanted; those that are here already are taken off when it is their turn. */
export function noteWanted(wanted: { put: (row: WantedPicture) => unknown }, entry: Entry): void {
  for (const hash of photosNeeded([entry])) void wanted.put({ hash, orderAt: entry.orderAt, tries: 0, askAgainMs: 0 });
}

/** The shower with its marks as they must be: everything that is written of a shower goes through here. */
export function marked({ lags: _, bookless: __, ...shower }: StoredShower): StoredShower {
  return {
    ...shower,
    ...((shower.row?.headSeq ?? 0) > shower.cursor ? { lags: 1 as const } : {}),
    ...(shower.booksAt === shower.cursor ? {} : { bookless: 1 as const }),
  };
}

/** What is remembered beside showers. */
export async function readKept(db: Database): Promise<Kept> {
  return { ...NOTHING_KEPT, ...(await db.get('kept', 'kept')) };
}
/** Changes some of it in one transaction. */
export async function writeKept(db: Database, change: Partial<Kept>): Promise<void> {
  const tx = db.transaction('kept', 'readwrite');
  await tx.store.put({ ...NOTHING_KEPT, ...(await tx.store.get('kept')), ...change }, 'kept');
  await tx.done;
}

/** This person's device number on this tablet, made on first use; one transaction, so that two writers get one. */
export async function deviceOf(db: Database, personId: string, newId: () => string): Promise<string> {
  const tx = db.transaction('kept', 'readwrite');
  const kept = { ...NOTHING_KEPT, ...(await tx.store.get('kept')) };
  const device = kept.devices[personId] ?? newId();
  await tx.store.put({ ...kept, devices: { ...kept.devices, [personId]: device } }, 'kept');
  await tx.done;
  return device;
}
