import { FACTS_VERSION } from '@careful-seam/core/crews/facts';
import type { DataSource } from 'typeorm';

/** Showers whose ledger moved since they were counted, or that were counted by an older version; those that stood still since the place are not walked. */
export const BEHIND = `FROM shower_head h
  LEFT JOIN LATERAL (SELECT head_seq, version FROM projection WHERE shower_id = h.shower_id LIMIT 1) p ON true
  WHERE h.moved >= $1 AND h.head_seq > 0 AND (p.head_seq IS DISTINCT FROM h.head_seq OR p.version <> ${FACTS_VERSION})`;

/** Up to where everything was counted by this version. Asked for first: the planner then knows how few have moved since. */
export async function placeCounted(store: DataSource): Promise<string> {
  const [{ place }] = await store.query(
    'SELECT coalesce(max(place), 0)::text AS place FROM projection_place WHERE version = $1',
    [FACTS_VERSION],
  );
  return place;
}

/** How many showers are not counted yet as they stand now. */
export async function countBehind(store: DataSource): Promise<number> {
  const [{ behind }] = await store.query(`SELECT count(*)::int AS behind ${BEHIND}`, [await placeCounted(store)]);
  return behind;
}
