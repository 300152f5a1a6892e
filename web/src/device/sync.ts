import { FirmAnswer } from '@careful-seam/contract/api/firm';
import {
  PUSH_AT_MOST,
  PullAnswer,
  PushAnswer,
  RuleBookAnswer,
  SessionAnswer,
  ShowerList,
  ShowerRow,
} from '@careful-seam/contract/api/messages';
import { ZodError } from 'zod';
import { ApiError, type Server } from './api';
import { type Database, emptyShower, readKept, writeKept } from './database';
import { noteFirm } from './epoch';
import { inLanes } from './lanes';
import { acknowledge, brokenSignature, entriesOf, type Ports, showersWaiting, takeIn, waiting } from './outbox';
import { rechain } from './rechain';

/** What a round needs from outside. */
export interface Outside {
  server: Server;
  ports: Pick<Ports, 'newId' | 'nowMs'>;
  /** Told how many of the showers that changed elsewhere are here now. */
  onPulled?: (done: number, of: number) => void;
}

/** Showers fetched at a time: a tablet far from the server mostly waits. */
const PULLS_AT_ONCE = 4;

/** What a round of sync found out. */
export interface SyncReport {
  changed: Set<string>;
  skewMs: number | null;
  /** A rule book was fetched. */
  books: boolean;
  /** The server was restored, and this tablet sent what it lacked. */
  restored: boolean;
  /** Entries that were sealed anew, since this tablet's clock had run ahead of the server's. */
  resealed: number;
}

interface Round extends Outside {
  db: Database;
  personId: string;
  report: SyncReport;
}

type Pulling = Pick<Round, 'db' | 'server' | 'report'>;
/** A report before a round: what the round finds out is written into it, so that it is there when the round breaks. */
export const emptyReport = (): SyncReport => ({
  changed: new Set(),
  skewMs: null,
  books: false,
  restored: false,
  resealed: 0,
});

/** Pulls what this tablet lacks of one shower. */
async function pullShower({ db, server, report }: Pulling, showerId: string): Promise<void> {
  for (;;) {
    const shower = (await db.get('showers', showerId)) ?? emptyShower(showerId);
    const answer = await server.call(PullAnswer, 'GET', `/api/showers/${showerId}/entries?after=${shower.cursor}`);
    if (answer.entries.length > 0) {
      await takeIn(db, showerId, answer.entries);
      report.changed.add(showerId);
    }
    if (!answer.more) return;
  }
}

/** Sends what waits, in the order of its chain; pulls when somebody else's entries came in between. */
async function pushShower(round: Round, showerId: string): Promise<void> {
  const { db, server, ports, personId, report } = round;
  for (;;) {
    const next = waiting(await entriesOf(db, showerId), personId).slice(0, PUSH_AT_MOST);
    if (next.length === 0) return;
    const { clockOffMs } = await readKept(db);
    const answer = await server.call(PushAnswer, 'POST', `/api/showers/${showerId}/entries`, {
      clock: new Date(ports.nowMs() + clockOffMs).toISOString(),
      entries: next.map((e) => e.text),
      again: next.filter((e) => e.again).map((e) => e.id),
    });
    await acknowledge(db, showerId, answer, next);
    report.skewMs = answer.skewMs + clockOffMs;
    await noteClock(db, answer, clockOffMs);
    report.changed.add(showerId);
    const last = answer.taken.at(-1);
    if (last && ((await db.get('showers', showerId))?.cursor ?? 0) < last.ledgerSeq) await pullShower(round, showerId);
    if (answer.refused) return;
  }
}

/** A clock that was set right and is off again (somebody set the tablet's own) is followed; what is left is written down. */
async function noteClock(db: Database, { skewMs, refused }: PushAnswer, clockOffMs: number): Promise<void> {
  const isOff = clockOffMs !== 0 && Math.abs(skewMs) > FOLLOW_MS && refused === null;
  await writeKept(db, isOff ? { clockOffMs: clockOffMs + skewMs, skewMs: 0 } : { skewMs });
}

/** A clock that was set right is followed when it is off by more than this, ms. */
const FOLLOW_MS = 60_000;

/**
 * A clock that ran ahead of the server's: it is set right by what the server told, and everything that was not taken yet is
 * sealed anew with it. Nothing typed is lost; what the clock said is kept beside.
 */
