import { FACTS_VERSION } from '@careful-seam/core/crews/facts';
import type { DataSource } from 'typeorm';

/** Showers whose ledger moved since a version counted them (`$2`); those that stood still since its place (`$1`) are not walked. */
export const BEHIND = `FROM shower_head h
  LEFT JOIN LATERAL (SELECT head_seq FROM projection WHERE shower_id = h.shower_id AND version = $2 LIMIT 1) p ON true
  WHERE h.moved >= $1 AND h.head_seq > 0 AND p.head_seq IS DISTINCT FROM h.head_seq`;

/** Up to where everything was counted by a version. Asked for first: the planner then knows how few have moved since. */
export async function placeCounted(store: DataSource, version: number): Promise<string> {
  const [{ place }] = await store.query(
    'SELECT coalesce(max(place), 0)::text AS place FROM projection_place WHERE version = $1',
    [version],
  );
  return place;
}

/** How many showers are not counted yet as they stand now. While an earlier version still answers, those that this one has not counted. */
export async function countBehind(store: DataSource): Promise<number> {
  const [{ behind }] = await store.query(`SELECT count(*)::int AS behind ${BEHIND}`, [
    await placeCounted(store, FACTS_VERSION),
    FACTS_VERSION,
  ]);
  return behind;
}
