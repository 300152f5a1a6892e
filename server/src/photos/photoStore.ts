import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { sha256Hex } from '@careful-seam/core/entries/chain';
import type { DataSource } from 'typeorm';
import { Refusal } from '../people/refusal';
import { PhotoEntity, type PhotoRow } from '../store/entities';
import { pictureFault } from './pictureParts';

/** Decoders at work at once: one a core, so that many pictures take long and not all of the machine. */
const DECODERS = availableParallelism();
const waitingDecoders: (() => void)[] = [];
let decoding = 0;

/** Runs a decoder as soon as one of the few is free. */
async function oneAtATime<T>(decode: () => Promise<T>): Promise<T> {
  if (decoding >= DECODERS) await new Promise<void>((free) => waitingDecoders.push(free));
  decoding += 1;
  try {
    return await decode();
  } finally {
    decoding -= 1;
    waitingDecoders.shift()?.();
  }
}

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
    await oneAtATime(() => image.stats());
    return { mime, widthPx: meta.width, heightPx: meta.height };
  } catch (error) {
    throw error instanceof Refusal ? error : notAPicture;
  }
}

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
  if (known) return known;
  const row: PhotoRow = { hash, ...(await inspect(bytes)), bytes: bytes.length, receivedAt: now };
  const path = photoPath(folder, hash);
  await mkdir(join(path, '..'), { recursive: true });
  await writeFile(`${path}.part`, bytes);
  await rename(`${path}.part`, path);
  await photos.upsert(row, ['hash']);
  return row;
}

/** The original bytes, or a smaller copy made on first use. */
export async function readPhoto(folder: string, hash: string, width?: number): Promise<Buffer> {
  if (!width) return readFile(photoPath(folder, hash));
  const path = photoPath(folder, hash, width);
  try {
    return await readFile(path);
  } catch {
    const { default: sharp } = await import('sharp');
    const whole = await readFile(photoPath(folder, hash));
    const small = await oneAtATime(() =>
      sharp(whole).resize({ width, withoutEnlargement: true }).webp({ quality: 80 }).toBuffer(),
    );
    await writeFile(path, small);
    return small;
  }
}
