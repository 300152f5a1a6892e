import { setImmediate as others } from 'node:timers/promises';
import { type DayOf, FACTS_VERSION, factsOf } from '@careful-seam/core/crews/facts';
import { DateTime } from 'luxon';
import type { DataSource, QueryRunner } from 'typeorm';
import { loadShowers } from '../showers/loadShower';
import { BEHIND, placeCounted } from './behind';
import { COUNTED_TABLES, type Counted, replaceFacts } from './factRows';
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

/** Up to here a version has nothing left to count: what is written later moves beyond it. */
async function notePlace(store: DataSource, place: string, version: number): Promise<void> {
  await store.query(
    `WITH changed AS (UPDATE projection_place SET place = greatest(place, $1::bigint) WHERE version = $2 RETURNING 1)
    INSERT INTO projection_place (place, version) SELECT $1::bigint, $2 WHERE NOT EXISTS (SELECT 1 FROM changed)`,
    [place, version],
  );
}

/** The version whose counts are asked. */
async function versionInForce(store: DataSource): Promise<number> {
  const [{ version }] = await store.query('SELECT coalesce(max(version), 0)::int AS version FROM facts_in_force');
  return version;
}

/**
 * A version that has counted every shower answers from now on, and what earlier ones counted goes. An earlier program that still runs beside
 * (one server of two is brought up to date first) never puts its own back in force.
 */
async function putInForce(store: DataSource, version: number): Promise<void> {
  await store.transaction(async (all) => {
    await all.query('LOCK TABLE facts_in_force IN EXCLUSIVE MODE');
    const [{ newer }] = await all.query('SELECT coalesce(max(version), 0) >= $1 AS newer FROM facts_in_force', [
      version,
    ]);
    if (newer) return;
    await all.query('DELETE FROM facts_in_force');
    await all.query('INSERT INTO facts_in_force VALUES ($1)', [version]);
    for (const table of [...COUNTED_TABLES, 'projection', 'projection_place'])
      await all.query(`DELETE FROM ${table} WHERE version < $1`, [version]);
  });
}

/** A shower as it was worked out, with what waits in it. */
interface WorkedOut extends Counted {
  /** Entries that it was worked out from. */
  headSeq: number;
  /** What waits for the manager. */
  waits: ReturnType<typeof waitsIn>;
  /** When its last entry was taken. */
  updatedAt: Date;
}

/** Works showers out, one after the other so that others are answered in between; one that can not be worked out stops none of the others. */
async function workOut(store: DataSource, ids: readonly string[]): Promise<{ done: WorkedOut[]; problem: unknown }> {
  const done: WorkedOut[] = [];
  let problem: unknown = null;
  for (const shower of await loadShowers(store, ids)) {
    try {
      const { row, entries, state } = shower();
      const zone = state.created?.body.timeZone ?? 'UTC';
      done.push({
        showerId: row.id,
        method: state.rules?.pinned.method ?? '',
        facts: factsOf(state, entries, dayIn(zone)),
        // As many as were read: what comes in between is behind again.
        headSeq: entries.length,
        waits: waitsIn(state),
        updatedAt: row.updatedAt,
      });
    } catch (error) {
      problem ??= error;
    }
    await others();
  }
  return { done, problem };
}

/** Writes what was worked out, all or nothing. */
async function write(runner: QueryRunner, done: readonly WorkedOut[], version: number): Promise<void> {
  await replaceFacts(runner, done, version);
  const rows = done.map(({ showerId, headSeq, waits, updatedAt }) => ({
    shower_id: showerId,
    head_seq: headSeq,
    decisions: waits.decisions,
    holds: waits.holds,
    since: waits.since ?? updatedAt.toISOString(),
  }));
  await runner.query(
    `WITH told AS (SELECT * FROM jsonb_to_recordset($1::jsonb)
        AS t(shower_id uuid, head_seq integer, decisions integer, holds integer, since timestamptz)),
      counted AS (
        UPDATE projection p SET head_seq = t.head_seq FROM told t WHERE t.shower_id = p.shower_id AND p.version = $2)
    INSERT INTO shower_queue (shower_id, head_seq, decisions, holds, since) SELECT * FROM told
    ON CONFLICT (shower_id) DO UPDATE
      SET head_seq = excluded.head_seq, decisions = excluded.decisions, holds = excluded.holds, since = excluded.since`,
    [JSON.stringify(rows), version],
  );
}

