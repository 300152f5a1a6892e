import { open, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { extract } from 'tar';
import { Refusal } from '../refusals/refusal';
import { DUMP, DumpManifest, MANIFEST, Manifest, ROWS } from './backupFile';
import { fileSha256 } from './makeBackup';

/** Said of a file that is no backup. */
const UNREADABLE = new Refusal('backup-unreadable', 'file');
/** Only files, each in its place: no links, nothing that climbs out of the folder. */
const isPlain = (path: string, type: string): boolean =>
  (type === 'File' || type === 'Directory') && !path.startsWith('/') && !path.split('/').includes('..');
/** Where a tar file says that it is one. Packed ones are not unpacked: a few bytes could fill the disk. */
const MAGIC_AT = 257;
/** What a tar says of itself. */
const MAGIC = 'ustar';
/** True for a tar that was not packed. */
async function isBareTar(file: string): Promise<boolean> {
  const handle = await open(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(512), 0, 512, 0);
    return bytesRead === 512 && buffer.toString('latin1', MAGIC_AT, MAGIC_AT + MAGIC.length) === MAGIC;
  } finally {
    await handle.close();
  }
}
/** Unpacks a backup into a folder and gives what it says of itself; refuses what is none. */
export async function unpack(file: string, into: string): Promise<Manifest | DumpManifest> {
  if (!(await isBareTar(file))) throw UNREADABLE;
  const filter = (path: string, entry: unknown) => isPlain(path, (entry as { type?: string }).type ?? 'File');
  await extract({ file, cwd: into, strict: true, filter }).catch(() => {
    throw UNREADABLE;
  });
  const text = await readFile(join(into, MANIFEST), 'utf8').catch(() => {
    throw UNREADABLE;
  });
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw UNREADABLE;
  }
  const [tables, dump] = [Manifest.safeParse(raw), DumpManifest.safeParse(raw)];
  if (!tables.success && !dump.success) throw UNREADABLE;
  const files = tables.success
    ? tables.data.tables.map((t) => [join(ROWS, `${t.name}.copy`), t.sha256] as const)
    : [[DUMP, dump.data!.dumpSha256] as const];
  for (const [path, sha256] of files)
    if ((await fileSha256(join(into, path)).catch(() => '')) !== sha256)
      throw new Refusal('backup-database-changed', 'file');
  return tables.success ? tables.data : dump.data!;
}
