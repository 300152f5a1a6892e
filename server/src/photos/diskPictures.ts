import { randomUUID } from 'node:crypto';
import { access, mkdir, open, readdir, readFile, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { isPathOfPicture, type PictureStore, pathOf } from './pictureStore';
import { keepRoom, roomOf } from './room';

/** Writes a file so that it is there whole or not at all, also when the power goes in the next moment. */
async function writeThrough(path: string, bytes: Buffer): Promise<void> {
  const part = `${path}.${randomUUID()}.part`;
  const file = await open(part, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(part, path);
  const folder = await open(dirname(path));
  await folder.sync().finally(() => folder.close());
}

/** What is done with a file, or nothing where there is none. */
const ifThere =
  <T>(otherwise: T) =>
  (error: NodeJS.ErrnoException): T => {
    if (error.code === 'ENOENT') return otherwise;
    throw error;
  };

/** Pictures in a folder. */
export function diskPictures(folder: string): PictureStore {
  const at = (name: string) => join(folder, pathOf(name));
  return {
    where: at,
    read: (name) => readFile(at(name)).catch(ifThere(null)),
    async write(name, bytes) {
      await mkdir(dirname(at(name)), { recursive: true });
      await keepRoom(folder, bytes.length);
      await writeThrough(at(name), bytes);
    },
    async room() {
      await mkdir(folder, { recursive: true });
      return roomOf(folder);
    },
    async takeFrom(other) {
      await mkdir(folder, { recursive: true });
      const found = await readdir(other, { recursive: true }).catch(ifThere([]));
      for (const path of found.filter(isPathOfPicture)) {
        const bytes = await readFile(join(other, path));
        const known = await readFile(join(folder, path)).catch(ifThere(null));
        if (known?.equals(bytes)) continue;
        await mkdir(dirname(join(folder, path)), { recursive: true });
        await writeThrough(join(folder, path), bytes);
      }
    },
    async lay(names) {
      const paths: string[] = [];
      for (const name of names) {
        const isThere = await access(at(name)).then(() => true, ifThere(false));
        if (isThere) paths.push(pathOf(name));
      }
      return { folder, paths };
    },
    async clear() {
      const found = await readdir(folder).catch(ifThere([]));
      for (const name of found.filter((n) => /^[0-9a-f]{2}$/.test(n)))
        await rm(join(folder, name), { recursive: true });
    },
  };
}
