import { cp, mkdir, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { extract } from 'tar';
import { DataSource } from 'typeorm';
import { openEpoch } from '../firm/epoch';
import { Refusal } from '../people/refusal';
import { openStore } from '../store/dataSource';
import { verifyLedger } from '../verify/verifyLedger';
import { DUMP, MANIFEST, Manifest, PHOTOS } from './backupFile';
import { fileSha256 } from './makeBackup';
import { runPostgresTool } from './postgresTools';

/** What a restore needs: the database in force, where pictures lie, and the clock. */
export interface RestorePlace {
  url: string;
  photoFolder: string;
  now: Date;
}

const nameIn = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1));
const urlWith = (url: string, database: string): string => {
  const changed = new URL(url);
  changed.pathname = `/${database}`;
  return changed.toString();
};
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

async function unpack(file: string, into: string): Promise<Manifest> {
  const unreadable = new Refusal(
    'backup-unreadable',
    'file',
    'This file is no backup that this program made, or it was cut off. Choose another one. Nothing was changed.',
  );
  await extract({ file, cwd: into, strict: true }).catch(() => {
    throw unreadable;
  });
  const text = await readFile(join(into, MANIFEST), 'utf8').catch(() => {
    throw unreadable;
  });
  const read = Manifest.safeParse(JSON.parse(text));
  if (!read.success) throw unreadable;
  if ((await fileSha256(join(into, DUMP)).catch(() => '')) !== read.data.dumpSha256)
    throw new Refusal(
      'backup-faulty',
      'file',
      'The database in this backup is not the one that was written. Choose another one. Nothing was changed.',
    );
  return read.data;
}

async function makeDatabase(admin: DataSource, name: string): Promise<void> {
  await admin.query(`CREATE DATABASE ${quoted(name)}`).catch((error: unknown) => {
    throw new Refusal(
      'no-right-to-restore',
      'database',
      `The database server does not let this program make a database beside its own (${(error as Error).message}). Give it the right CREATEDB, then try again.`,
    );
  });
}

/** Puts the dump into a database of its own, brings it up to date, and checks every entry and picture in it. */
async function prepare(url: string, work: string, manifest: Manifest, now: Date): Promise<void> {
  await runPostgresTool('pg_restore', ['--no-owner', '--exit-on-error', `--dbname=${url}`, join(work, DUMP)]);
  const store = await openStore(url, 2);
  try {
    const found = await verifyLedger(store, join(work, PHOTOS));
    const same =
      found.showers === manifest.showers && found.entries === manifest.entries && found.photos === manifest.photos;
    const [first] = found.findings;
    if (first || !same)
      throw new Refusal(
        'backup-faulty',
        'file',
        `This backup does not stand up to the check: ${first ? `${first.where}: ${first.what}` : 'it does not hold what its manifest says'}. Nothing was changed.`,
      );
    await openEpoch(store, `restored from the backup of ${manifest.madeAt}`, now);
  } finally {
    await store.destroy();
  }
}

/** Renames in a moment when nobody is connected: what was in force stays beside it until the next restore. */
async function swap(admin: DataSource, inForce: string, prepared: string): Promise<void> {
  const before = `${inForce}_before_restore`;
  const alone = (name: string) =>
    admin.query(
      'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1 AND pid <> pg_backend_pid()',
      [name],
    );
  await admin.query(`DROP DATABASE IF EXISTS ${quoted(before)} WITH (FORCE)`);
  for (let tries = 0; ; tries += 1) {
    await alone(inForce);
    const done = await admin.query(`ALTER DATABASE ${quoted(inForce)} RENAME TO ${quoted(before)}`).then(
      () => true,
      (error: unknown) => {
        // Somebody connected in between: once more.
        if (tries >= 20) throw error;
        return false;
      },
    );
    if (done) break;
  }
  await admin.query(`ALTER DATABASE ${quoted(prepared)} RENAME TO ${quoted(inForce)}`).catch(async (error: unknown) => {
    await admin.query(`ALTER DATABASE ${quoted(before)} RENAME TO ${quoted(inForce)}`);
    throw error;
  });
}

/**
 * Puts a backup in force. It is unpacked, restored into a database of its own and checked entry by entry and picture
 * by picture; only then the two databases change places. Until that moment nothing is changed, and what was in force
 * is kept as `<name>_before_restore`. A new epoch is opened: tablets send again what the backup lacks.
 */
export async function restoreBackup(file: string, { url, photoFolder, now }: RestorePlace): Promise<Manifest> {
  const work = await mkdtemp(join(tmpdir(), 'seam-restore-'));
  const prepared = `${nameIn(url)}_restoring_${now.getTime()}`;
  const admin = await new DataSource({ type: 'postgres', url: urlWith(url, 'postgres') }).initialize();
  try {
    const manifest = await unpack(file, work);
    await makeDatabase(admin, prepared);
    await prepare(urlWith(url, prepared), work, manifest, now);
    await mkdir(photoFolder, { recursive: true });
    await mkdir(join(work, PHOTOS), { recursive: true });
    await cp(join(work, PHOTOS), photoFolder, { recursive: true });
    await swap(admin, nameIn(url), prepared);
    return manifest;
  } finally {
    await admin.query(`DROP DATABASE IF EXISTS ${quoted(prepared)} WITH (FORCE)`).catch(() => undefined);
    await admin.destroy();
    await rm(work, { recursive: true, force: true });
  }
}