async function healClock(round: Round, showerId: string): Promise<void> {
  const { db, personId, ports, report } = round;
  const ahead = (await entriesOf(db, showerId)).some(
    (e) => e.authorId === personId && e.ledgerSeq === null && e.refused?.code === 'clock-ahead',
  );
  if (!ahead) return;
  const { clockOffMs, skewMs } = await readKept(db);
  await writeKept(db, { clockOffMs: clockOffMs + skewMs, skewMs: 0 });
  for (const id of await showersWaiting(db)) {
    report.resealed += await rechain(db, id, personId, ports.newId, null, skewMs);
    report.changed.add(id);
  }
  await pushShower(round, showerId);
}

/** The account is called otherwise now: what was not taken yet is sealed anew under that name. */
async function healName(round: Round, showerId: string): Promise<void> {
  const { db, server, personId, ports, report } = round;
  const renamed = (await entriesOf(db, showerId)).some(
    (e) => e.authorId === personId && e.ledgerSeq === null && e.refused?.code === 'author-renamed',
  );
  if (!renamed) return;
  const { person } = await server.call(SessionAnswer, 'GET', '/api/session');
  if (person.id !== personId) return;
  await writeKept(db, { person });
  await rechain(db, showerId, personId, ports.newId, null, 0, person.name);
  report.changed.add(showerId);
  await pushShower(round, showerId);
}

/** A signature that was broken off is set aside, so that what was written after it goes out. */
async function healSignature({ db, personId, ports, report }: Round, showerId: string): Promise<void> {
  const left = brokenSignature(await entriesOf(db, showerId), personId, ports.nowMs());
  if (!left) return;
  await rechain(db, showerId, personId, ports.newId, left.id);
  report.changed.add(showerId);
}

/**
 * A chain that the server can't continue belongs to a tablet that was copied or restored: what it still holds goes on
 * under a new device number.
 */
async function healChain(round: Round, showerId: string): Promise<void> {
  const { db, personId, ports, report } = round;
  const entries = await entriesOf(db, showerId);
  const broken = entries.some(
    (e) => e.authorId === personId && e.ledgerSeq === null && e.refused?.code === 'chain-broken',
  );
  if (!broken) return;
  await pullShower(round, showerId);
  await rechain(db, showerId, personId, ports.newId);
  report.changed.add(showerId);
  await pushShower(round, showerId);
}

/** Writes down the server's row in one transaction: an entry appended meanwhile keeps its place in the chain. */
async function noteRow(db: Database, row: ShowerRow): Promise<{ isNew: boolean; cursor: number }> {
  const tx = db.transaction('showers', 'readwrite');
  const known = (await tx.store.get(row.id)) ?? emptyShower(row.id);
  await tx.store.put({ ...known, row });
  await tx.done;
  return { isNew: known.row === null, cursor: known.cursor };
}

/** The newest rule book, where this tablet has another one or had it from the server as it was before a restore. */
async function pullNewestBook({ db, server, report }: Pulling, { epoch, newestBook }: FirmAnswer): Promise<void> {
  const mark = newestBook && `${epoch} ${newestBook.id}@${newestBook.version}`;
  if (!mark || (await readKept(db)).book === mark) return;
  const { book } = await server.call(RuleBookAnswer, 'GET', '/api/rule-books/newest');
  await db.put('books', book, `${book.id}@${book.version}`);
  report.books = true;
  // A newer one may have been published between the two answers; it is asked for in the next round.
  if (book.version === newestBook.version) await writeKept(db, { book: mark });
}

/** Where a rule book is kept on this tablet: another firm's beside the own of the same number. */
export const bookKey = (origin: string, id: string, version: number): string =>
  origin === '' ? `${id}@${version}` : `${origin} ${id}@${version}`;

/** The versions that a shower was pinned to. */
async function pullPinnedBooks({ db, server, report }: Pulling, showerId: string): Promise<void> {
  const origin = (await db.get('showers', showerId))?.row?.bookOrigin ?? '';
  for (const entry of await entriesOf(db, showerId)) {
    if (!entry.text.includes('"kind":"rules-pinned"')) continue;
    const { body } = JSON.parse(entry.text) as { body: { ruleBook: string; version: number } };
    const { ruleBook, version } = body;
    if (await db.get('books', bookKey(origin, ruleBook, version))) continue;
    const path = `/api/rule-books/${ruleBook}/${version}`;
    // Another firm's book where there is one; else the firm's own.
    const foreign =
      origin === '' ? null : await orMissing(server.call(RuleBookAnswer, 'GET', `${path}?origin=${origin}`));
    const { book } = foreign ?? (await server.call(RuleBookAnswer, 'GET', path));
    await db.put('books', book, bookKey(origin, ruleBook, version));
    report.books = true;
  }
}

