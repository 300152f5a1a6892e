import { setImmediate as others } from 'node:timers/promises';
import type { QueueLine } from '@careful-seam/contract/api/queue';
import type { ShowerState } from '@careful-seam/core/log/state';
import { countDecisions, decisionsWaiting } from '@careful-seam/core/proof/holds/decisionsWaiting';
import type { DataSource } from 'typeorm';
import { loadShower } from '../showers/loadShower';
import { oneShowerRow } from '../showers/showerRows';

/** Lines of one page. */
const PAGE = 100;
/** Showers whose ledger grew since they were looked through; of those that stood still since the place, none is walked. */
const STALE = `FROM shower_head h
  LEFT JOIN LATERAL (SELECT head_seq FROM shower_queue WHERE shower_id = h.shower_id LIMIT 1) q ON true
  WHERE h.moved >= $1 AND h.head_seq > 0 AND q.head_seq IS DISTINCT FROM h.head_seq`;
/** Up to where everything was looked through. Asked for first: the planner then knows how few have moved since. */
async function placeDone(store: DataSource): Promise<string> {
  const [{ place }] = await store.query('SELECT coalesce(max(place), 0)::text AS place FROM queue_place');
  return place;
}

/** Showers looked through in one go. */
const AT_ONCE = 2000;

/** Up to here nothing is left to look through: what is written later moves beyond it. */
async function notePlace(store: DataSource, place: string): Promise<void> {
  await store.query(
    `WITH changed AS (UPDATE queue_place SET place = greatest(place, $1::bigint) RETURNING 1)
    INSERT INTO queue_place (place) SELECT $1::bigint WHERE NOT EXISTS (SELECT 1 FROM changed)`,
    [place],
  );
}

/** What waits in a shower, and since when. */
export function waitsIn(state: ShowerState): { decisions: number; holds: number; since: string | null } {
  const waiting = decisionsWaiting(state);
  const holds = [...state.defects.values()].filter((d) => d.closedAt === null && d.severity !== 'note');
  const moments = [
    ...waiting.deviations.map((d) => d.askedAt),
    ...waiting.looks.flatMap((looks) => looks.map((l) => l.observedAt)),
    ...holds.map((d) => d.observedAt),
  ];
  const since = moments.length === 0 ? null : moments.reduce((a, b) => (a < b ? a : b));
  return { decisions: countDecisions(waiting), holds: holds.length, since };
}

/**
 * Looks through showers that grew, one after the other so that others are answered in between, until none is left or the time is
 * over. Several servers may do so at once: each writes the same. Gives how many it looked through.
 */
export async function bringQueueUpToDate(store: DataSource, untilMs: number): Promise<number> {
  const [{ place }] = await store.query('SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS place');
  const stale: { id: string }[] = await store.query(
    `SELECT h.shower_id AS id ${STALE} ORDER BY h.moved DESC LIMIT ${AT_ONCE}`,
    [await placeDone(store)],
  );
  let done = 0;
  for (const { id } of stale) {
    if (done > 0 && Date.now() >= untilMs) break;
    const row = await oneShowerRow(store, id);
    if (!row) continue;
    const { state } = await loadShower(store, row);
    const { decisions, holds, since } = waitsIn(state);
    await store.query(
      `INSERT INTO shower_queue (shower_id, head_seq, decisions, holds, since) VALUES ($1,$2,$3,$4,$5)
      ON CONFLICT (shower_id) DO UPDATE SET head_seq = $2, decisions = $3, holds = $4, since = $5`,
      [id, row.headSeq, decisions, holds, since ?? row.updatedAt],
    );
    done += 1;
    await others();
  }
  if (stale.length < AT_ONCE) await notePlace(store, place);
  return done;
}

/** One page of what waits, longest first; `from` is what the page before ended with. */
export async function readQueue(store: DataSource, from: string | null) {
  const [at, id] = from?.split(' ') ?? [];
  const isPage = at !== undefined && !Number.isNaN(Date.parse(at)) && /^[0-9a-f-]{36}$/.test(id ?? '');
  const rows: (Omit<QueueLine, 'since'> & { since: Date })[] = await store.query(
    `SELECT s.id, s.name, s.job, q.decisions, q.holds, q.since FROM shower_queue q JOIN shower s ON s.id = q.shower_id
    WHERE q.waits AND ($1::timestamptz IS NULL OR (q.since, s.id) > ($1, $2::uuid))
    ORDER BY q.since, s.id LIMIT $3`,
    [isPage ? at : null, isPage ? id : null, PAGE + 1],
  );
  const [sums] = await store.query(
    'SELECT coalesce(sum(decisions), 0)::int AS decisions, coalesce(sum(holds), 0)::int AS holds FROM shower_queue WHERE waits',
  );
  const [{ behind }] = await store.query(`SELECT count(*)::int AS behind ${STALE}`, [await placeDone(store)]);
  const lines = rows.slice(0, PAGE).map((r) => ({ ...r, since: r.since.toISOString() }));
  const last = lines.at(-1);
  return { ...sums, behind, lines, next: rows.length > PAGE && last ? `${last.since} ${last.id}` : null };
}
