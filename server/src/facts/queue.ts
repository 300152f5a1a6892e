import type { QueueLine } from '@careful-seam/contract/api/queue';
import type { ShowerState } from '@careful-seam/core/log/state';
import { countDecisions, decisionsWaiting } from '@careful-seam/core/proof/holds/decisionsWaiting';
import type { DataSource } from 'typeorm';
import { countBehind } from './behind';

/** Lines of one page. */
const PAGE = 100;
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
  const behind = await countBehind(store);
  const lines = rows.slice(0, PAGE).map((r) => ({ ...r, since: r.since.toISOString() }));
  const last = lines.at(-1);
  return { ...sums, behind, lines, next: rows.length > PAGE && last ? `${last.since} ${last.id}` : null };
}