/** Counts some showers, leaving those that another server is at or has counted meanwhile. Gives how many were counted, and the first thing that went wrong. */
async function countSome(
  store: DataSource,
  runner: QueryRunner,
  ids: readonly string[],
  version: number,
): Promise<{ count: number; problem: unknown }> {
  await runner.startTransaction();
  try {
    const got: { id: string }[] = await runner.query(
      `SELECT p.shower_id AS id FROM projection p JOIN shower_head h ON h.shower_id = p.shower_id
      WHERE p.shower_id = ANY($1::uuid[]) AND p.version = $2 AND p.head_seq IS DISTINCT FROM h.head_seq FOR UPDATE OF p SKIP LOCKED`,
      [ids, version],
    );
    const { done, problem } = await workOut(
      store,
      got.map((g) => g.id),
    );
    if (done.length > 0) await write(runner, done, version);
    await runner.commitTransaction();
    return { count: done.length, problem };
  } catch (error) {
    await runner.rollbackTransaction().catch(() => undefined);
    throw error;
  }
}

/** Showers that are counted in one go: as many as are written in one transaction. */
const AT_A_TIME = 25;

/**
 * Counts showers whose ledgers moved, until none is left or the time is over. Several servers share the work: what one is at, the other
 * leaves. A shower that can not be counted stops none of the others; it is tried again. Gives how many were counted. A `version` later than
 * the one in force counts beside it, and takes its place when nothing is left.
 */
export async function followLedgers(store: DataSource, untilMs: number, version = FACTS_VERSION): Promise<number> {
  const inForce = await versionInForce(store);
  // A later program counts already: what this one would count nobody asks for.
  if (inForce > version) return 0;
  const [{ place }] = await store.query('SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS place');
  const from = await placeCounted(store, version);
  const behind: { id: string }[] = await store.query(
    `SELECT h.shower_id AS id ${BEHIND} ORDER BY h.moved DESC LIMIT ${AT_ONCE}`,
    [from, version],
  );
  if (behind.length === 0) {
    // Written down only where something moved: whoever looks every few seconds must not write every few seconds.
    const [{ moved }] = await store.query('SELECT EXISTS (SELECT 1 FROM shower_head WHERE moved >= $1) AS moved', [
      from,
    ]);
    if (moved) await notePlace(store, place, version);
    if (inForce < version) await putInForce(store, version);
    return 0;
  }
  const ids = behind.map((b) => b.id);
  await store.query(
    'INSERT INTO projection (shower_id, head_seq, version) SELECT id, -1, $2 FROM unnest($1::uuid[]) AS t(id) ON CONFLICT DO NOTHING',
    [ids, version],
  );
  const runner = store.createQueryRunner();
  let done = 0;
  let problem: unknown = null;
  try {
    for (let at = 0; at < ids.length && (at === 0 || Date.now() < untilMs); at += AT_A_TIME) {
      const some = await countSome(store, runner, ids.slice(at, at + AT_A_TIME), version);
      done += some.count;
      problem ??= some.problem;
    }
  } finally {
    await runner.release();
  }
  if (done === ids.length && ids.length < AT_ONCE) await notePlace(store, place, version);
  if (problem !== null) throw problem;
  return done;
}

/** Throws away what was counted: all showers are counted anew, from the newest on. */
export async function forgetFacts(store: DataSource): Promise<void> {
  await store.query(`TRUNCATE projection, projection_place, ${COUNTED_TABLES.join(', ')}`);
}

/** Counts until nothing is left that nobody else is at; `tell` hears how many are done. Gives how many this one counted. */
export async function followToTheEnd(store: DataSource, tell: (done: number) => void): Promise<number> {
  let done = 0;
  for (;;) {
    const some = await followLedgers(store, Date.now() + 1000);
    if (some === 0) return done;
    done += some;
    tell(done);
  }
}
