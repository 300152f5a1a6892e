import type { Person, PulledEntry } from '@careful-seam/contract/api/messages';
import type { BatchLine } from '@careful-seam/contract/api/sync';
import type { DataSource } from 'typeorm';
import { ofCrew } from '../showers/showerRows';
import { EntryEntity, type EntryRow } from '../store/entities/showers';
import { crewOf } from './whatMoved';

/** Entries in one line of a batch, so that neither side holds a long shower at once. */
const LINE_ENTRIES = 500;

const pulled = (r: EntryRow): PulledEntry => ({
  text: r.text,
  hash: r.hash,
  ledgerSeq: r.ledgerSeq,
  ledgerHash: r.ledgerHash,
  receivedAt: r.receivedAt.toISOString(),
  skewMs: r.skewMs,
  imported: r.imported,
});

/** Entries of a shower after a place in its ledger, in order, at most `most`. */
export async function entriesAfter(
  store: DataSource,
  showerId: string,
  after: number,
  most: number,
): Promise<PulledEntry[]> {
  const rows = await store
    .getRepository(EntryEntity)
    .createQueryBuilder('e')
    .where('e.showerId = :showerId AND e.ledgerSeq > :after', { showerId, after })
    .orderBy('e.ledgerSeq')
    .limit(most)
    .getMany();
  return rows.map(pulled);
}

/** What a tablet wants of several showers, a line at a time in its own order. What this person may not see is missing. */
export async function* entryBatch(
  store: DataSource,
  person: Person,
  want: readonly { id: string; after: number }[],
): AsyncGenerator<BatchLine> {
  const rows: { id: string }[] = await store.query(
    `SELECT id FROM shower WHERE id = ANY($1) AND ($2::text IS NULL OR ${ofCrew('$2', '')})`,
    [want.map((w) => w.id), crewOf(person)],
  );
  const visible = new Set(rows.map((r) => r.id));
  for (const { id, after } of want) {
    if (!visible.has(id)) {
      yield { id, entries: [], missing: true };
      continue;
    }
    for (let from = after; ; ) {
      const entries = await entriesAfter(store, id, from, LINE_ENTRIES);
      if (entries.length > 0) yield { id, entries };
      if (entries.length < LINE_ENTRIES) break;
      from = entries.at(-1)!.ledgerSeq;
    }
  }
}
