import type { FirmSettings } from '@careful-seam/contract/api/firm';
import type { Crew, Person } from '@careful-seam/contract/api/messages';
import { SessionAnswer } from '@careful-seam/contract/api/messages';
import type { Language } from '@careful-seam/contract/texts/words';
import type { Body, Entry, EntryKind } from '@careful-seam/core/entries/entry';
import { atMoment, foldShower } from '@careful-seam/core/proof/foldShower';
import type { ShowerState } from '@careful-seam/core/proof/state';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import { v4 } from 'uuid';
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { ApiError, call, send, theServer } from '../device/api';
import {
  type Database,
  openDatabase,
  readKept,
  type StoredEntry,
  type StoredShower,
  writeKept,
} from '../device/database';
import { handInOthers } from '../device/handIn';
import { onceFor, sameDrafts } from '../device/once';
import { append, arrivalsOf, entriesOf, type Ports, type Writing } from '../device/outbox';
import { fetchCopies, sendPictures } from '../device/pictures';
import { rechain } from '../device/rechain';
import { askForRoom, type Room, withRoom } from '../device/room';
import { bookKey, emptyReport, fetchOne, isOffline, syncOnce } from '../device/sync';
import { inOneTab, onTold, tellTabs } from '../device/tabs';
import { tellKept } from '../shell/tabletCare';

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
  settings: FirmSettings | null;
  /** How the tablet's storage stands; null until it was asked. */
  room: Room | null;
  /** Pictures on this tablet that the server has not confirmed. */
  picturesWaiting: number;
  /** The server was restored, and this tablet sent it again what it lacked. */
  restored: boolean;
  /** Rule books in the language that is spoken. */
  books: Map<string, RuleBook>;
  language: Language;
  showers: Map<string, LocalShower>;
  connection: Connection;
  lastSyncAt: number | null;
  skewMs: number;
  failure: string | null;
  /** Entries that were sealed anew since this tablet's clock had run ahead of the server's. */
  resealed: number;
  /** How many of the showers that a round of sync brings are here; null when it brings none. */
  fetching: { done: number; of: number } | null;
  open: () => Promise<void>;
  signIn: (signIn: string, password: string) => Promise<void>;
  signOut: () => Promise<void>;
  sync: () => Promise<void>;
  write: <K extends EntryKind>(showerId: string, kind: K, body: Body<K>) => Promise<string>;
  writeAll: (showerId: string, drafts: readonly { kind: EntryKind; body: unknown; id?: string }[]) => Promise<string[]>;
  /** Sets a refused entry aside, so that the ones after it go out. */
  setAside: (entry: StoredEntry) => Promise<void>;
  /** A manager hands in what people wrote here who can't sign in any more. Gives the server's refusal, or null. */
  handIn: () => Promise<string | null>;
  refresh: (showerId: string) => Promise<void>;
  /** Speaks another language: the rule books' own texts, and everything that is read through them. */
  speak: (language: Language) => Promise<void>;
  /** Fetches one shower that this tablet does not keep by itself; false when there is none or no network. */
  fetchShower: (showerId: string) => Promise<boolean>;
  /** Enters by a crew's link. */
  enterByLink: (code: string) => Promise<void>;
  /** Judges all showers at the present moment: waits run on. */
  tick: () => void;
}

const ports: Ports = { newId: v4, nowMs: () => Date.now(), offsetMinutes: () => -new Date().getTimezoneOffset() };
export const newId = ports.newId;

async function fold(db: Database, books: Map<string, RuleBook>, id: string): Promise<LocalShower | null> {
  const stored = await db.get('showers', id);
  if (!stored) return null;
  const entries = await entriesOf(db, id);
  const { skewMs } = await readKept(db);
  const origin = stored.row?.bookOrigin ?? '';
  const counted = entries.filter((e) => !e.aside);
  const folded = foldShower(
    counted.map((e) => JSON.parse(e.text) as Entry),
    (book, version) => books.get(bookKey(origin, book, version)) ?? books.get(bookKey('', book, version)) ?? null,
    arrivalsOf(counted, skewMs),
  );
  return { id, stored, entries, state: atMoment(folded, Date.now()) };
}

async function readBooks(db: Database, language: Language): Promise<Map<string, RuleBook>> {
  const [keys, values] = [await db.getAllKeys('books'), await db.getAll('books')];
  return new Map(keys.map((key, i) => [String(key), translateBook(values[i]!, language)]));
}

