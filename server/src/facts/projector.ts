import { setImmediate as others } from 'node:timers/promises';
import { type DayOf, FACTS_VERSION, factsOf } from '@careful-seam/core/crews/facts';
import { DateTime } from 'luxon';
import type { DataSource, QueryRunner } from 'typeorm';
import { loadShower } from '../showers/loadShower';
import { oneShowerRow } from '../showers/showerRows';
import { BEHIND, placeCounted } from './behind';
import { replaceFacts } from './factRows';
import { waitsIn } from './queue';

/** Showers looked for in one go. */
const AT_ONCE = 2000;
/** Offsets of time zones are whole quarters of an hour, ms: within one no day begins. */
const QUARTER_MS = 15 * 60_000;

/** Days that were worked out, by the zone and the quarter of an hour. */
const days = new Map<string, Map<number, string>>();
/** More zones than a firm builds in. */
const ZONES_AT_MOST = 60;

/** The day at a site, of which a moment is asked thousands of times. */
export function dayIn(zone: string): DayOf {
  const known = days.get(zone) ?? new Map<number, string>();
  if (!days.has(zone) && days.size >= ZONES_AT_MOST) days.clear();
  days.set(zone, known);
  return (ms) => {
    const quarter = Math.floor(ms / QUARTER_MS);
    const found = known.get(quarter) ?? DateTime.fromMillis(quarter * QUARTER_MS, { zone }).toISODate() ?? '1970-01-01';
    known.set(quarter, found);
    return found;
  };
}

/** Up to here nothing is left to count: what is written later moves beyond it. */
async function notePlace(store: DataSource, place: string): Promise<void> {
  await store.query(
    `WITH gone AS (DELETE FROM projection_place WHERE version <> $2),
    changed AS (UPDATE projection_place SET place = greatest(place, $1::bigint) WHERE version = $2 RETURNING 1)
    INSERT INTO projection_place (place, version) SELECT $1::bigint, $2 WHERE NOT EXISTS (SELECT 1 FROM changed)`,
    [place, FACTS_VERSION],
  );
}

/** Works one shower out and writes what is counted of it, all or nothing; false where another server is at it. */
async function countOne(store: DataSource, runner: QueryRunner, id: string): Promise<boolean> {
  await runner.query(
    'INSERT INTO projection (shower_id, head_seq, version) VALUES ($1, -1, 0) ON CONFLICT DO NOTHING',
    [id],
  );
  await runner.startTransaction();
  try {
    const got = await runner.query('SELECT 1 FROM projection WHERE shower_id = $1 FOR UPDATE SKIP LOCKED', [id]);
    const row = got.length > 0 ? await oneShowerRow(store, id) : null;
    if (!row) {
      await runner.rollbackTransaction();
      return false;
    }
    const { state, entries } = await loadShower(store, row);
    const zone = state.created?.body.timeZone ?? 'UTC';
    await replaceFacts(runner, id, state.rules?.pinned.method ?? '', factsOf(state, entries, dayIn(zone)));
    const { decisions, holds, since } = waitsIn(state);
    await runner.query(
      `INSERT INTO shower_queue (shower_id, head_seq, decisions, holds, since) VALUES ($1,$2,$3,$4,$5)
      ON CONFLICT (shower_id) DO UPDATE SET head_seq = $2, decisions = $3, holds = $4, since = $5`,
      [id, entries.length, decisions, holds, since ?? row.updatedAt],
    );
    // As many as were read: what came in between is behind again.
    await runner.query('UPDATE projection SET head_seq = $2, version = $3 WHERE shower_id = $1', [
      id,
      entries.length,
      FACTS_VERSION,
    ]);
    await runner.commitTransaction();
    return true;
  } catch (error) {
    await runner.rollbackTransaction().catch(() => undefined);
    throw error;
  }
}

/**
 * Counts showers whose ledgers moved, one after the other so that others are answered in between, until none is left or the time is over.
 * Several servers share the work: what one is at, the other leaves. A shower that can not be counted stops none of the others; it is tried
 * again. Gives how many were counted.
 */
export async function followLedgers(store: DataSource, untilMs: number): Promise<number> {
  const [{ place }] = await store.query('SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS place');
  const from = await placeCounted(store);
  const behind: { id: string }[] = await store.query(
    `SELECT h.shower_id AS id ${BEHIND} ORDER BY h.moved DESC LIMIT ${AT_ONCE}`,
    [from],
  );
  if (behind.length === 0) {
    // Written down only where something moved: whoever looks every few seconds must not write every few seconds.
    const [{ moved }] = await store.query('SELECT EXISTS (SELECT 1 FROM shower_head WHERE moved >= $1) AS moved', [
      from,
    ]);
    if (moved) await notePlace(store, place);
    return 0;
  }
  const runner = store.createQueryRunner();
  let [done, whole] = [0, behind.length < AT_ONCE];
  let problem: unknown = null;
  try {
    for (const { id } of behind) {
      if (done > 0 && Date.now() >= untilMs) {
        whole = false;
        break;
      }
      try {
        if (await countOne(store, runner, id)) done += 1;
        else whole = false;
      } catch (error) {
        problem ??= error;
        whole = false;
      }
      await others();
    }
  } finally {
    await runner.release();
  }
  if (whole) await notePlace(store, place);
  if (problem !== null) throw problem;
  return done;
}

/** Throws away what was counted and counts all showers anew, from the newest on; `tell` hears how many are done. */
export async function rebuildFacts(store: DataSource, tell: (done: number) => void): Promise<number> {
  await store.query('TRUNCATE projection, projection_place, defect_fact, inspected_fact, pass_fact, minutes_fact');
  let done = 0;
  for (;;) {
    const some = await followLedgers(store, Date.now() + 1000);
    if (some === 0) return done;
    done += some;
    tell(done);
  }
}
