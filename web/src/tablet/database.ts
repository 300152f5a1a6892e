import type { FirmAnswer, FirmSettings } from '@careful-seam/contract/api/firm';
import type { Crew, Person, ShowerRow } from '@careful-seam/contract/api/messages';
import type { Entry } from '@careful-seam/core/log/entry';
import { photosNeeded } from '@careful-seam/core/log/photosNeeded';
import type { ChainEnd } from '@careful-seam/core/log/writeEntry';
import type { Values } from '@careful-seam/core/outcome/outcome';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type DBSchema, type IDBPDatabase, type IDBPTransaction, openDB, type StoreNames } from 'idb';

/** An entry on this tablet. `ledgerSeq` is null until the server acknowledged it. */
export interface StoredEntry {
  id: string;
  showerId: string;
  authorId: string;
  deviceId: string;
  deviceSeq: number;
  text: string;
  hash: string;
  ledgerSeq: number | null;
  refused: { code: string; field: string; message: string; values?: Values | undefined } | null;
  /** 1 as long as the server has not acknowledged it, so that what waits is found without reading all the rest. */
  waits?: 1;
  /** Refused for good and set aside by a person: kept, shown, no longer counted. */
  aside?: boolean;
  /** How it came to the server: what its device's clock was off by, when it was taken in, whether out of a file. */
  skewMs?: number;
  receivedAt?: string;
  imported?: boolean;
  /** A server had acknowledged it before it was restored. */
  again?: boolean;
  /** Its clock ran ahead of the server's: what it said then. It was sealed anew with a sound one. */
  clockWas?: string;
}

/** What this tablet knows of one shower. `chains` has one chain for each person who writes here. */
export interface StoredShower {
  id: string;
  row: ShowerRow | null;
  cursor: number;
  headHash: string | null;
  lastOrderAt: string | null;
  chains: Record<string, ChainEnd>;
  /** Up to which entry the rule books that it was pinned to are known to be here. */
  booksAt?: number;
  /** 1 as long as the server has entries that are not here. */
  lags?: 1;
  /** 1 as long as the rule books of its newest entries were not looked for. */
  bookless?: 1;
}

export interface StoredPhoto {
  hash: string;
  blob: Blob;
  widthPx: number;
  heightPx: number;
  /** The server confirmed the hash. Only then may the bytes be removed from the tablet. */
  sent: boolean;
  /** ms since 1970; missing on pictures of the first version. */
  takenMs?: number;
}

/** A smaller copy of somebody else's picture, kept for the cellar. */
interface SmallPicture {
  hash: string;
  blob: Blob;
  /** When it was named in the record: the oldest make room for new ones. */
  orderAt: string;
}

/** A picture that an entry from elsewhere names and that is not here yet: it often arrives later than its entry. */
export interface WantedPicture {
  hash: string;
  /** When it was named in the record: the newest are fetched first. */
  orderAt: string;
  /** How often it was asked for in vain, and before when it is not asked for again, ms since 1970. */
  tries: number;
  askAgainMs: number;
}

export interface Kept {
  person: Person | null;
  devices: Record<string, string>;
  crews: Crew[];
  settings: FirmSettings | null;
  /** The server's epoch when it was last heard; another one means that it was restored. */
  epoch: string | null;
  /** The firm's newest rule book. */
  newestBook: FirmAnswer['newestBook'];
  /** The newest rule book that was fetched, and under which epoch. */
  book: string | null;
  /** Last answer from the server, ms since 1970. */
  contactMs: number | null;
  /** What the last answer to this person ended with: the next round asks from there. */
  since: string | null;
  /** Which words of the firm are here. */
  firmMark: string | null;
  /** The firm has more open showers than a tablet is given by itself. */
  more: boolean;
  /** Added to this tablet's clock, which ran ahead of the server's, ms. */
  clockOffMs: number;
  /** What the sound clock was still off by at the last push, ms. */
  skewMs: number;
}

interface Schema extends DBSchema {
  entries: { key: [string, string]; value: StoredEntry; indexes: { byShower: string; byWaiting: number } };
  showers: { key: string; value: StoredShower; indexes: { byLag: number; byBookless: number } };
  photos: { key: string; value: StoredPhoto };
  small: { key: string; value: SmallPicture; indexes: { byOrder: string } };
  wanted: { key: string; value: WantedPicture };
  books: { key: string; value: RuleBook };
  kept: { key: string; value: Kept };
}
export type Database = IDBPDatabase<Schema>;

const VERSION = 5;

/**
 * Opens the tablet's own store; an older one is brought up to date with everything in it. `onOutdated` is called when
 * a newer program opens it in another window: this one must let go. The name is an argument so that tests have theirs.
 */
export function openDatabase(name = 'careful-seam', onOutdated?: () => void): Promise<Database> {
  return openDB<Schema>(name, VERSION, {
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
    },
    blocking(_now, _wanted, event) {
      (event.target as IDBDatabase | null)?.close();
      onOutdated?.();
    },
  });
}

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

const NOTHING: Kept = {
  person: null,
  devices: {},
  crews: [],
  settings: null,
  epoch: null,
  newestBook: null,
  book: null,
  contactMs: null,
  since: null,
  firmMark: null,
  more: false,
  clockOffMs: 0,
  skewMs: 0,
};

export async function readKept(db: Database): Promise<Kept> {
  return { ...NOTHING, ...(await db.get('kept', 'kept')) };
}
export async function writeKept(db: Database, change: Partial<Kept>): Promise<void> {
  const tx = db.transaction('kept', 'readwrite');
  await tx.store.put({ ...NOTHING, ...(await tx.store.get('kept')), ...change }, 'kept');
  await tx.done;
}

/** This person's device number on this tablet, made on first use; one transaction, so that two writers get one. */
export async function deviceOf(db: Database, personId: string, newId: () => string): Promise<string> {
  const tx = db.transaction('kept', 'readwrite');
  const kept = { ...NOTHING, ...(await tx.store.get('kept')) };
  const device = kept.devices[personId] ?? newId();
  await tx.store.put({ ...kept, devices: { ...kept.devices, [personId]: device } }, 'kept');
  await tx.done;
  return device;
}

export const emptyShower = (id: string): StoredShower => ({
  id,
  row: null,
  cursor: 0,
  headHash: null,
  lastOrderAt: null,
  chains: {},
});
