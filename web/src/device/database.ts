import type { FirmSettings } from '@careful-seam/contract/api/firm';
import type { Crew, Person, ShowerRow } from '@careful-seam/contract/api/messages';
import type { ChainEnd } from '@careful-seam/core/entries/writeEntry';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

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
  refused: { code: string; field: string; message: string } | null;
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
}

export interface Kept {
  person: Person | null;
  devices: Record<string, string>;
  crews: Crew[];
  settings: FirmSettings | null;
  /** The server's epoch when it was last heard; another one means that it was restored. */
  epoch: string | null;
  /** The newest rule book that was fetched, and under which epoch. */
  book: string | null;
  /** Last answer from the server, ms since 1970. */
  contactMs: number | null;
  /** Added to this tablet's clock, which ran ahead of the server's, ms. */
  clockOffMs: number;
  /** What the sound clock was still off by at the last push, ms. */
  skewMs: number;
}

interface Schema extends DBSchema {
  entries: { key: string; value: StoredEntry; indexes: { byShower: string; byWaiting: number } };
  showers: { key: string; value: StoredShower };
  photos: { key: string; value: StoredPhoto };
  small: { key: string; value: SmallPicture };
  books: { key: string; value: RuleBook };
  kept: { key: string; value: Kept };
}
export type Database = IDBPDatabase<Schema>;

const VERSION = 3;

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
    },
    blocking(_now, _wanted, event) {
      (event.target as IDBDatabase | null)?.close();
      onOutdated?.();
    },
  });
}

const NOTHING: Kept = {
  person: null,
  devices: {},
  crews: [],
  settings: null,
  epoch: null,
  book: null,
  contactMs: null,
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