/** The newest rule book when the books were last read. */
let bookShown: string | null = null;
let syncing: Promise<void> | null = null;
let opening: Promise<void> | null = null;

/** The tablet's state. Everything shown comes from IndexedDB; the network only moves entries in and out. */
export const useStore = create<Store>((set, get) => ({
  db: null,
  person: null,
  crews: [],
  settings: null,
  room: null,
  picturesWaiting: 0,
  restored: false,
  books: new Map(),
  language: 'en',
  showers: new Map(),
  connection: 'starting',
  lastSyncAt: null,
  skewMs: 0,
  failure: null,
  resealed: 0,
  fetching: null,

  open: () => {
    opening ??= openTablet();
    return opening;
  },

  signIn: async (signIn, password) => {
    // Somebody may be quicker than a tablet that is still reading what it keeps.
    await get().open();
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

  writeAll: (showerId, drafts) => onceFor(`${showerId} ${sameDrafts(drafts)}`, () => writeDrafts(showerId, drafts)),

  setAside: async (entry) => {
    const { db } = get();
    if (!db) return;
    await rechain(db, entry.showerId, entry.authorId, newId, entry.id);
    await get().refresh(entry.showerId);
    void get().sync();
  },

  handIn: async () => {
    const { db, person, showers } = get();
    if (!db || !person) return null;
    const problem = await handInOthers(db, theServer, person.id, [...showers.keys()], ports);
    for (const id of showers.keys()) await get().refresh(id);
    return problem;
  },

  refresh: async (showerId) => {
    const { db, books } = get();
    if (!db) return;
    const local = await fold(db, books, showerId);
    if (local) set({ showers: new Map(get().showers).set(showerId, local) });
  },

  speak: async (language) => {
    const { db, showers } = get();
    if (language === get().language) return;
    set({ language });
    if (!db) return;
    set({ books: await readBooks(db, language) });
    for (const id of showers.keys()) await get().refresh(id);
  },

  fetchShower: async (showerId) => {
    const { db } = get();
    if (!db) return false;
    const got = await fetchOne(db, showerId, theServer).catch(() => false);
    if (!got) return false;
    set({ books: await readBooks(db, get().language) });
    await get().refresh(showerId);
    return true;
  },

  enterByLink: async (code) => {
    await get().open();
    const { person } = await call(SessionAnswer, 'POST', '/api/session/link', { code });
    await writeKept(get().db!, { person });
    set({ person, connection: 'online' });
    await get().sync();
  },

  tick: () => {
    const now = Date.now();
    const later = [...get().showers].map(([id, s]) => [id, { ...s, state: atMoment(s.state, now) }] as const);
    set({ showers: new Map(later) });
  },
}));

/** Some parts of the store: what is drawn with them is drawn anew when one of them changed, not with every round of sync. */
export function useParts<K extends keyof Store>(...keys: readonly K[]): Pick<Store, K> {
  return useStore(useShallow((s) => Object.fromEntries(keys.map((key) => [key, s[key]])) as Pick<Store, K>));
}

/** Reads everything this tablet keeps, once; then the first round of sync begins by itself. */
async function openTablet(): Promise<void> {
  const { setState: set, getState: get } = useStore;
  // A newer program opened the store in another window: this one starts again with it.
  const db = await openDatabase(undefined, () => window.location.reload());
  const { person, crews, settings } = await readKept(db);
  const books = await readBooks(db, get().language);
  const showers = new Map<string, LocalShower>();
  for (const id of await db.getAllKeys('showers')) {
    const local = await fold(db, books, String(id));
    if (local) showers.set(String(id), local);
  }
  set({ db, person, crews, settings, books, showers, connection: person ? 'starting' : 'signed-out' });
  onTold(({ showers: told, books: newBooks }) => {
    void (async () => {
      if (newBooks) set({ books: await readBooks(db, get().language) });
      await refreshAll(db, told);
    })();
  });
  void askForRoom(navigator.storage).then((room) => set({ room }));
  if (person) void get().sync();
}

async function writeDrafts(
  showerId: string,
  drafts: readonly { kind: EntryKind; body: unknown; id?: string }[],
): Promise<string[]> {
  const { setState: set, getState: get } = useStore;
  const { db, person, showers } = get();
  if (!db || !person) throw new ApiError('not-signed-in', 'session', 'Sign in first.');
  let geometryVersion = showers.get(showerId)?.state.geometry?.version ?? 0;
  const writings = drafts.map(({ kind, body, id }) => {
    if (kind === 'geometry-set') geometryVersion = (body as Body<'geometry-set'>).version;
    return { showerId, kind, body, person, geometryVersion, ...(id ? { id } : {}) } as Writing<EntryKind>;
  });
  const stored = await withRoom(db, () => append(db, ports, writings)).catch((error: unknown) => {
    set({ failure: error instanceof Error ? error.message : String(error) });
    throw error;
  });
  await get().refresh(showerId);
  tellTabs({ showers: [showerId], books: false });
  tellKept();
  void get().sync();
  return stored.map((e) => e.id);
}

/** The value held already, when the new one says the same. */
const same = <T>(held: T, read: T): T => (JSON.stringify(held) === JSON.stringify(read) ? held : read);

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
  // One window of a tablet syncs at a time; the others hear what it brought.
  await inOneTab('sync', () => syncRound(db, personId));
}

