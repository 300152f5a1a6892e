import {
  PUSH_AT_MOST,
  PullAnswer,
  PushAnswer,
  RuleBookAnswer,
  SessionAnswer,
  ShowerList,
  ShowerRow,
} from '@careful-seam/contract/api/messages';
import { BATCH_AT_MOST, BatchLine, SyncAnswer } from '@careful-seam/contract/api/sync';
import { ZodError } from 'zod';
import { ApiError, type Server } from './api';
import { type Database, emptyShower, marked, readKept, type StoredShower, writeKept } from './database';
import { noteAnswer } from './epoch';
import {
  acknowledge,
  brokenSignature,
  entriesOf,
  type Ports,
  type Pulled,
  showersWaiting,
  takeIn,
  takeInAll,
  unsentOf,
  waiting,
} from './outbox';
import { rechain } from './rechain';

/** What a round needs from outside. */
export interface Outside {
  server: Server;
  ports: Pick<Ports, 'newId' | 'nowMs'>;
  /** Told of each shower that changed elsewhere once it is here: how many are, and of how many. */
  onPulled?: (done: number, of: number, showerId: string) => void;
}

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
  /** Showers of which the server has more than this tablet, after the round. */
  behind: number;
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
  behind: 0,
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
    const next = waiting(await unsentOf(db, showerId), personId).slice(0, PUSH_AT_MOST);
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
  const ahead = (await unsentOf(db, showerId)).some(
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
  const renamed = (await unsentOf(db, showerId)).some(
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
  const left = brokenSignature(await unsentOf(db, showerId), personId, ports.nowMs());
  if (!left) return;
  await rechain(db, showerId, personId, ports.newId, left.id);
  report.changed.add(showerId);
}

/** What the server says of a chain that it can't continue. */
const BROKEN_CHAIN: ReadonlySet<string> = new Set(['chain-broken', 'chain-gap']);

/**
 * A chain that the server can't continue belongs to a tablet that was copied or restored: what it still holds goes on
 * under a new device number.
 */
async function healChain(round: Round, showerId: string): Promise<void> {
  const { db, personId, ports, report } = round;
  const entries = await unsentOf(db, showerId);
  const broken = entries.some(
    (e) => e.authorId === personId && e.ledgerSeq === null && BROKEN_CHAIN.has(e.refused?.code ?? ''),
  );
  if (!broken) return;
  await pullShower(round, showerId);
  await rechain(db, showerId, personId, ports.newId);
  report.changed.add(showerId);
  await pushShower(round, showerId);
}

/** Writes down the server's row in one transaction: an entry appended meanwhile keeps its place in the chain. */
async function noteRow(db: Database, row: ShowerRow): Promise<void> {
  const tx = db.transaction('showers', 'readwrite');
  const known = (await tx.store.get(row.id)) ?? emptyShower(row.id);
  await tx.store.put(marked({ ...known, row }));
  await tx.done;
}

/** A place from which the server knows nothing is asked anew from the beginning; a second time it is something else. */
const ASKS_AT_MOST = 3;

/** Asks what moved since the last round, and writes it down. */
async function hearWhatMoved({ db, server, report, ports }: Round): Promise<void> {
  for (let asked = 1; ; asked += 1) {
    const { since, firmMark } = await readKept(db);
    // From the beginning: whatever else lies here is asked for too, so that nothing that is kept grows old unseen.
    const known = since === null ? await db.getAllKeys('showers') : [];
    const answer = await server.call(SyncAnswer, 'POST', '/api/sync', { since, firm: firmMark, known });
    const { restored, fresh } = await noteAnswer(db, answer, ports.nowMs());
    report.restored ||= restored;
    for (const id of fresh) report.changed.add(id);
    if (answer.since !== null || asked === ASKS_AT_MOST) return;
  }
}

/** What is wanted first: visits that are due by their day, then what this person is to look at, then the newest change. */
function inOrderOfNeed(showers: readonly StoredShower[], personId: string): StoredShower[] {
  const need = ({ row }: StoredShower): string =>
    row === null ? '9' : row.visitOn !== null ? `0 ${row.visitOn}` : row.inspectorId === personId ? '1' : '2';
  return [...showers].sort(
    (a, b) => need(a).localeCompare(need(b)) || (b.row?.updatedAt ?? '').localeCompare(a.row?.updatedAt ?? ''),
  );
}

/** Entries that are written down together: a transaction costs as much as some dozens of them. */
const TOGETHER = 1500;
/** The first of them sooner: somebody waits for the day's list. */
const FIRST_TOGETHER = 300;

/** Fetches everything that the server has and this tablet lacks, in one answer that is read as it comes. */
async function pullBehind(round: Round, sick: Sick): Promise<void> {
  const { db, server, personId } = round;
  const behind = inOrderOfNeed(await db.getAllFromIndex('showers', 'byLag'), personId);
  let done = 0;
  for (let from = 0; from < behind.length; from += BATCH_AT_MOST) {
    const want = behind.slice(from, from + BATCH_AT_MOST).map((s) => ({ id: s.id, after: s.cursor }));
    let held: Pulled[] = [];
    const keep = async () => {
      const [pulled, ids] = [held, [...new Set(held.map((h) => h.id))]];
      held = [];
      await takeInAll(db, pulled);
      for (const id of ids) {
        round.report.changed.add(id);
        done += 1;
        round.onPulled?.(Math.min(done, behind.length), behind.length, id);
      }
    };
    try {
      for await (const text of server.lines('POST', '/api/sync/entries', { want })) {
        const id = String((text as { id?: unknown } | null)?.id ?? '');
        // What is held is written down before another shower begins: one of many lines is counted once.
        const count = held.reduce((n, h) => n + h.entries.length, 0);
        if (count >= (done === 0 ? FIRST_TOGETHER : TOGETHER) && held.at(-1)?.id !== id) await keep();
        await sick.spare(async () => {
          const line = BatchLine.parse(text);
          if (line.missing) await notToBeHad(db, id);
          else held.push({ id, entries: line.entries });
        });
      }
    } finally {
      // An answer that broke off leaves what came of it.
      await keep();
    }
  }
}

/** This person may not see the shower any more: what is here stays, and is not asked for again. */
async function notToBeHad(db: Database, showerId: string): Promise<void> {
  const tx = db.transaction('showers', 'readwrite');
  const shower = await tx.store.get(showerId);
  if (shower?.row) await tx.store.put(marked({ ...shower, row: { ...shower.row, headSeq: shower.cursor } }));
  await tx.done;
}

/** The newest rule book, where this tablet has another one or had it from the server as it was before a restore. */
async function pullNewestBook({ db, server, report }: Pulling): Promise<void> {
  const { epoch, newestBook, book: here } = await readKept(db);
  const mark = newestBook && `${epoch} ${newestBook.id}@${newestBook.version}`;
  if (!mark || here === mark) return;
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
    if (error instanceof ApiError && error.status === 404) return null;
    throw error;
  });
}

