import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';

/** Work that the server does by itself at night, and what came of it. */
export const CHORES = ['backup', 'verify', 'purge'] as const;
/** One of them. */
export type Chore = (typeof CHORES)[number];

/** How one went. */
export interface ChoreLine {
  /** Which one. */
  what: Chore;
  /** When it began. */
  beganAt: Date;
  /** When it ended; null while it runs. */
  endedAt: Date | null;
  /** Whether all was well; null while it runs. */
  ok: boolean | null;
  /** What it found. */
  words: string;
}

/** The last time that each was begun. */
export async function lastChores(store: DataSource): Promise<ChoreLine[]> {
  return store.query(
    `SELECT DISTINCT ON (what) what, began_at AS "beganAt", ended_at AS "endedAt", ok, words FROM chore ORDER BY what, seq DESC`,
  );
}

/** The last time that one was begun, or null. */
export async function lastBegan(store: DataSource, what: Chore): Promise<Date | null> {
  const [row] = await store.query('SELECT began_at AS at FROM chore WHERE what = $1 ORDER BY seq DESC LIMIT 1', [what]);
  return row?.at ?? null;
}

/** Any number, the same for all servers of a database: one of them does the night's work. */
const AT_WORK = 430_617_296;

/**
 * Does a chore and writes down what came of it; a failure is a line too. Of several servers one does it: null where another is at
 * it. `work` gives what is said of it, and throws what went wrong.
 */
export async function doChore(
  store: DataSource,
  what: Chore,
  now: () => Date,
  isDue: (last: Date | null) => boolean,
  work: () => Promise<string>,
): Promise<boolean | null> {
  const runner = store.createQueryRunner();
  try {
    const [{ got }] = await runner.query('SELECT pg_try_advisory_lock($1, $2) AS got', [AT_WORK, CHORES.indexOf(what)]);
    if (!got) return null;
    if (!isDue(await lastBegan(store, what))) return null;
    const id = v4();
    await runner.query('INSERT INTO chore (id, what, began_at, words) VALUES ($1, $2, $3, $4)', [id, what, now(), '']);
    const end = (ok: boolean, words: string) =>
      store.query('UPDATE chore SET ended_at = $2, ok = $3, words = $4 WHERE id = $1', [
        id,
        now(),
        ok,
        words.slice(0, 2000),
      ]);
    try {
      await end(true, await work());
      return true;
    } catch (error) {
      await end(false, error instanceof Error ? error.message : String(error));
      return false;
    }
  } finally {
    await runner.query('SELECT pg_advisory_unlock($1, $2)', [AT_WORK, CHORES.indexOf(what)]).catch(() => undefined);
    await runner.release();
  }
}

/** Days for which lines of what was done, ended sessions and used links are kept. */
const KEPT_DAYS = 90;

/** Takes away what nobody asks for any more: sessions and links that ended long ago, sent mail's words stay. */
export async function purge(store: DataSource, now: Date): Promise<string> {
  const before = new Date(now.getTime() - KEPT_DAYS * 86_400_000);
  const count = async (sql: string): Promise<number> => (await store.query(sql, [before]))[1] as number;
  // A clock that stands ahead by mistake makes everybody look long gone: then nobody is.
  const [{ lately }] = await store.query('SELECT count(*) = 0 OR max(expires_at) >= $1 AS lately FROM session', [
    before,
  ]);
  if (!lately) return 'nothing: by this clock nobody has been here for months';
  const sessions = await count('DELETE FROM session WHERE expires_at < $1');
  const links = await count(`DELETE FROM access_link WHERE expires_at < $1 AND kind = 'password'`);
  const codes = await count('DELETE FROM set_up_code WHERE made_at < $1');
  await count('DELETE FROM chore WHERE began_at < $1');
  return `${sessions} sessions, ${links} password links, ${codes} codes`;
}
