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
import { type Database, emptyShower } from './database';
import { noteFirm } from './epoch';
import { acknowledge, entriesOf, type Ports, takeIn, waiting } from './outbox';
import { rechain } from './rechain';

/** What a round needs from outside. */
export interface Outside {
  server: Server;
  ports: Pick<Ports, 'newId' | 'nowMs'>;
}

/** What a round of sync found out. */
export interface SyncReport {
  changed: Set<string>;
  skewMs: number | null;
  /** The server was restored, and this tablet sent what it lacked. */
  restored: boolean;
}

interface Round extends Outside {
  db: Database;
  personId: string;
  report: SyncReport;
}

/** Pulls what this tablet lacks of one shower. */
async function pullShower(
  { db, server, report }: Pick<Round, 'db' | 'server' | 'report'>,
  showerId: string,
): Promise<void> {
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

async function pullBooks({ db, server }: Pick<Round, 'db' | 'server'>, showerIds: readonly string[]): Promise<void> {
  const { book } = await server.call(RuleBookAnswer, 'GET', '/api/rule-books/newest');
  await db.put('books', book, `${book.id}@${book.version}`);
  for (const id of showerIds) {
    for (const entry of await entriesOf(db, id)) {
      if (!entry.text.includes('"kind":"rules-pinned"')) continue;
      const { body } = JSON.parse(entry.text) as { body: { ruleBook: string; version: number } };
      const key = `${body.ruleBook}@${body.version}`;
      if (await db.get('books', key)) continue;
      const path = `/api/rule-books/${body.ruleBook}/${body.version}`;
      await db.put('books', (await server.call(RuleBookAnswer, 'GET', path)).book, key);
    }
  }
}

/**
 * One round: the firm and the list, then what others wrote, then what waits here, then the rule books. Pictures go
 * their own way, since they must not hold back what was typed.
 */
export async function syncOnce(db: Database, personId: string, outside: Outside): Promise<SyncReport> {
  const report: SyncReport = { changed: new Set(), skewMs: null, restored: false };
  const round: Round = { ...outside, db, personId, report };
  const firm = await outside.server.call(FirmAnswer, 'GET', '/api/firm');
  report.restored = await noteFirm(db, firm, outside.ports.nowMs());
  const { showers } = await outside.server.call(ShowerList, 'GET', '/api/showers');
  for (const row of showers) {
    const { isNew, cursor } = await noteRow(db, row);
    if (isNew) report.changed.add(row.id);
    if (cursor < row.headSeq) await pullShower(round, row.id);
  }
  for (const id of await db.getAllKeys('showers')) {
    await pushShower(round, id);
    await healChain(round, id);
  }
  const changed = showers.map((s) => s.id).filter((id) => report.changed.has(id));
  await pullBooks(round, changed);
  return report;
}

/** Fetches one shower that is not among those a tablet keeps by itself. Throws an `ApiError` when it can't be had. */
export async function fetchOne(db: Database, showerId: string, server: Server): Promise<boolean> {
  const row = await server.call(ShowerRow, 'GET', `/api/showers/${showerId}`);
  await noteRow(db, row);
  const report: SyncReport = { changed: new Set(), skewMs: null, restored: false };
  await pullShower({ db, server, report }, showerId);
  await pullBooks({ db, server }, [showerId]);
  return true;
}

export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';