/**
 * The rule books of showers that grew since their books were last looked for: a round that broke in between is made up for in
 * the next.
 */
async function pullBooks(round: Round, sick: Sick): Promise<void> {
  const { db } = round;
  const grown = await db.getAllKeysFromIndex('showers', 'byBookless');
  for (const id of new Set([...grown, ...(await showersWaiting(db))])) {
    await sick.spare(async () => {
      const cursor = (await db.get('showers', id))?.cursor;
      await pullPinnedBooks(round, id);
      const tx = db.transaction('showers', 'readwrite');
      const shower = await tx.store.get(id);
      if (shower && cursor !== undefined) await tx.store.put(marked({ ...shower, booksAt: cursor }));
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
 * One round: what moved, then the newest rule book, then what others wrote, then what waits here, then older rule books. Pictures go their own way, since
 * they must not hold back what was typed. One sick shower does not block the others; its failure is thrown at the end. What a
 * round found out stands in `report`, also when it breaks.
 */
export async function syncOnce(
  db: Database,
  personId: string,
  outside: Outside,
  report: SyncReport = emptyReport(),
): Promise<SyncReport> {
  const sick = new Sick();
  const round: Round = { ...outside, db, personId, report };
  try {
    await hearWhatMoved(round);
    // Before the showers: those that come first are shown while the others are on their way.
    await sick.spare(() => pullNewestBook(round));
    await pullBehind(round, sick);
    for (const id of await showersWaiting(db))
      await sick.spare(async () => {
        await healSignature(round, id);
        await pushShower(round, id);
        await healClock(round, id);
        await healName(round, id);
        await healChain(round, id);
      });
    await pullBooks(round, sick);
  } finally {
    report.behind = await db.countFromIndex('showers', 'byLag').catch(() => 0);
  }
  if (sick.first !== null) throw sick.first;
  return report;
}

/** Takes a whole job along, for where there is no signal: its showers come with the next round. Gives how many there are. */
export async function takeAlong(db: Database, job: string, server: Server): Promise<number> {
  let count = 0;
  for (let from = ''; ; ) {
    const path = `/api/showers?job=${encodeURIComponent(job)}&from=${encodeURIComponent(from)}`;
    const { showers, next } = await server.call(ShowerList, 'GET', path);
    for (const row of showers) await noteRow(db, row);
    count += showers.length;
    if (next === null) return count;
    from = next;
  }
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
