import type { FirmAnswer, FirmSettings } from '@careful-seam/contract/api/firm';
import { NO_LEAKS } from '@careful-seam/contract/api/leaks';
import type { Crew, Person } from '@careful-seam/contract/api/messages';
import { SessionAnswer } from '@careful-seam/contract/api/messages';
import { FIRST_PLAN_BOOK } from '@careful-seam/contract/api/plan';
import type { Body, EntryKind } from '@careful-seam/core/log/bodies';
import { atMoment } from '@careful-seam/core/proof/fold/foldShower';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { Language } from '@careful-seam/words/texts/language';
import { useMemo } from 'react';
import { v4 } from 'uuid';
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { writtenByTap } from '../ui/fingerGuard';
import { errorWords } from '../ui/words';
import { ApiError, call, isOffline, send, theServer } from './api';
import { AWAKE_AT_MOST, FIRST, whoIsAwake } from './awake';
import { type Database, openDatabase, readKept, writeKept } from './database';
import { type DraftAbout, forgetDraft, keyOf, openDrafts } from './drafts';
import { handInOthers } from './handIn';
import { fold, foldAll, foldOn, type LocalShower, readBooks } from './localShower';
import { onceFor, sameDrafts } from './once';
import { append, type Ports, showersWaiting, type Writing } from './outbox';
import { tellLanguage } from './ownLanguage';
import { fetchCopies, letGoSent, sendPictures } from './pictures';
import { fetchOne, takeAlong } from './pull';
import { rechain } from './rechain';
import { askForRoom, type Room, withRoom } from './room';
import { emptyReport } from './round';
import type { StoredEntry, StoredShower } from './stored';
import { syncOnce } from './sync';
import { tellKept } from './tabletCare';
import { inOneTab, onTold, tellTabs } from './tabs';

export type { LocalShower } from './localShower';

/** How this tablet stands to the server. */
type Connection = 'starting' | 'online' | 'offline' | 'signed-out';

/** What the screens see of this tablet, and what they may do. */
interface Store {
  /** The store of this tablet; null until it is open. */
  db: Database | null;
  /** Who is signed in on this tablet; null for nobody. */
  person: Person | null;
  /** The crews of the firm. */
  crews: Crew[];
  /** Seams on which the firm wants more places read than is usual. */
  lookPlan: FirmAnswer['lookPlan'];
  /** What the plan is made from beside the showers. */
  plan: FirmAnswer['plan'];
  /** What the firm knows of leaks. */
  leaks: FirmAnswer['leaks'];
  /** What the firm is and how it works; null before the first round. */
  settings: FirmSettings | null;
  /** How the tablet's storage stands; null until it was asked. */
  room: Room | null;
  /** Pictures on this tablet that the server has not confirmed. */
  picturesWaiting: number;
  /** The server was restored, and this tablet sent it again what it lacked. */
  restored: boolean;
  /** Rule books in the language that is spoken. */
  books: Map<string, RuleBook>;
  /** The language that is spoken, also that of the rule books. */
  language: Language;
  /** Showers that are held ready. */
  showers: Map<string, LocalShower>;
  /** The others on this tablet, as their rows say: they are worked out when somebody opens them. */
  asleep: readonly StoredShower[];
  /** Showers of which the server has more than is here. */
  behind: number;
  /** The firm has more open showers than a tablet is given by itself. */
  more: boolean;
  /** How this tablet stands to the server. */
  connection: Connection;
  /** When the last round was whole, ms since 1970; null before it. */
  lastSyncAt: number | null;
  /** What this clock is off by, ms. */
  skewMs: number;
  /** What the last round could not do, as a sentence; null where it was whole. */
  failure: string | null;
  /** Entries that were sealed anew since this tablet's clock had run ahead of the server's. */
  resealed: number;
  /** How many of the showers that a round of sync brings are here; null when it brings none. */
  fetching: { done: number; of: number } | null;
  /** Opens the store and goes on where this tablet was. */
  open: () => Promise<void>;
  /** Signs in with the server; throws an `ApiError` when it is refused. */
  signIn: (signIn: string, password: string) => Promise<void>;
  /** Signs out; what is here and not sent stays for its writer. */
  signOut: () => Promise<void>;
  /** A round now; one that runs already is waited for. */
  sync: () => Promise<void>;
  /** Writes one entry and gives its id; the draft that it was typed as goes with it. */
  write: <K extends EntryKind>(showerId: string, kind: K, body: Body<K>, typedAs?: DraftAbout) => Promise<string>;
  /** Writes several as one: all of them, or none. */
  writeAll: (
    showerId: string,
    drafts: readonly { kind: EntryKind; body: unknown; id?: string }[],
    typedAs?: DraftAbout,
  ) => Promise<string[]>;
  /** Sets a refused entry aside, so that the ones after it go out. */
  setAside: (entry: StoredEntry) => Promise<void>;
  /** A manager hands in what people wrote here who can't sign in any more. Gives the server's refusal, or null. */
  handIn: () => Promise<string | null>;
  /** Works a shower out anew from the store. */
  refresh: (showerId: string) => Promise<void>;
  /** Speaks another language: the rule books' own texts, and everything that is read through them. */
  speak: (language: Language) => Promise<void>;
  /** Wakes a shower that sleeps on this tablet, or fetches one that is not here; false when there is none or no network. */
  fetchShower: (showerId: string) => Promise<boolean>;
  /** Takes a whole job along, for where there is no signal. Gives how many showers it has. */
  takeJob: (job: string) => Promise<number>;
  /** Enters by a crew's link. */
  enterByLink: (code: string) => Promise<void>;
  /** Judges all showers at the present moment: waits run on. */
  tick: () => void;
}

