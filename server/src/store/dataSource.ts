import { DataSource, type Logger } from 'typeorm';
import { ENTITIES } from './entities/all';
import { MIGRATIONS } from './migrations';

/**
 * Nothing waits without end, ms: for a connection of the pool, for a lock that somebody holds, for an answer, for a transaction that
 * was begun and forgotten. What runs into one of them is answered as busy, and is tried again.
 */
const TIMEOUTS = {
  connectionTimeoutMillis: 5000,
  lock_timeout: 8000,
  statement_timeout: 60_000,
  idle_in_transaction_session_timeout: 60_000,
};

/** Told of every question that took longer than so many ms, with its text and without its values. */
export interface Slow {
  ms: number;
  tell: (ms: number, query: string) => void;
}

const quiet = () => undefined;
/** A log that hears of slow questions alone: values may be anybody's words, and are not told. */
const slowLog = ({ tell }: Slow): Logger => ({
  logQuerySlow: (ms, query) => tell(ms, query.slice(0, 1000)),
  logQuery: quiet,
  logQueryError: quiet,
  logSchemaBuild: quiet,
  logMigration: quiet,
  log: quiet,
});

/** A pool on the given PostgreSQL (15 or newer), not yet connected. Fewer migrations make the tables of an earlier version. */
export function makeDataSource(url: string, poolSize = 10, migrations = MIGRATIONS, slow?: Slow): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities: ENTITIES,
    migrations,
    migrationsTransactionMode: 'all',
    synchronize: false,
    poolSize,
    ...(slow ? { maxQueryExecutionTime: slow.ms, logger: slowLog(slow) } : {}),
    extra: TIMEOUTS,
    uuidExtension: 'pgcrypto',
    installExtensions: false,
  });
}

/** Any number, the same for every server of a database: who holds it begins, and the others wait. */
const BEGINNING = 430_617_295;

/** What only one server of a database may do at a time when several begin at once; the others wait for it, however long. */
export async function oneAtATime<T>(source: DataSource, work: () => Promise<T>): Promise<T> {
  const waiting = source.createQueryRunner();
  try {
    await waiting.query('SET lock_timeout = 0; SET statement_timeout = 0');
    await waiting.query('SELECT pg_advisory_lock($1)', [BEGINNING]);
    return await work();
  } finally {
    await waiting.query('SELECT pg_advisory_unlock_all(); RESET lock_timeout; RESET statement_timeout');
    await waiting.release();
  }
}

/** A pool whose tables are up to date. Of several servers that start at once, one brings them up to date and the others wait. */
export async function openStore(url: string, poolSize?: number, slow?: Slow): Promise<DataSource> {
  // One connection holds the lock while another brings the tables up to date.
  const source = await makeDataSource(url, poolSize && Math.max(2, poolSize), MIGRATIONS, slow).initialize();
  await oneAtATime(source, () => source.runMigrations());
  return source;
}
