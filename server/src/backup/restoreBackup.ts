import { createReadStream } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { DataSource } from 'typeorm';
import { openEpoch } from '../firm/epoch';
import { recordIsSigned } from '../firm/firmKey';
import { picturesAt } from '../photos/picturesAt';
import { Refusal } from '../refusals/refusal';
import { makeDataSource, openStore } from '../store/dataSource';
import { dropDatabase } from '../store/dropDatabase';
import { FirmKeyEntity } from '../store/entities/firm';
import { MIGRATIONS } from '../store/migrations';
import { type Finding, verifyLedger } from '../verify/verifyLedger';
import { DUMP, type DumpManifest, type Manifest, PHOTOS, ROWS, SIGNATURE } from './backupFile';
import { compareHeads } from './compareHeads';
import { runPostgresTool } from './postgresTools';
import { quoted } from './tables';
import { unpack } from './unpackBackup';

/** What a restore needs: the database in force, where pictures lie, and the clock. */
export interface RestorePlace {
  /** Address of the database. */
  url: string;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is asked at. */
  now: Date;
  /** From the command line: a dump of an earlier version, which is a program, is run too. */
  byCommand?: boolean;
  /** Restored beside and compared with what is in force; nothing is changed. */
  drill?: boolean;
  /** Told how far the check is: showers and pictures done, of how many. */
  tell?: (done: number, of: number) => void;
}

/** What came back, and everything in it that is not as it was written. */
export interface Restored {
  /** When it was made, ISO 8601. */
  madeAt: string;
  /** How many showers. */
  showers: number;
  /** How many entries. */
  entries: number;
  /** How many pictures. */
  photos: number;
  /** What is not as it was written. */
  findings: Finding[];
  /** Of a drill: showers whose head stands in the ledger in force. */
  sameHeads?: number;
}

/** Name of the database in an address. */
const nameIn = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1));
/** The same address with another database. */
const urlWith = (url: string, database: string): string => {
  const changed = new URL(url);
  changed.pathname = `/${database}`;
  return changed.toString();
};

/** An empty database. */
async function makeDatabase(admin: DataSource, name: string): Promise<void> {
  await admin.query(`CREATE DATABASE ${quoted(name)}`).catch((error: unknown) => {
    throw new Refusal('no-right-to-restore', 'database', { detail: (error as Error).message });
  });
}

/** Tables as this program makes them, at the version that the backup was made of; a version that is not known is later. */
async function makeTables(url: string, schema: string): Promise<void> {
  const upTo = MIGRATIONS.findIndex((m) => m.name === schema);
  if (upTo < 0) throw new Refusal('backup-too-new', 'file');
  const store = await makeDataSource(url, 1, MIGRATIONS.slice(0, upTo + 1)).initialize();
  await store.runMigrations();
  await store.destroy();
}

/** Rows as data into the tables that are known; nothing in a backup is ever run. */
async function fillTables(url: string, work: string, { tables }: Manifest): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query('BEGIN');
    for (const { name, columns } of tables) {
      const into = client.query(copyFrom(`COPY ${quoted(name)} (${columns.map(quoted).join(', ')}) FROM STDIN`));
      await pipeline(createReadStream(join(work, ROWS, `${name}.copy`)), into);
    }
    await client.query('COMMIT');
  } catch {
    throw new Refusal('backup-rows-unfit', 'file');
  } finally {
    await client.end();
  }
}

/** Reads a backup of an earlier version. */
async function fromDump(url: string, work: string): Promise<void> {
  const address = new URL(url);
  const password = decodeURIComponent(address.password);
  address.password = '';
  const args = ['--no-owner', '--no-privileges', '--exit-on-error', `--dbname=${address}`, join(work, DUMP)];
  await runPostgresTool('pg_restore', args, { PGPASSWORD: password });
}

/** Whose key signed the backup: that of the firm that it holds, or of nobody. */
async function signatureFaults(store: DataSource, work: string, manifest: Manifest | DumpManifest): Promise<Finding[]> {
  const where = 'the backup itself';
  const signature = await readFile(join(work, SIGNATURE), 'utf8').catch(() => '');
  const key = await store.getRepository(FirmKeyEntity).findOneBy({ id: 'firm' });
  if (key && signature !== '' && recordIsSigned(manifest, signature, key.publicKey)) return [];
  return [{ where, what: signature === '' ? 'is not signed' : "its signature is not of this firm's key" }];
}

/** What must not come back with old rows. */
interface Live {
  /** Ids of people who were disabled since. */
  disabled: string[];
  /** Ids of links that were ended since. */
  revoked: string[];
  /** Who is signed in now: nobody is signed out by a restore. */
  sessions: { token_hash: string; user_id: string | null; link_id: string | null; expires_at: Date }[];
}

/** Who is in and who is out in the database in force; nobody is where there is none. */
async function readLive(url: string): Promise<Live> {
  const live = await makeDataSource(url, 1)
    .initialize()
    .catch(() => null);
  const rows = async <T>(sql: string): Promise<T[]> => (await live?.query(sql).catch(() => [])) ?? [];
  const found = {
    disabled: (await rows<{ id: string }>('SELECT id FROM firm_user WHERE disabled')).map((r) => r.id),
    revoked: (await rows<{ id: string }>('SELECT id FROM access_link WHERE revoked_at IS NOT NULL')).map((r) => r.id),
    sessions: await rows<Live['sessions'][number]>('SELECT * FROM session WHERE expires_at > now()'),
  };
  await live?.destroy();
  return found;
}