/** The clock of this tablet and its ids. */
const ports: Ports = { newId: v4, nowMs: () => Date.now(), offsetMinutes: () => -new Date().getTimezoneOffset() };
/** An id that nobody else makes. */
export const newId = ports.newId;

/** The newest rule book when the books were last read. */
let bookShown: string | null = null;
/** The round that runs. */
let syncing: Promise<void> | null = null;
/** The opening that runs. */
let opening: Promise<void> | null = null;

/** The tablet's state. Everything shown comes from IndexedDB; the network only moves entries in and out. */
export const useStore = create<Store>((set, get) => ({
  db: null,
  person: null,
  crews: [],
  lookPlan: [],
  plan: FIRST_PLAN_BOOK,
  leaks: NO_LEAKS,
  settings: null,
  room: null,
  picturesWaiting: 0,
  restored: false,
  books: new Map(),
  language: 'en',
  showers: new Map(),
  asleep: [],
  behind: 0,
  more: false,
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
    await comeIn(person);
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

  write: async (showerId, kind, body, typedAs) => (await get().writeAll(showerId, [{ kind, body }], typedAs))[0]!,

  writeAll: (showerId, drafts, typedAs) =>
    onceFor(`${showerId} ${sameDrafts(drafts)}`, () => writeDrafts(showerId, drafts, typedAs ? keyOf(typedAs) : null)),

  setAside: async (entry) => {
    const { db } = get();
    if (!db) return;
    await rechain(db, entry.showerId, entry.authorId, newId, entry.id);
    await get().refresh(entry.showerId);
    void get().sync();
  },

  handIn: async () => {
    const { db, person } = get();
    if (!db || !person) return null;
    const waiting = await showersWaiting(db);
    const problem = await handInOthers(db, theServer, person.id, waiting, ports);
    for (const id of waiting) await get().refresh(id);
    return problem;
  },

  refresh: async (showerId) => {
    const { db, books } = get();
    if (!db) return;
    const local = await fold(db, books, showerId, get().showers.get(showerId));
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
    woken.add(showerId);
    await get().refresh(showerId);
    if (get().showers.get(showerId)?.state.created) return true;
    const got = await fetchOne(db, showerId, theServer).catch(() => false);
    if (!got) return false;
    set({ books: await readBooks(db, get().language) });
    await get().refresh(showerId);
    return true;
  },

  takeJob: async (job) => {
    const { db } = get();
    if (!db) return 0;
    const count = await takeAlong(db, job, theServer);
    void get().sync();
    return count;
  },

  enterByLink: async (code) => {
    await get().open();
    const { person } = await call(SessionAnswer, 'POST', '/api/session/link', { code });
    await comeIn(person);
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

/** Somebody is in. The first round runs beside: what is here already is shown, and the rest as it comes. */
async function comeIn(person: Person): Promise<void> {
  const { setState: set, getState: get } = useStore;
  await writeKept(get().db!, { person });
  set({ person, connection: 'online', lastSyncAt: null });
  void tellLanguage();
  void get().sync();
}

/** A shower as it is named in lists, whether it is awake or asleep. */
export interface NamedShower {
  /** Its id. */
  id: string;
  /** Its name on site. */
  name: string;
  /** The job that it belongs to. */
  job: string;
}

/** All showers on this tablet by their names, those that sleep as well. */
export function useNamedShowers(): NamedShower[] {
  const { showers, asleep } = useParts('showers', 'asleep');
  return useMemo(
    () => [
      ...[...showers.values()].flatMap(({ id, state }) => {
        const { name, job } = state.created?.body ?? {};
        return name === undefined || job === undefined ? [] : [{ id, name, job }];
      }),
      ...asleep.flatMap(({ id, row }) => (row ? [{ id, name: row.name, job: row.job }] : [])),
    ],
    [showers, asleep],
  );
}

/** Reads everything this tablet keeps, once; then the first round of sync begins by itself. */
async function openTablet(): Promise<void> {
  const { setState: set, getState: get } = useStore;
  // A newer program opened the store in another window: this one starts again with it.
  const db = await openDatabase(undefined, () => window.location.reload());
  const { person, crews, settings, more, lookPlan, plan, leaks } = await readKept(db);
  await openDrafts(db);
  const books = await readBooks(db, get().language);
  const { awake, asleep } = whoIsAwake(await db.getAll('showers'), await momentNow(db, person));
  // Of the day's showers the first are waited for; the others come while these are looked at.
  const first = await foldAll(db, books, awake.slice(0, FIRST));
  const behind = await db.countFromIndex('showers', 'byLag');
  set({
    db,
    person,
    crews,
    lookPlan,
    plan,
    leaks,
    settings,
    books,
    showers: new Map(first),
    asleep,
    behind,
    more,
    connection: person ? 'starting' : 'signed-out',
  });
  void refreshInParts(db, awake.slice(FIRST));
  onTold(({ showers: told, books: newBooks }) => {
    void (async () => {
      if (newBooks) set({ books: await readBooks(db, get().language) });
      await refreshAll(db, told);
    })();
  });
  void askForRoom(navigator.storage).then((room) => set({ room }));
  if (person) void get().sync();
}

/** Who uses the tablet now, and what waits on it. */
async function momentNow(db: Database, person: Person | null) {
  return { personId: person?.id ?? null, nowMs: Date.now(), waiting: new Set(await showersWaiting(db)) };
}

/** Showers that somebody opened: they stay awake until the tablet begins anew. */
const woken = new Set<string>();

/** Showers that are shown together, so that a long list is not drawn anew for each of them. */
const TOGETHER = 12;

/** Works several out, a few at a time in the order given: between them the screen answers. */
async function refreshInParts(db: Database, ids: readonly string[]): Promise<void> {
  for (let from = 0; from < ids.length; from += TOGETHER) {
    await refreshAll(db, ids.slice(from, from + TOGETHER));
    await new Promise<void>((later) => setTimeout(later, 0));
  }
}

/** Decides anew what is held ready: what fell asleep leaves the memory, what woke comes into it. */
async function settleAwake(db: Database, changed: ReadonlySet<string>): Promise<void> {
  const { setState: set, getState: get } = useStore;
  const moment = await momentNow(db, get().person);
  const { awake, asleep } = whoIsAwake(await db.getAll('showers'), moment);
  const ready = new Set([...awake, ...woken]);
  const stays = [...get().showers].filter(([id]) => ready.has(id));
  const isSame = stays.length === get().showers.size;
  set({ asleep: asleep.filter((s) => !woken.has(s.id)), ...(isSame ? {} : { showers: new Map(stays) }) });
  const wanted: string[] = [];
  // Of what waits here an entry may have been refused, which moves nothing else.
  for (const id of ready)
    if ((changed.has(id) && moment.waiting.has(id)) || (await isStale(db, id, changed))) wanted.push(id);
  await refreshInParts(db, wanted);
}

/** Whether what is held ready of a shower is not what lies in the store: much of a long round was shown as it came. */
async function isStale(db: Database, id: string, changed: ReadonlySet<string>): Promise<boolean> {
  const held = useStore.getState().showers.get(id);
  if (!held) return true;
  if (!changed.has(id)) return false;
  const stored = await db.get('showers', id);
  const count = await db.countFromIndex('entries', 'byShower', id);
  return JSON.stringify(held.stored) !== JSON.stringify(stored) || held.entries.length !== count;
}

/** Appends drafts to the chain of the person, and works the shower out with them. */
async function writeDrafts(
  showerId: string,
  drafts: readonly { kind: EntryKind; body: unknown; id?: string }[],
  typedAs: string | null,
): Promise<string[]> {
  const { setState: set, getState: get } = useStore;
  const { db, person, showers } = get();
  if (!db || !person) throw new ApiError({ code: 'not-signed-in', field: 'session' });
  writtenByTap();
  let geometryVersion = showers.get(showerId)?.state.geometry?.version ?? 0;
  const writings = drafts.map(({ kind, body, id }) => {
    if (kind === 'geometry-set') geometryVersion = (body as Body<'geometry-set'>).version;
    return { showerId, kind, body, person, geometryVersion, ...(id ? { id } : {}) } as Writing<EntryKind>;
  });
  const stored = await withRoom(db, () => append(db, ports, writings, typedAs)).catch((error: unknown) => {
    set({ failure: errorWords(error) });
    throw error;
  });
  if (typedAs !== null) forgetDraft(typedAs);
  const held = get().showers.get(showerId);
  if (held) set({ showers: new Map(get().showers).set(showerId, await foldOn(db, get().books, held, stored)) });
  else await get().refresh(showerId);
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
  const folded = await foldAll(db, get().books, ids, get().showers);
  // What was entered meanwhile is newer than what was folded here.
  const newer = folded.filter(([id, s]) => s.entries.length >= (get().showers.get(id)?.entries.length ?? 0));
  if (newer.length > 0) set({ showers: new Map([...get().showers, ...newer]) });
}

/** A round, by one window of this tablet at a time. */
async function runSync(db: Database, personId: string): Promise<void> {
  // One window of a tablet syncs at a time; the others hear what it brought.
  await inOneTab('sync', () => syncRound(db, personId));
}

/** What a round brought is shown, also when it broke on the way: nothing that is on the tablet waits for a round that does not. */
async function showRound(db: Database, report: ReturnType<typeof emptyReport>): Promise<void> {
  const { setState: set } = useStore;
  const { crews, settings, book, more, lookPlan, plan, leaks } = await readKept(db);
  const now = useStore.getState();
  // Another window of this tablet may have fetched one.
  const keys = await db.getAllKeys('books');
  const booksNew = report.books || book !== bookShown || keys.length !== now.books.size;
  bookShown = book;
  // What stayed the same keeps its place in memory, so that nothing that shows it is drawn anew.
  set({
    books: booksNew ? await readBooks(db, now.language) : now.books,
    crews: same(now.crews, crews),
    lookPlan: same(now.lookPlan, lookPlan),
    plan: same(now.plan, plan),
    leaks: same(now.leaks, leaks),
    settings: same(now.settings, settings),
    behind: report.behind,
    more,
  });
  if (report.restored) set({ restored: true });
  if (report.resealed > 0) set({ resealed: now.resealed + report.resealed });
  if (report.skewMs !== null) set({ skewMs: report.skewMs });
  // A rule book that came late is what showers were waiting for that had come before.
  await refreshAll(db, booksNew ? now.showers.keys() : []);
  if (report.changed.size > 0) await settleAwake(db, report.changed);
  tellTabs({ showers: [...report.changed], books: report.books });
}

/** Shows what a long round brings while the rest of it is on its way. */
function showAsTheyCome(db: Database): (done: number, of: number, showerId: string) => void {
  const { setState: set, getState: get } = useStore;
  let shownAt = Date.now();
  let shown = 0;
  let came: string[] = [];
  return (done, of, showerId) => {
    set({ fetching: { done, of } });
    came.push(showerId);
    // The first are shown at once; then seldom, so that showing does not hold up what is still to come.
    const every = shown === 0 ? SHOWN_FIRST_MS : SHOWN_EVERY_MS;
    if (shown >= AWAKE_AT_MOST || Date.now() - shownAt < every) return;
    const next = came;
    came = [];
    shown += next.length;
    shownAt = Date.now();
    void (async () => {
      if (get().books.size === 0) set({ books: await readBooks(db, get().language) });
      await refreshAll(db, next);
    })();
  };
}

/** While many showers come, those that are here are shown for the first time and then this often, ms. */
const SHOWN_FIRST_MS = 400;
/** After the first ones, ms. */
const SHOWN_EVERY_MS = 5000;

/** A round with what it shows, whether it is whole or breaks. */
async function syncRound(db: Database, personId: string): Promise<void> {
  const { setState: set } = useStore;
  const report = emptyReport();
  try {
    const onPulled = showAsTheyCome(db);
    await syncOnce(db, personId, { server: theServer, ports, onPulled }, report);
    await showRound(db, report);
    set({ connection: 'online', lastSyncAt: Date.now(), failure: null });
    void syncPictures(db);
  } catch (error) {
    await showRound(db, report);
    if (isOffline(error)) set({ connection: 'offline' });
    else if (error instanceof ApiError && error.code === 'not-signed-in') set({ connection: 'signed-out' });
    else set({ connection: 'online', failure: errorWords(error) });
  } finally {
    if (useStore.getState().fetching) set({ fetching: null });
  }
}

/** Pictures are on their way. */
let sendingPictures = false;

/** Pictures go beside the entries, one round at a time; a failure waits for the next round. */
async function syncPictures(db: Database): Promise<void> {
  const { setState: set } = useStore;
  const count = async () => set({ picturesWaiting: (await db.getAll('photos')).filter((p) => !p.sent).length });
  if (sendingPictures) return;
  sendingPictures = true;
  try {
    await count();
    if ((await sendPictures(db, theServer)) > 0) await count();
    await letGoSent(db, ports.nowMs());
    await fetchCopies(db, theServer, ports.nowMs());
  } catch (error) {
    if (!isOffline(error)) set({ failure: errorWords(error) });
  } finally {
    sendingPictures = false;
  }
}

/** Entries on this tablet that the server has not acknowledged, and that wait for nobody but the network. */
export function waitingEntries(showers: Iterable<LocalShower>): StoredEntry[] {
  return [...showers].flatMap((s) => s.entries.filter((e) => e.ledgerSeq === null && !e.aside));
}
/** How many entries wait for the network. */
export const countWaiting = (showers: Iterable<LocalShower>): number => waitingEntries(showers).length;
