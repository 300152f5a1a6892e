import { canonicalText, sha256Hex } from '@careful-seam/core/entries/chain';
import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { AnchorEntity, type AnchorRow } from '../store/entities';

/** What an anchor says: the one before it, when it was made, and every head that moved since. */
export const AnchorText = z.object({
  seq: z.number().int(),
  day: z.string(),
  madeAt: z.string(),
  previous: z.string().nullable(),
  heads: z.array(z.tuple([z.string(), z.number().int(), z.string()])),
});

async function headsSince(store: DataSource, since: string | null): Promise<[string, number, string][]> {
  const rows: { id: string; seq: number; hash: string }[] = await store.query(
    `SELECT id, head_seq AS seq, head_hash AS hash FROM shower
    WHERE head_hash IS NOT NULL AND ($1::timestamptz IS NULL OR updated_at >= $1::timestamptz - interval '1 minute') ORDER BY id`,
    [since],
  );
  return rows.map((r) => [r.id, r.seq, r.hash]);
}

/**
 * Makes the anchor of this UTC day when there is none yet: the heads that moved since the last one, chained to it.
 * Printed or kept elsewhere it shows later that no entry before it was changed. Gives null when the day has one.
 */
export async function makeAnchor(store: DataSource, now: Date): Promise<AnchorRow | null> {
  const anchors = store.getRepository(AnchorEntity);
  const [last] = await anchors.find({ order: { seq: 'DESC' }, take: 1 });
  const day = now.toISOString().slice(0, 10);
  if (last && last.day >= day) return null;
  const since = last ? AnchorText.parse(JSON.parse(last.text)).madeAt : null;
  const seq = (last?.seq ?? 0) + 1;
  const text = canonicalText({
    seq,
    day,
    madeAt: now.toISOString(),
    previous: last?.hash ?? null,
    heads: await headsSince(store, since),
  });
  const row: AnchorRow = { seq, day, text, hash: sha256Hex(text) };
  await anchors.createQueryBuilder().insert().values(row).orIgnore().execute();
  return anchors.findOneBy({ seq });
}