/** What a round brought is shown, also when it broke on the way: nothing that is on the tablet waits for a round that does not. */
async function showRound(db: Database, report: ReturnType<typeof emptyReport>): Promise<void> {
  const { setState: set } = useStore;
  const { crews, settings, book } = await readKept(db);
  const now = useStore.getState();
  // Another window of this tablet may have fetched one.
  const keys = await db.getAllKeys('books');
  const booksNew = report.books || book !== bookShown || keys.length !== now.books.size;
  bookShown = book;
  // What stayed the same keeps its place in memory, so that nothing that shows it is drawn anew.
  set({
    books: booksNew ? await readBooks(db, now.language) : now.books,
    crews: same(now.crews, crews),
    settings: same(now.settings, settings),
  });
  if (report.restored) set({ restored: true });
  if (report.resealed > 0) set({ resealed: now.resealed + report.resealed });
  if (report.skewMs !== null) set({ skewMs: report.skewMs });
  // A rule book that came late is what showers were waiting for that had come before.
  await refreshAll(db, booksNew ? now.showers.keys() : []);
  await refreshAll(db, report.changed);
  tellTabs({ showers: [...report.changed], books: report.books });
}

async function syncRound(db: Database, personId: string): Promise<void> {
  const { setState: set } = useStore;
  const report = emptyReport();
  try {
    const onPulled = (done: number, of: number) => set({ fetching: { done, of } });
    await syncOnce(db, personId, { server: theServer, ports, onPulled }, report);
    await showRound(db, report);
    set({ connection: 'online', lastSyncAt: Date.now(), failure: null });
    void syncPictures(db, report.changed);
  } catch (error) {
    await showRound(db, report);
    if (isOffline(error)) set({ connection: 'offline' });
    else if (error instanceof ApiError && error.code === 'not-signed-in') set({ connection: 'signed-out' });
    else set({ connection: 'online', failure: error instanceof Error ? error.message : String(error) });
  } finally {
    if (useStore.getState().fetching) set({ fetching: null });
  }
}

let sendingPictures = false;

/** Pictures go beside the entries, one round at a time; a failure waits for the next round. */
async function syncPictures(db: Database, changed: Iterable<string>): Promise<void> {
  const { setState: set } = useStore;
  const count = async () => set({ picturesWaiting: (await db.getAll('photos')).filter((p) => !p.sent).length });
  if (sendingPictures) return;
  sendingPictures = true;
  try {
    await count();
    if ((await sendPictures(db, theServer)) > 0) await count();
    await fetchCopies(db, theServer, changed);
  } catch (error) {
    if (!isOffline(error)) set({ failure: error instanceof Error ? error.message : String(error) });
  } finally {
    sendingPictures = false;
  }
}

/** Entries on this tablet that the server has not acknowledged, and that wait for nobody but the network. */
export function waitingEntries(showers: Iterable<LocalShower>): StoredEntry[] {
  return [...showers].flatMap((s) => s.entries.filter((e) => e.ledgerSeq === null && !e.aside));
}
export const countWaiting = (showers: Iterable<LocalShower>): number => waitingEntries(showers).length;
