import type { ServerState } from '@careful-seam/contract/api/office';
import type { DataSource } from 'typeorm';
import { picturesAt } from '../photos/picturesAt';
import { lastChores } from './chores';
import { PROGRAM_VERSION } from './version';

/** How much there is. */
interface Sizes {
  /** How many showers. */
  showers: number;
  /** How many entries. */
  entries: number;
  /** How many pictures. */
  pictures: number;
  /** Of the database. */
  databaseBytes: number;
  /** Of the pictures. */
  pictureBytes: number;
}

/** What is stored, counted by the heads and not by the entries: millions of them are not walked for a page. */
export async function sizesOf(store: DataSource): Promise<Sizes> {
  const [row] = await store.query(`SELECT
    (SELECT count(*)::int FROM shower) AS showers,
    (SELECT coalesce(sum(head_seq), 0)::int FROM shower_head) AS entries,
    (SELECT count(*)::int FROM photo) AS pictures,
    (SELECT coalesce(sum(bytes::bigint), 0)::float8 FROM photo) AS "pictureBytes",
    pg_database_size(current_database())::float8 AS "databaseBytes"`);
  return row;
}

/** Writes down once a day how much is stored, so that growth can be told. */
export async function noteSizes(store: DataSource, now: Date): Promise<void> {
  const day = now.toISOString().slice(0, 10);
  const [known] = await store.query('SELECT 1 FROM server_day WHERE day = $1', [day]);
  if (known) return;
  const { databaseBytes, pictureBytes, entries } = await sizesOf(store);
  await store.query(
    'INSERT INTO server_day (day, entries, database_bytes, picture_bytes) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
    [day, entries, databaseBytes, pictureBytes],
  );
}

/** What is looked at; `backups` is null where none are made by themselves. */
interface Looked {
  /** The database. */
  store: DataSource;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is asked at. */
  now: () => Date;
  /** Where backups go, and when; null for nowhere. */
  backups?: { folder: string; at: string } | null;
}

/** What a firm's manager is told of the machine that the ledger lies on. */
export async function serverState({ store, picturePlace, now, backups }: Looked): Promise<ServerState> {
  const sizes = await sizesOf(store);
  const month = new Date(now().getTime() - 30 * 86_400_000).toISOString().slice(0, 10);
  const [then] = await store.query(
    'SELECT (database_bytes + picture_bytes)::float8 AS bytes FROM server_day WHERE day <= $1 ORDER BY day DESC LIMIT 1',
    [month],
  );
  const [{ database, tables }] = await store.query(
    `SELECT current_setting('server_version') AS database, (SELECT name FROM migrations ORDER BY id DESC LIMIT 1) AS tables`,
  );
  const chores = await lastChores(store);
  return {
    versions: { program: PROGRAM_VERSION, node: process.versions.node, database, tables },
    ...sizes,
    grewBytes: then ? sizes.databaseBytes + sizes.pictureBytes - then.bytes : null,
    disk: await picturesAt(picturePlace).room(),
    backups: backups ?? null,
    chores: chores.map((c) => ({
      ...c,
      beganAt: c.beganAt.toISOString(),
      endedAt: c.endedAt?.toISOString() ?? null,
    })),
  };
}
