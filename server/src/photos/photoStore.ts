import { randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { sha256Hex } from '@careful-seam/core/entries/chain';
import type { DataSource } from 'typeorm';
import { makeGate } from '../gate';
import { Refusal } from '../people/refusal';
import { PhotoEntity, type PhotoRow } from '../store/entities';
import { pictureFault } from './pictureParts';

/** Decoders at work at once: one a core, so that many pictures take long and not all of the machine. */
const decoders = makeGate(availableParallelism());

const MIMES: Record<string, string> = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' };

/** Pictures on disk by the hash of their bytes. */
export function photoPath(folder: string, hash: string, width?: number): string {
  return join(folder, hash.slice(0, 2), width ? `${hash}.${width}.webp` : hash);
}

async function inspect(bytes: Buffer): Promise<Pick<PhotoRow, 'mime' | 'widthPx' | 'heightPx'>> {
  const { default: sharp } = await import('sharp');
  const notAPicture = new Refusal(
    'not-a-picture',
    'picture',
    'This file is not a JPEG, PNG or WebP picture. Take it again with the camera.',
  );
  try {
    const image = sharp(bytes, { limitInputPixels: 60_000_000 });
    const meta = await image.metadata();
    const mime = MIMES[meta.format ?? ''];
    if (!mime || !meta.width || !meta.height) throw notAPicture;
    const fault = pictureFault(bytes);
    if (fault === 'not-a-picture') throw notAPicture;
    if (fault !== null)
      throw new Refusal(
        'location-data',
        'picture',
        fault === 'metadata'
          ? 'This picture carries camera data that may tell a place or a person. Send it re-encoded, without metadata.'
          : 'Something is hidden behind the end of this picture. Send it re-encoded.',
      );
    await decoders.run(() => image.stats());
    return { mime, widthPx: meta.width, heightPx: meta.height };
  } catch (error) {
    throw error instanceof Refusal ? error : notAPicture;
  }
}

/** Whether a picture lies on the disk with all of its bytes, each as it was. */
async function isWhole(folder: string, hash: string, length: number): Promise<boolean> {
  const bytes = await readFile(photoPath(folder, hash)).catch(() => null);
  return bytes !== null && bytes.length === length && sha256Hex(bytes) === hash;
}

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

const lost = () =>
  new Refusal(
    'picture-lost',
    'hash',
    'This picture is not whole on the server any more. A tablet that still has it sends it again; else it is in a backup.',
  );

/** Checks the content against the hash and keeps it; sending it again changes nothing. */
export async function keepPhoto(
  store: DataSource,
  folder: string,
  hash: string,
  bytes: Buffer,
  now: Date,
): Promise<PhotoRow> {
  if (sha256Hex(bytes) !== hash)
    throw new Refusal('picture-mismatch', 'hash', 'The picture arrived changed. Send it again.');
  const photos = store.getRepository(PhotoEntity);
  const known = await photos.findOneBy({ hash });
  // Known is what lies here whole: one that was lost is taken in again.
  if (known && (await isWhole(folder, hash, known.bytes))) return known;
  const row: PhotoRow = { hash, ...(await inspect(bytes)), bytes: bytes.length, receivedAt: now };
  const path = photoPath(folder, hash);
  await mkdir(join(path, '..'), { recursive: true });
  await writeThrough(path, bytes);
  await photos.upsert(row, ['hash']);
  return row;
}

/** The original bytes, or a smaller copy made on first use. */
export async function readPhoto(folder: string, hash: string, width?: number): Promise<Buffer> {
  const read = (): Promise<Buffer> =>
    readFile(photoPath(folder, hash)).catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'ENOENT' ? lost() : error;
    });
  if (!width) return read();
  const path = photoPath(folder, hash, width);
  try {
    return await readFile(path);
  } catch {
    const { default: sharp } = await import('sharp');
    const whole = await read();
    const small = await decoders
      .run(() => sharp(whole).resize({ width, withoutEnlargement: true }).webp({ quality: 80 }).toBuffer())
      .catch(() => {
        throw lost();
      });
    await writeThrough(path, small);
    return small;
  }
}
