import { PullAnswer, RuleBookAnswer, ShowerList, ShowerRow } from '@careful-seam/contract/api/messages';
import { BatchLine } from '@careful-seam/contract/api/sync';
import { ApiError, type Server } from './api';
import { bookKey } from './bookKey';
import { type Database, marked, writeKept } from './database';
import { entriesOf, type Pulled, showersWaiting, takeIn, takeInAll } from './outbox';
import { readStored } from './readStored';
import { emptyReport, type Pulling, type Round, type Sick } from './round';
import { emptyShower } from './stored';

/** Pulls what this tablet lacks of one shower. */
export async function pullShower({ db, server, report }: Pulling, showerId: string): Promise<void> {
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

/** Writes down the server's row in one transaction: an entry appended meanwhile keeps its place in the chain. */
async function noteRow(db: Database, row: ShowerRow): Promise<void> {
  const tx = db.transaction('showers', 'readwrite');
  const known = (await tx.store.get(row.id)) ?? emptyShower(row.id);
  await tx.store.put(marked({ ...known, row }));
  await tx.done;
}

/** Entries that are written down together: a transaction costs as much as some dozens of them. */
const TOGETHER = 1500;
/** The first of them sooner: somebody waits for the day's list. */
const FIRST_TOGETHER = 300;

/**
 * Fetches what the server has more of some showers, in one answer that is read as it comes; `told` counts those of the whole
 * round. One that caught up meanwhile, since its own entries were pushed, is not asked for.
 */
export async function pullBatch(
  round: Round,
  showers: readonly string[],
  told: { done: number; of: number },
  sick: Sick,
): Promise<void> {
  const { db, server } = round;
  const here = await Promise.all(showers.map((id) => db.get('showers', id)));
  const want = here.flatMap((s) => (s?.lags ? [{ id: s.id, after: s.cursor }] : []));
  if (want.length === 0) return;
  let held: Pulled[] = [];
  const keep = async () => {
    const [pulled, ids] = [held, [...new Set(held.map((h) => h.id))]];
    held = [];
    await takeInAll(db, pulled);
    for (const id of ids) {
      round.report.changed.add(id);
      told.done += 1;
      round.onPulled?.(Math.min(told.done, told.of), told.of, id);
    }
  };
  try {
    for await (const text of server.lines('POST', '/api/sync/entries', { want })) {
      const id = String((text as { id?: unknown } | null)?.id ?? '');
      // What is held is written down before another shower begins: one of many lines is counted once.
      const count = held.reduce((n, h) => n + h.entries.length, 0);
      if (count >= (told.done === 0 ? FIRST_TOGETHER : TOGETHER) && held.at(-1)?.id !== id) await keep();
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

/** This person may not see the shower any more: what is here stays, and is not asked for again. */
async function notToBeHad(db: Database, showerId: string): Promise<void> {
  const tx = db.transaction('showers', 'readwrite');
  const shower = await tx.store.get(showerId);
  if (shower?.row) await tx.store.put(marked({ ...shower, row: { ...shower.row, headSeq: shower.cursor } }));
  await tx.done;
}

/** Fetches the newest rule book. */
export async function pullNewestBook({ db, server, report }: Pulling, version: number, mark: string): Promise<void> {
  const { book } = await server.call(RuleBookAnswer, 'GET', '/api/rule-books/newest');
  await db.put('books', book, bookKey('', book.id, book.version));
  report.books = true;
  // A newer one may have been published between the two answers; it is asked for in the next round.
  if (book.version === version) await writeKept(db, { book: mark });
}

/** The versions that a shower was pinned to. */
async function pullPinnedBooks({ db, server, report }: Pulling, showerId: string): Promise<void> {
  const origin = (await db.get('showers', showerId))?.row?.bookOrigin ?? '';
  for (const entry of await entriesOf(db, showerId)) {
    // Told by its text before it is read: most entries are not.
    const pinned = entry.text.includes('"kind":"rules-pinned"') ? readStored(entry) : null;
    if (pinned?.kind !== 'rules-pinned') continue;
    const { ruleBook, version } = pinned.body;
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
export async function pullBooks(round: Round, sick: Sick): Promise<void> {
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
