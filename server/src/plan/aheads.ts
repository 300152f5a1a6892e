import type { PlanBook } from '@careful-seam/contract/api/plan';
import { ON_A_TABLET } from '@careful-seam/contract/api/sync';
import { type ShowerAhead, showerAhead } from '@careful-seam/core/plan/ahead';
import { atMoment } from '@careful-seam/core/proof/fold/foldShower';
import type { DataSource } from 'typeorm';
import { loadShowers } from '../showers/loadShower';
import { SHOWER_COLUMNS, type ShowerWithHead } from '../showers/showerRows';

/** What was worked out is good for so long while nothing is written, ms: the air of the days before moves on. */
const GOOD_FOR_MS = 3 * 3_600_000;
/** Showers that are folded in one go. */
const AT_ONCE = 50;
/** Goes up when what is worked out of the same entries may be another. */
const AHEAD_VERSION = 1;

/** An open shower, with what its entries tell of the stages ahead; null for one that has none. */
export interface OpenShower {
  row: ShowerWithHead;
  ahead: ShowerAhead | null;
}

/**
 * The firm's open showers as the plan needs them, newest first, as many as a tablet holds. Only what was written to since is folded anew; what one server
 * worked out, the others read. `book` holds what somebody typed of the air.
 */
export async function openShowers(store: DataSource, book: PlanBook, now: Date): Promise<OpenShower[]> {
  const rows: (ShowerWithHead & { data: ShowerAhead | null; good: boolean })[] = await store.query(
    `SELECT ${SHOWER_COLUMNS}, a.data, coalesce(a.version = $1 AND a.head_seq = h.head_seq AND a.made_at > $2, false) AS good
    FROM shower s JOIN shower_head h ON h.shower_id = s.id LEFT JOIN shower_ahead a ON a.shower_id = s.id
    WHERE NOT h.is_signed ORDER BY h.updated_at DESC LIMIT $3`,
    [AHEAD_VERSION, new Date(now.getTime() - GOOD_FOR_MS), ON_A_TABLET],
  );
  const aheads = new Map(rows.filter((r) => r.good).map((r) => [r.id, r.data]));
  const behind = rows.filter((r) => !r.good).map((r) => r.id);
  for (let from = 0; from < behind.length; from += AT_ONCE) {
    const made: { id: string; headSeq: number; data: ShowerAhead | null }[] = [];
    for (const load of await loadShowers(store, behind.slice(from, from + AT_ONCE)))
      try {
        const { row, entries, state } = load();
        const data = showerAhead(atMoment(state, now.getTime()), row.id, book.showers[row.id]?.air ?? null);
        made.push({ id: row.id, headSeq: entries.length, data });
        aheads.set(row.id, data);
      } catch {
        // One that can't be folded has no plan; it is told where it is opened.
        made.push({ id: '', headSeq: 0, data: null });
      }
    const kept = made.filter((m) => m.id !== '');
    await store.query(
      `INSERT INTO shower_ahead (shower_id, head_seq, version, made_at, data)
      SELECT t.id, t.head_seq, $2, $3, t.data FROM jsonb_to_recordset($1::jsonb) AS t(id uuid, head_seq integer, data jsonb)
      ON CONFLICT (shower_id) DO UPDATE SET head_seq = excluded.head_seq, version = excluded.version, made_at = excluded.made_at, data = excluded.data`,
      [JSON.stringify(kept.map(({ headSeq, ...m }) => ({ ...m, head_seq: headSeq }))), AHEAD_VERSION, now],
    );
  }
  return rows.map(({ data: _data, good: _good, ...row }) => ({ row, ahead: aheads.get(row.id) ?? null }));
}

/** What was typed of a shower's air changed: it is worked out anew. */
export const forgetAhead = (store: DataSource, showerId: string): Promise<unknown> =>
  store.query('DELETE FROM shower_ahead WHERE shower_id = $1', [showerId]);
