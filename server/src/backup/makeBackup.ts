import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { create, replace } from 'tar';
import type { DataSource } from 'typeorm';
import { firmKey, signRecord } from '../firm/firmKey';
import { picturesAt } from '../photos/picturesAt';
import { MANIFEST, Manifest, PHOTOS, ROWS, SIGNATURE } from './backupFile';
import { quoted, TABLES } from './tables';

/** The address that a database was opened with. */
export const urlOf = (store: DataSource): string => (store.options as { url?: string }).url ?? '';

/** SHA-256 of a file's bytes, read as a stream. */
export async function fileSha256(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Pictures laid beside each other on their way into a backup: room for so many is wanted where they come from afar. */
const TOGETHER = 2000;

/** What was written, with the hashes of all pictures. */
type Copied = Pick<Manifest, 'schema' | 'tables' | 'showers' | 'entries' | 'photos'> & { hashes: string[] };

/** The rows of every table, all of one moment, whatever is written meanwhile. */
async function copyTables(url: string, folder: string): Promise<Copied> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const one = async <T>(sql: string): Promise<T> => (await client.query(sql)).rows[0] as T;
    const { schema } = await one<{ schema: string }>('SELECT name AS schema FROM migrations ORDER BY id DESC LIMIT 1');
    const counts = await one<{ showers: number; entries: number }>(
      'SELECT (SELECT count(*)::int FROM shower) AS showers, (SELECT count(*)::int FROM entry) AS entries',
    );
    const { rows: photos } = await client.query<{ hash: string }>('SELECT hash FROM photo');
    const tables: Manifest['tables'] = [];
    for (const name of TABLES) {
      const { rows } = await client.query<{ column: string }>(
        `SELECT column_name AS column FROM information_schema.columns WHERE table_schema = 'public' AND table_name = $1 ORDER BY ordinal_position`,
        [name],
      );
      // A table that an earlier version does not have.
      if (rows.length === 0) continue;
      // A link for one person that waits in the outbox is for nobody who reads a backup.
      const columns = rows.map((r) => r.column).filter((c) => !(name === 'mail' && c === 'secret'));
      const path = join(folder, `${name}.copy`);
      const list = columns.map(quoted).join(', ');
      await pipeline(client.query(copyTo(`COPY ${quoted(name)} (${list}) TO STDOUT`)), createWriteStream(path));
      tables.push({ name, columns, sha256: await fileSha256(path) });
    }
    return { schema, tables, ...counts, photos: photos.length, hashes: photos.map((p) => p.hash) };
  } finally {
    await client.end();
  }
}

/**
 * Writes everything the firm has into one tar file: the rows of every table, every picture, and a manifest with the counts of
 * the same moment, signed with the firm's key. The file appears under its name only when it is whole, and only its owner
 * may read it.
 */
export async function makeBackup(store: DataSource, picturePlace: string, file: string, now: Date): Promise<Manifest> {
  const work = await mkdtemp(join(tmpdir(), 'seam-backup-'));
  const part = `${file}.part`;
  try {
    const key = await firmKey(store, now);
    await mkdir(join(work, ROWS));
    const { hashes, ...copied } = await copyTables(urlOf(store), join(work, ROWS));
    const about = { format: 'careful-seam-backup' as const, formatVersion: 2 as const, madeAt: now.toISOString() };
    const manifest = Manifest.parse({ ...about, ...copied });
    await writeFile(join(work, MANIFEST), JSON.stringify(manifest, null, 2));
    await writeFile(join(work, SIGNATURE), signRecord(manifest, key));
    await writeFile(part, '', { mode: 0o600 });
    await create({ file: part, cwd: work, portable: true }, [MANIFEST, SIGNATURE, ROWS]);
    const pictures = picturesAt(picturePlace);
    for (let from = 0; from < hashes.length; from += TOGETHER) {
      const into = join(work, PHOTOS);
      const { folder, paths } = await pictures.lay(hashes.slice(from, from + TOGETHER), into);
      if (paths.length > 0) await replace({ file: part, cwd: folder, prefix: PHOTOS, portable: true }, paths);
      await rm(into, { recursive: true, force: true });
    }
    await rename(part, file);
    return manifest;
  } finally {
    await rm(work, { recursive: true, force: true });
    await rm(part, { force: true });
  }
}
