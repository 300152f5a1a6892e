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
  /** Refused for good and set aside by a person: kept, shown, no longer counted. */
  aside?: boolean;
}

/** What this tablet knows of one shower. `chains` has one chain for each person who writes here. */
export interface StoredShower {
  id: string;
  row: ShowerRow | null;
  cursor: number;
  headHash: string | null;
  lastOrderAt: string | null;
  chains: Record<string, ChainEnd>;
}

export interface StoredPhoto {
  hash: string;
  blob: Blob;
  widthPx: number;
  heightPx: number;
  sent: boolean;
}

export interface Kept {
  person: Person | null;
  devices: Record<string, string>;
  crews: Crew[];
}

interface Schema extends DBSchema {
  entries: { key: string; value: StoredEntry; indexes: { byShower: string } };
  showers: { key: string; value: StoredShower };
  photos: { key: string; value: StoredPhoto };
  books: { key: string; value: RuleBook };
  kept: { key: string; value: Kept };
}
export type Database = IDBPDatabase<Schema>;

/** Opens the tablet's own store. The name is an argument so that tests have theirs. */
export function openDatabase(name = 'careful-seam'): Promise<Database> {
  return openDB<Schema>(name, 1, {
    upgrade(db) {
      db.createObjectStore('entries', { keyPath: 'id' }).createIndex('byShower', 'showerId');
      db.createObjectStore('showers', { keyPath: 'id' });
      db.createObjectStore('photos', { keyPath: 'hash' });
      db.createObjectStore('books');
      db.createObjectStore('kept');
    },
  });
}

const NOTHING: Kept = { person: null, devices: {}, crews: [] };

export async function readKept(db: Database): Promise<Kept> {
  return (await db.get('kept', 'kept')) ?? NOTHING;
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