/** An answer, or null where the server has no such thing. */
async function orMissing<T>(asked: Promise<T>): Promise<T | null> {
  return asked.catch((error: unknown) => {
    if (error instanceof ApiError && error.code === 'not-found') return null;
    throw error;
  });
}

/**
 * The rule books of showers that grew since their books were last looked for: a round that broke in between is made up for in
 * the next.
 */
async function pullBooks(round: Round, sick: Sick): Promise<void> {
  const { db } = round;
  const waiting = new Set(await showersWaiting(db));
  for (const { id, cursor, booksAt } of await db.getAll('showers')) {
    const own = waiting.has(id);
    if (booksAt === cursor && !own) continue;
    await sick.spare(async () => {
      await pullPinnedBooks(round, id);
      const tx = db.transaction('showers', 'readwrite');
      const shower = await tx.store.get(id);
      if (shower) await tx.store.put({ ...shower, booksAt: cursor });
      await tx.done;
    });
  }
}

/** Failures of single showers: each is kept for the end of the round, and the others go on. No network stops everything. */
class Sick {
  first: unknown = null;
  async spare(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (!isOfOneShower(error)) throw error;
      this.first ??= error;
    }
  }
}

/** A refusal or an answer that can't be read concerns what was asked for; all else concerns the way to the server. */
const isOfOneShower = (error: unknown): boolean =>
  error instanceof ApiError ? !['offline', 'not-signed-in'].includes(error.code) : error instanceof ZodError;

/**
 * One round: the firm and the list, then what others wrote, then what waits here, then the rule books. Pictures go their own
 * way, since they must not hold back what was typed. One sick shower does not block the others; its failure is thrown at the
 * end. What a round found out stands in `report`, also when it breaks.
 */
export async function syncOnce(
  db: Database,
  personId: string,
  outside: Outside,
  report: SyncReport = emptyReport(),
): Promise<SyncReport> {
  const sick = new Sick();
  const round: Round = { ...outside, db, personId, report };
  const firm = await outside.server.call(FirmAnswer, 'GET', '/api/firm');
  report.restored = await noteFirm(db, firm, outside.ports.nowMs());
  const { showers } = await outside.server.call(ShowerList, 'GET', '/api/showers');
  // Few rows change from one round to the next: only those are written.
  const known = new Map((await db.getAll('showers')).map((s) => [s.id, s]));
  const behind = showers.filter((row) => (known.get(row.id)?.cursor ?? 0) < row.headSeq).length;
  let pulled = 0;
  await inLanes(showers, PULLS_AT_ONCE, async (row) => {
    const before = known.get(row.id);
    const same = JSON.stringify(before?.row) === JSON.stringify(row);
    const { isNew, cursor } = before && same ? { isNew: false, cursor: before.cursor } : await noteRow(db, row);
    if (isNew) report.changed.add(row.id);
    if (cursor >= row.headSeq) return;
    await sick.spare(() => pullShower(round, row.id));
    pulled += 1;
    outside.onPulled?.(pulled, behind);
  });
  for (const id of await showersWaiting(db))
    await sick.spare(async () => {
      await healSignature(round, id);
      await pushShower(round, id);
      await healClock(round, id);
      await healName(round, id);
      await healChain(round, id);
    });
  await pullNewestBook(round, firm);
  await pullBooks(round, sick);
  if (sick.first !== null) throw sick.first;
  return report;
}

/** Fetches one shower that is not among those a tablet keeps by itself. Throws an `ApiError` when it can't be had. */
export async function fetchOne(db: Database, showerId: string, server: Server): Promise<boolean> {
  const row = await server.call(ShowerRow, 'GET', `/api/showers/${showerId}`);
  await noteRow(db, row);
  const pulling = { db, server, report: emptyReport() };
  await pullShower(pulling, showerId);
  await pullPinnedBooks(pulling, showerId);
  return true;
}

export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';
