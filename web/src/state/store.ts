import type { Crew, Person } from '@careful-seam/contract/api/messages';
import { SessionAnswer } from '@careful-seam/contract/api/messages';
import type { Body, Entry, EntryKind } from '@careful-seam/core/entries/entry';
import { atMoment, foldShower } from '@careful-seam/core/proof/foldShower';
import type { ShowerState } from '@careful-seam/core/proof/state';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { v4 } from 'uuid';
import { create } from 'zustand';
import { ApiError, call, send } from '../device/api';
import {
  type Database,
  openDatabase,
  readKept,
  type StoredEntry,
  type StoredShower,
  writeKept,
} from '../device/database';
import { append, entriesOf, type Ports, type Writing } from '../device/outbox';
import { rechain } from '../device/rechain';
import { isOffline, syncOnce } from '../device/sync';

/** One shower as the screens read it: the local fold, whatever the network does. */
export interface LocalShower {
  id: string;
  stored: StoredShower;
  entries: StoredEntry[];
  state: ShowerState;
}

type Connection = 'starting' | 'online' | 'offline' | 'signed-out';

interface Store {
  db: Database | null;
  person: Person | null;
  crews: Crew[];
  books: Map<string, RuleBook>;
  showers: Map<string, LocalShower>;
  connection: Connection;
  lastSyncAt: number | null;
  skewMs: number;
  failure: string | null;
  open: () => Promise<void>;
  signIn: (signIn: string, password: string) => Promise<void>;
  signOut: () => Promise<void>;
  sync: () => Promise<void>;
  write: <K extends EntryKind>(showerId: string, kind: K, body: Body<K>) => Promise<string>;
  writeAll: (showerId: string, drafts: readonly { kind: EntryKind; body: unknown; id?: string }[]) => Promise<string[]>;
  /** Sets a refused entry aside, so that the ones after it go out. */
  setAside: (entry: StoredEntry) => Promise<void>;
  refresh: (showerId: string) => Promise<void>;
  /** Judges all showers at the present moment: waits run on. */
  tick: () => void;
}

const ports: Ports = { newId: v4, nowMs: () => Date.now(), offsetMinutes: () => -new Date().getTimezoneOffset() };
export const newId = ports.newId;

async function fold(db: Database, books: Map<string, RuleBook>, id: string): Promise<LocalShower | null> {
  const stored = await db.get('showers', id);
  if (!stored) return null;
  const entries = await entriesOf(db, id);
  const folded = foldShower(
    entries.filter((e) => !e.aside).map((e) => JSON.parse(e.text) as Entry),
    (book, version) => books.get(`${book}@${version}`) ?? null,
  );
  return { id, stored, entries, state: atMoment(folded, Date.now()) };
}

async function readBooks(db: Database): Promise<Map<string, RuleBook>> {
  const [keys, values] = [await db.getAllKeys('books'), await db.getAll('books')];
  return new Map(keys.map((key, i) => [String(key), values[i]!]));
}

let syncing: Promise<void> | null = null;

/** The tablet's state. Everything shown comes from IndexedDB; the network only moves entries in and out. */
export const useStore = create<Store>((set, get) => ({
  db: null,
  person: null,
  crews: [],
  books: new Map(),
  showers: new Map(),
  connection: 'starting',
  lastSyncAt: null,
  skewMs: 0,
  failure: null,

  open: async () => {
    const db = await openDatabase();
    const { person, crews } = await readKept(db);
    const books = await readBooks(db);
    const showers = new Map<string, LocalShower>();
    for (const id of await db.getAllKeys('showers')) {
      const local = await fold(db, books, String(id));
      if (local) showers.set(String(id), local);
    }
    set({ db, person, crews, books, showers, connection: person ? 'starting' : 'signed-out' });
    if (person) await get().sync();
  },

  signIn: async (signIn, password) => {
    const { person } = await call(SessionAnswer, 'POST', '/api/session', { signIn, password });
    await writeKept(get().db!, { person });
    set({ person, connection: 'online' });
    await get().sync();
  },

  signOut: async () => {
    await send('DELETE', '/api/session').catch(() => undefined);
    await writeKept(get().db!, { person: null });
    set({ person: null, connection: 'signed-out' });
  },

  sync: async () => {
    const { db, person } = get();
    if (!db || !person) return;
    // What was written while a round ran goes out with the next one, at once.
    if (syncing) await syncing;
    if (syncing) return syncing;
    syncing = runSync(db, person.id).finally(() => {
      syncing = null;
    });
    await syncing;
  },

  write: async (showerId, kind, body) => (await get().writeAll(showerId, [{ kind, body }]))[0]!,

  writeAll: async (showerId, drafts) => {
    const { db, person, showers } = get();
    if (!db || !person) throw new ApiError('not-signed-in', 'session', 'Sign in first.');
    let geometryVersion = showers.get(showerId)?.state.geometry?.version ?? 0;
    const writings = drafts.map(({ kind, body, id }) => {
      if (kind === 'geometry-set') geometryVersion = (body as Body<'geometry-set'>).version;
      return { showerId, kind, body, person, geometryVersion, ...(id ? { id } : {}) } as Writing<EntryKind>;
    });
    const stored = await append(db, ports, writings);
    await get().refresh(showerId);
    void get().sync();
    return stored.map((e) => e.id);
  },

  setAside: async (entry) => {
    const { db } = get();
    if (!db) return;
    await rechain(db, entry.showerId, entry.authorId, newId, entry.id);
    await get().refresh(entry.showerId);
    void get().sync();
  },

  refresh: async (showerId) => {
    const { db, books } = get();
    if (!db) return;
    const local = await fold(db, books, showerId);
    if (local) set({ showers: new Map(get().showers).set(showerId, local) });
  },

  tick: () => {
    const now = Date.now();
    const later = [...get().showers].map(([id, s]) => [id, { ...s, state: atMoment(s.state, now) }] as const);
    set({ showers: new Map(later) });
  },
}));

/** Folds several showers and shows them at once: the screens are drawn anew once, not for each. */
async function refreshAll(db: Database, ids: Iterable<string>): Promise<void> {
  const { setState: set, getState: get } = useStore;
  const folded: [string, LocalShower][] = [];
  for (const id of ids) {
    const local = await fold(db, get().books, id);
    if (local) folded.push([id, local]);
  }
  // What was entered meanwhile is newer than what was folded here.
  const newer = folded.filter(([id, s]) => s.entries.length >= (get().showers.get(id)?.entries.length ?? 0));
  if (newer.length > 0) set({ showers: new Map([...get().showers, ...newer]) });
}

async function runSync(db: Database, personId: string): Promise<void> {
  const { setState: set } = useStore;
  try {
    const report = await syncOnce(db, personId);
    const kept = await readKept(db);
    set({ books: await readBooks(db), crews: kept.crews, connection: 'online', lastSyncAt: Date.now(), failure: null });
    if (report.skewMs !== null) set({ skewMs: report.skewMs });
    await refreshAll(db, report.changed);
  } catch (error) {
    if (isOffline(error)) set({ connection: 'offline' });
    else if (error instanceof ApiError && error.code === 'not-signed-in') set({ connection: 'signed-out' });
    else set({ connection: 'offline', failure: error instanceof Error ? error.message : String(error) });
  }
}

/** Entries on this tablet that the server has not acknowledged. */
export function countWaiting(showers: Iterable<LocalShower>): number {
  let count = 0;
  for (const s of showers) count += s.entries.filter((e) => e.ledgerSeq === null && !e.aside).length;
  return count;
}
