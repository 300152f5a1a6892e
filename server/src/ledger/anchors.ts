import { canonicalText } from '@careful-seam/core/log/chain';
import { type DataSource, LessThan } from 'typeorm';
import { z } from 'zod';
import { RuleBookEntity } from '../store/entities/firm';
import { AnchorEntity, type AnchorRow } from '../store/entities/trust';
import { sha256 } from '../store/sha256';

/** What an anchor says: the one before it, when it was made, every head that moved since, and all rule books. */
export const AnchorText = z.object({
  seq: z.number().int(),
  day: z.string(),
  madeAt: z.string(),
  previous: z.string().nullable(),
  heads: z.array(z.tuple([z.string(), z.number().int(), z.string()])),
  /** Every version of every rule book: origin, id, version, hash of its canonical JSON. Anchors before 2026-11-28 have none. */
  books: z.array(z.tuple([z.string(), z.string(), z.number().int(), z.string()])).default([]),
});

/** What an anchor says. */
export type AnchorText = z.infer<typeof AnchorText>;

/** What names the content of a rule book. */
export const bookHash = (data: unknown): string => sha256(canonicalText(data));

/** All rule books with their hashes. */
async function booksNow(store: DataSource): Promise<[string, string, number, string][]> {
  const rows = await store.getRepository(RuleBookEntity).find({ order: { origin: 'ASC', id: 'ASC', version: 'ASC' } });
  return rows.map((b) => [b.origin, b.id, b.version, bookHash(b.data)]);
}

/** Ledgers that grew since an anchor. */
async function headsSince(store: DataSource, since: string | null): Promise<[string, number, string][]> {
  const rows: { id: string; seq: number; hash: string }[] = await store.query(
    `SELECT shower_id AS id, head_seq AS seq, encode(head_hash, 'hex') AS hash FROM shower_head
    WHERE head_hash IS NOT NULL AND ($1::timestamptz IS NULL OR updated_at >= $1::timestamptz - interval '1 minute') ORDER BY 1`,
    [since],
  );
  return rows.map((r) => [r.id, r.seq, r.hash]);
}

/**
 * Makes the anchor of this UTC day when there is none yet: the heads that moved since the last one and all rule books, chained to it.
 * Printed or kept elsewhere it shows later that no entry before it was changed. Gives null when the day has one.
 */
export async function makeAnchor(store: DataSource, now: Date): Promise<AnchorRow | null> {
  const anchors = store.getRepository(AnchorEntity);
  const [last] = await anchors.find({ order: { seq: 'DESC' }, take: 1 });
  const day = now.toISOString().slice(0, 10);
  // Not "a later day has one": a clock that once stood years ahead would end all anchors until then.
  if (await anchors.existsBy({ day })) return null;
  const [before] = await anchors.find({ where: { day: LessThan(day) }, order: { seq: 'DESC' }, take: 1 });
  const since = before ? AnchorText.parse(JSON.parse(before.text)).madeAt : null;
  const seq = (last?.seq ?? 0) + 1;
  const text = canonicalText({
    seq,
    day,
    madeAt: now.toISOString(),
    previous: last?.hash ?? null,
    heads: await headsSince(store, since),
    books: await booksNow(store),
  });
  const row: AnchorRow = { seq, day, text, hash: sha256(text) };
  await anchors.createQueryBuilder().insert().values(row).orIgnore().execute();
  return anchors.findOneBy({ seq });
}
