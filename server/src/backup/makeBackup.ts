import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdtemp, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { create, replace } from 'tar';
import type { DataSource } from 'typeorm';
import { photoPath } from '../photos/photoStore';
import { DUMP, MANIFEST, Manifest, PHOTOS } from './backupFile';
import { runPostgresTool } from './postgresTools';

export const urlOf = (store: DataSource): string => (store.options as { url?: string }).url ?? '';

/** SHA-256 of a file's bytes, read as a stream. */
export async function fileSha256(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

interface Snapshot {
  id: string;
  showers: number;
  entries: number;
  hashes: string[];
}

/** Counts and pictures of one moment; the dump is taken of the very same one, whatever is written meanwhile. */
async function inSnapshot<T>(store: DataSource, work: (snapshot: Snapshot) => Promise<T>): Promise<T> {
  const runner = store.createQueryRunner();
  await runner.startTransaction('REPEATABLE READ');
  try {
    const [{ id, showers, entries }] = await runner.query(
      `SELECT pg_export_snapshot() AS id, (SELECT count(*)::int FROM shower) AS showers, (SELECT count(*)::int FROM entry) AS entries`,
    );
    const photos: { hash: string }[] = await runner.query('SELECT hash FROM photo');
    return await work({ id, showers, entries, hashes: photos.map((p) => p.hash) });
  } finally {
    await runner.rollbackTransaction();
    await runner.release();
  }
}

/**
 * Writes everything the firm has into one tar file: the database as PostgreSQL dumps it, every picture, and a manifest
 * with the counts of the same moment. The file appears under its name only when it is whole.
 */
export async function makeBackup(store: DataSource, photoFolder: string, file: string, now: Date): Promise<Manifest> {
  const work = await mkdtemp(join(tmpdir(), 'seam-backup-'));
  const part = `${file}.part`;
  try {
    const dump = join(work, DUMP);
    let pictures: string[] = [];
    const manifest = await inSnapshot(store, async ({ id, showers, entries, hashes }): Promise<Manifest> => {
      const place = ['--format=custom', '--no-owner', `--snapshot=${id}`, `--file=${dump}`, urlOf(store)];
      await runPostgresTool('pg_dump', place);
      const counts = { showers, entries, photos: hashes.length };
      const about = { format: 'careful-seam-backup' as const, formatVersion: 1 as const, madeAt: now.toISOString() };
      pictures = hashes.map((hash) => relative(photoFolder, photoPath(photoFolder, hash)));
      return { ...about, dumpSha256: await fileSha256(dump), ...counts };
    });
    await writeFile(join(work, MANIFEST), JSON.stringify(Manifest.parse(manifest), null, 2));
    await create({ file: part, cwd: work, portable: true }, [MANIFEST, DUMP]);
    if (pictures.length > 0) await replace({ file: part, cwd: photoFolder, prefix: PHOTOS, portable: true }, pictures);
    await rename(part, file);
    return manifest;
  } finally {
    await rm(work, { recursive: true, force: true });
    await rm(part, { force: true });
  }
}
