import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { DataSource, EntityManager } from 'typeorm';

interface Stored {
  origin: string;
  id: string;
  version: number;
  /** Names this very row of this very database: a book that was put in its place after a restore is another one. */
  row: string;
}

/** Books read through, by the row that they were read from. */
const read = new Map<string, RuleBook>();
/** More than a firm has versions of; a server that runs for years forgets the oldest. */
const READ_AT_MOST = 400;

const ROWS = `SELECT origin, id, version, concat(tableoid, '.', xmin, '.', ctid, '.', (SELECT oid FROM pg_database WHERE datname = current_database())) AS row
  FROM rule_book`;

async function readBook(store: Pick<DataSource | EntityManager, 'query'>, stored: Stored): Promise<void> {
  const { origin, id, version } = stored;
  const [found] = await store.query('SELECT data FROM rule_book WHERE origin = $1 AND id = $2 AND version = $3', [
    origin,
    id,
    version,
  ]);
  if (!found) return;
  if (read.size >= READ_AT_MOST) read.delete(read.keys().next().value!);
  read.set(stored.row, RuleBook.parse(found.data));
}

/**
 * The rule books that are kept: those of one origin (another firm's, of a shower from a file) before the firm's own. Each is read
 * through once, however many showers are judged by it.
 */
export async function loadRuleBooks(
  store: Pick<DataSource | EntityManager, 'query'>,
): Promise<(origin: string) => FindRuleBook> {
  const stored: Stored[] = await store.query(ROWS);
  for (const one of stored) if (!read.has(one.row)) await readBook(store, one);
  const rowOf = new Map(stored.map(({ origin, id, version, row }) => [`${origin} ${id}@${version}`, row]));
  const books = (key: string): RuleBook | null => read.get(rowOf.get(key) ?? '') ?? null;
  return (origin) => (id, version) => books(`${origin} ${id}@${version}`) ?? books(` ${id}@${version}`);
}
