import { availableParallelism } from 'node:os';
import type { DataSource, EntityManager } from 'typeorm';
import { makeGate } from '../programs/gate';
import { Refusal } from '../refusals/refusal';
import { PhotoEntity, type PhotoRow } from '../store/entities/pictures';
import { sha256 } from '../store/sha256';
import { pictureFault } from './pictureParts';
import { picturesAt } from './picturesAt';

/** Decoders at work at once: one a core, so that many pictures take long and not all of the machine. */
const decoders = makeGate(availableParallelism());

/** More are no picture of a seam. */
const PIXELS_AT_MOST = 60_000_000;
/** Kinds of pictures that are taken. */
const MIMES: Record<string, string> = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' };

/** Name of a smaller copy. */
const copyOf = (hash: string, width: number): string => `${hash}.${width}.webp`;

/** What kind of picture it is and how large, by its first bytes; null: none that is taken here. Throws for what is no picture at all. */
export async function pictureLook(bytes: Buffer): Promise<Pick<PhotoRow, 'mime' | 'widthPx' | 'heightPx'> | null> {
  const { default: sharp } = await import('sharp');
  const { format, width, height } = await sharp(bytes, { limitInputPixels: PIXELS_AT_MOST }).metadata();
  const mime = MIMES[format ?? ''];
  return mime && width && height ? { mime, widthPx: width, heightPx: height } : null;
}

/** Kind and size; refused where it is none. */
async function inspect(bytes: Buffer): Promise<Pick<PhotoRow, 'mime' | 'widthPx' | 'heightPx'>> {
  const { default: sharp } = await import('sharp');
  const notAPicture = new Refusal('not-a-picture', 'picture');
  try {
    const look = await pictureLook(bytes);
    if (!look) throw notAPicture;
    const fault = pictureFault(bytes);
    if (fault === 'not-a-picture') throw notAPicture;
    if (fault !== null) throw new Refusal(fault === 'metadata' ? 'picture-metadata' : 'picture-tail', 'picture');
    await decoders.run(() => sharp(bytes, { limitInputPixels: PIXELS_AT_MOST }).stats());
    return look;
  } catch (error) {
    throw error instanceof Refusal ? error : notAPicture;
  }
}

/** Said of a picture whose bytes are gone. */
const lost = () => new Refusal('picture-lost', 'hash');

/** Checks the content against the hash and keeps it at the place of pictures; sending it again changes nothing. */
export async function keepPhoto(
  store: Pick<DataSource | EntityManager, 'getRepository'>,
  picturePlace: string,
  hash: string,
  bytes: Buffer,
  now: Date,
): Promise<PhotoRow> {
  if (sha256(bytes) !== hash) throw new Refusal('picture-mismatch', 'hash');
  const [photos, pictures] = [store.getRepository(PhotoEntity), picturesAt(picturePlace)];
  const known = await photos.findOneBy({ hash });
  // Known is what lies here whole: one that was lost is taken in again.
  if (known && (await pictures.read(hash))?.equals(bytes)) return known;
  const row: PhotoRow = { hash, ...(await inspect(bytes)), bytes: bytes.length, receivedAt: now };
  await pictures.write(hash, bytes);
  await photos.upsert(row, ['hash']);
  return row;
}

/** The original bytes, or a smaller copy made on first use. */
export async function readPhoto(picturePlace: string, hash: string, width?: number): Promise<Buffer> {
  const pictures = picturesAt(picturePlace);
  const read = async (): Promise<Buffer> => {
    const bytes = await pictures.read(hash);
    if (!bytes) throw lost();
    return bytes;
  };
  if (!width) return read();
  const copy = await pictures.read(copyOf(hash, width));
  if (copy) return copy;
  const { default: sharp } = await import('sharp');
  const whole = await read();
  const small = await decoders
    .run(() => sharp(whole).resize({ width, withoutEnlargement: true }).webp({ quality: 80 }).toBuffer())
    .catch(() => {
      throw lost();
    });
  await pictures.write(copyOf(hash, width), small);
  return small;
}
