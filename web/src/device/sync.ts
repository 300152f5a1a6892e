import {
  CrewList,
  PHOTO_BYTES_AT_MOST,
  PhotoTaken,
  PUSH_AT_MOST,
  PullAnswer,
  PushAnswer,
  RuleBookAnswer,
  ShowerList,
  type ShowerRow,
} from '@careful-seam/contract/api/messages';
import { v4 } from 'uuid';
import { ApiError, call, send } from './api';
import { type Database, emptyShower, type StoredShower, writeKept } from './database';
import { acknowledge, entriesOf, takeIn, waiting } from './outbox';
import { rechain } from './rechain';

/** What a round of sync found out. */
export interface SyncReport {
  changed: Set<string>;
  skewMs: number | null;
}

async function pushShower(db: Database, showerId: string, personId: string, report: SyncReport): Promise<void> {
  for (;;) {
    const next = waiting(await entriesOf(db, showerId), personId).slice(0, PUSH_AT_MOST);
    if (next.length === 0) return;
    const answer = await call(PushAnswer, 'POST', `/api/showers/${showerId}/entries`, {
      clock: new Date().toISOString(),
      entries: next.map((e) => e.text),
    });
    await acknowledge(db, answer);
    report.skewMs = answer.skewMs;
    report.changed.add(showerId);
    if (answer.refused) return;
  }
}

/** Pulls what this tablet lacks of one shower. */
async function pullShower(db: Database, showerId: string, report: SyncReport): Promise<void> {
  for (;;) {
    const shower = (await db.get('showers', showerId)) ?? emptyShower(showerId);
    const answer = await call(PullAnswer, 'GET', `/api/showers/${showerId}/entries?after=${shower.cursor}`);
    if (answer.entries.length > 0) {
      await takeIn(db, showerId, answer.entries);
      report.changed.add(showerId);
    }
    if (!answer.more) return;
  }
}

/**
 * A chain that the server can't continue belongs to a tablet that was copied or restored: what it still holds goes on
 * under a new device number, in the next round.
 */
async function healChain(db: Database, showerId: string, personId: string, report: SyncReport): Promise<void> {
  const entries = await entriesOf(db, showerId);
  const broken = entries.some(
    (e) => e.authorId === personId && e.ledgerSeq === null && e.refused?.code === 'chain-broken',
  );
  if (!broken) return;
  await rechain(db, showerId, personId, v4);
  report.changed.add(showerId);
  await pushShower(db, showerId, personId, report);
}

/** Writes down the server's row in one transaction: an entry appended meanwhile keeps its place in the chain. */
async function noteRow(db: Database, row: ShowerRow): Promise<StoredShower> {
  const tx = db.transaction('showers', 'readwrite');
  const known = (await tx.store.get(row.id)) ?? emptyShower(row.id);
  await tx.store.put({ ...known, row });
  await tx.done;
  return known;
}

async function pushPhotos(db: Database): Promise<void> {
  for (const photo of await db.getAll('photos')) {
    if (photo.sent || photo.blob.size > PHOTO_BYTES_AT_MOST) continue;
    const response = await send('PUT', `/api/photos/${photo.hash}`, photo.blob, photo.blob.type);
    PhotoTaken.parse(await response.json());
    await db.put('photos', { ...photo, sent: true });
  }
}

async function pullBooks(db: Database, showerIds: readonly string[]): Promise<void> {
  const { book } = await call(RuleBookAnswer, 'GET', '/api/rule-books/newest');
  await db.put('books', book, `${book.id}@${book.version}`);
  for (const id of showerIds) {
    for (const entry of await entriesOf(db, id)) {
      if (!entry.text.includes('"kind":"rules-pinned"')) continue;
      const { body } = JSON.parse(entry.text) as { body: { ruleBook: string; version: number } };
      const key = `${body.ruleBook}@${body.version}`;
      if (await db.get('books', key)) continue;
      const { book } = await call(RuleBookAnswer, 'GET', `/api/rule-books/${body.ruleBook}/${body.version}`);
      await db.put('books', book, key);
    }
  }
}

/** One round: crews and list, then each shower's own entries out and others' in, rule books, pictures. */
export async function syncOnce(db: Database, personId: string): Promise<SyncReport> {
  const report: SyncReport = { changed: new Set(), skewMs: null };
  const { crews } = await call(CrewList, 'GET', '/api/crews');
  await writeKept(db, { crews });
  const local = await db.getAllKeys('showers');
  for (const id of local) await pushShower(db, id, personId, report);
  const { showers } = await call(ShowerList, 'GET', '/api/showers');
  for (const row of showers) {
    const known = await noteRow(db, row);
    if (known.row === null) report.changed.add(row.id);
    if (known.cursor < row.headSeq) await pullShower(db, row.id, report);
  }
  for (const row of showers) await healChain(db, row.id, personId, report);
  await pullBooks(
    db,
    showers.map((s) => s.id),
  );
  await pushPhotos(db);
  return report;
}

export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';
