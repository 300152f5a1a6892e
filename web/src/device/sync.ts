import { FirmAnswer } from '@careful-seam/contract/api/firm';
import {
  PUSH_AT_MOST,
  PullAnswer,
  PushAnswer,
  RuleBookAnswer,
  ShowerList,
  ShowerRow,
} from '@careful-seam/contract/api/messages';
import { ApiError, type Server } from './api';
import { type Database, emptyShower, readKept, writeKept } from './database';
import { noteFirm } from './epoch';
import { inLanes } from './lanes';
import { acknowledge, entriesOf, type Ports, showersWaiting, takeIn, waiting } from './outbox';
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
}

interface Round extends Outside {
  db: Database;
  personId: string;
  report: SyncReport;
}

type Pulling = Pick<Round, 'db' | 'server' | 'report'>;
const emptyReport = (): SyncReport => ({ changed: new Set(), skewMs: null, books: false, restored: false });

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
    const answer = await server.call(PushAnswer, 'POST', `/api/showers/${showerId}/entries`, {
      clock: new Date(ports.nowMs()).toISOString(),
      entries: next.map((e) => e.text),
    });
    await acknowledge(db, showerId, answer, next);
    report.skewMs = answer.skewMs;
    report.changed.add(showerId);
    const last = answer.taken.at(-1);
    if (last && ((await db.get('showers', showerId))?.cursor ?? 0) < last.ledgerSeq) await pullShower(round, showerId);
    if (answer.refused) return;
  }
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

/** The versions that these showers were pinned to. */
async function pullPinnedBooks({ db, server, report }: Pulling, showerIds: readonly string[]): Promise<void> {
  for (const id of showerIds) {
    for (const entry of await entriesOf(db, id)) {
      if (!entry.text.includes('"kind":"rules-pinned"')) continue;
      const { body } = JSON.parse(entry.text) as { body: { ruleBook: string; version: number } };
      const key = `${body.ruleBook}@${body.version}`;
      if (await db.get('books', key)) continue;
      const path = `/api/rule-books/${body.ruleBook}/${body.version}`;
      await db.put('books', (await server.call(RuleBookAnswer, 'GET', path)).book, key);
      report.books = true;
    }
  }
}

/**
 * One round: the firm and the list, then what others wrote, then what waits here, then the rule books. Pictures go
 * their own way, since they must not hold back what was typed.
 */
export async function syncOnce(db: Database, personId: string, outside: Outside): Promise<SyncReport> {
  const report = emptyReport();
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
    await pullShower(round, row.id);
    pulled += 1;
    outside.onPulled?.(pulled, behind);
  });
  for (const id of await showersWaiting(db)) {
    await pushShower(round, id);
    await healChain(round, id);
  }
  await pullNewestBook(round, firm);
  const changed = showers.map((s) => s.id).filter((id) => report.changed.has(id));
  await pullPinnedBooks(round, changed);
  return report;
}

/** Fetches one shower that is not among those a tablet keeps by itself. Throws an `ApiError` when it can't be had. */
export async function fetchOne(db: Database, showerId: string, server: Server): Promise<boolean> {
  const row = await server.call(ShowerRow, 'GET', `/api/showers/${showerId}`);
  await noteRow(db, row);
  const pulling = { db, server, report: emptyReport() };
  await pullShower(pulling, showerId);
  await pullPinnedBooks(pulling, [showerId]);
  return true;
}

export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';