/** Nobody comes in again by a restore: who was disabled and which links were ended since stay so; who is signed in now stays. */
async function keepAsIs(store: DataSource, inForce: string): Promise<void> {
  const { disabled, revoked, sessions } = await readLive(inForce);
  await store.query('UPDATE firm_user SET disabled = true WHERE id = ANY($1)', [disabled]);
  await store.query('UPDATE access_link SET revoked_at = now() WHERE id = ANY($1) AND revoked_at IS NULL', [revoked]);
  await store.query('DELETE FROM session');
  for (const s of sessions)
    await store.query(
      `INSERT INTO session (token_hash, user_id, link_id, expires_at) SELECT $1, $2::uuid, $3::uuid, $4
      WHERE EXISTS (SELECT 1 FROM firm_user WHERE id = $2::uuid AND NOT disabled)
        OR EXISTS (SELECT 1 FROM access_link WHERE id = $3::uuid AND revoked_at IS NULL)`,
      [s.token_hash, s.user_id, s.link_id, s.expires_at],
    );
}

/** Puts the backup into a database of its own, brings it up to date, and checks every entry and picture in it. */
async function prepare(url: string, work: string, manifest: Manifest | DumpManifest, place: RestorePlace) {
  if (manifest.formatVersion === 2) {
    await makeTables(url, manifest.schema);
    await fillTables(url, work, manifest);
  } else await fromDump(url, work);
  const store = await openStore(url, 2);
  try {
    const { tell } = place;
    const found = await verifyLedger(store, join(work, PHOTOS), tell ? { tell } : {});
    const findings = [...(await signatureFaults(store, work, manifest)), ...found.findings];
    for (const what of ['showers', 'entries', 'photos'] as const)
      if (found[what] !== manifest[what])
        findings.push({
          where: 'the backup itself',
          what: `holds ${found[what]} ${what}, and its manifest says ${manifest[what]}`,
        });
    await keepAsIs(store, place.url);
    await openEpoch(store, `restored from the backup of ${manifest.madeAt}`, place.now);
    return findings;
  } finally {
    await store.destroy();
  }
}

/** Renames both at once, in a moment when nobody is connected: what was in force stays beside it until the next restore. */
async function swap(admin: DataSource, inForce: string, prepared: string): Promise<void> {
  const before = `${inForce}_before_restore`;
  await dropDatabase(admin, before);
  for (let tries = 0; ; tries += 1) {
    await admin.query(
      'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1 AND pid <> pg_backend_pid()',
      [inForce],
    );
    const done = await admin
      .transaction(async (tx) => {
        await tx.query(`ALTER DATABASE ${quoted(inForce)} RENAME TO ${quoted(before)}`);
        await tx.query(`ALTER DATABASE ${quoted(prepared)} RENAME TO ${quoted(inForce)}`);
      })
      .then(
        () => true,
        (error: unknown) => {
          // Somebody connected in between: once more.
          if (tries >= 20) throw error;
          return false;
        },
      );
    if (done) return;
  }
}

/** Folders that a restore works in begin so. */
const WORK = 'seam-restore-';

/**
 * Puts a backup in force. It is unpacked, filled into a database of its own and checked entry by entry and picture by picture;
 * what is found is told, and hides nothing of the rest. Then the two databases change places, and what was in force is kept as
 * `<name>_before_restore`. A new epoch is opened: tablets send again what the backup lacks.
 */
export async function restoreBackup(file: string, place: RestorePlace): Promise<Restored> {
  const { url, picturePlace, now } = place;
  const work = await mkdtemp(join(tmpdir(), WORK));
  const prepared = `${nameIn(url)}_restoring_${now.getTime()}`;
  const admin = await new DataSource({ type: 'postgres', url: urlWith(url, 'postgres') }).initialize();
  try {
    const manifest = await unpack(file, work);
    if (manifest.formatVersion === 1 && !place.byCommand) throw new Refusal('backup-too-old', 'file');
    await makeDatabase(admin, prepared);
    const findings = await prepare(urlWith(url, prepared), work, manifest, place);
    const { madeAt, showers, entries, photos } = manifest;
    if (place.drill) {
      const compared = await compareHeads(urlWith(url, prepared), url);
      findings.push(...compared.findings);
      return { madeAt, showers, entries, photos, findings, sameHeads: compared.same };
    }
    await mkdir(join(work, PHOTOS), { recursive: true });
    await picturesAt(picturePlace).takeFrom(join(work, PHOTOS));
    await swap(admin, nameIn(url), prepared);
    return { madeAt, showers, entries, photos, findings };
  } finally {
    await dropDatabase(admin, prepared).catch(() => undefined);
    await admin.destroy();
    await rm(work, { recursive: true, force: true });
  }
}

/** A day, ms. */
const DAY_MS = 24 * 3_600_000;

/** Takes away what a restore left that was killed on the way: databases half filled and folders, a day old or more. */
export async function cleanUpRestores(url: string, nowMs: number): Promise<void> {
  const admin = await new DataSource({ type: 'postgres', url: urlWith(url, 'postgres') })
    .initialize()
    .catch(() => null);
  try {
    const rows: { name: string }[] =
      (await admin?.query('SELECT datname AS name FROM pg_database WHERE starts_with(datname, $1)', [
        `${nameIn(url)}_restoring_`,
      ])) ?? [];
    for (const { name } of rows)
      if (nowMs - Number(name.split('_').at(-1)) > DAY_MS) await dropDatabase(admin!, name).catch(() => undefined);
  } finally {
    await admin?.destroy();
  }
  for (const name of (await readdir(tmpdir())).filter((n) => n.startsWith(WORK) || n.startsWith('seam-backup-'))) {
    const path = join(tmpdir(), name);
    const made = await stat(path).catch(() => null);
    if (made && nowMs - made.mtimeMs > DAY_MS) await rm(path, { recursive: true, force: true });
  }
}
