import { sha256Hex } from '@careful-seam/core/log/chain';
import type { Database } from './database';
import { withRoom } from './room';
import type { StoredPhoto } from './stored';

/** A picture is kept with this longest side, px: a wrinkle shows, and a cellar can send it. */
const LONG_SIDE_PX = 2560;
/** No camera makes a larger one, bytes. */
const LARGEST_FILE = 60 * 1024 * 1024;

/** Why a file can't become a picture: the text key that says so. */
export type PictureRefusal =
  | 'picture.empty'
  | 'picture.tooLarge'
  | 'picture.notAPicture'
  | 'picture.heic'
  | 'picture.tabletFull';

/** Brands that a HEIC or HEIF file names in its first box (ISO/IEC 23008-12). */
const HEIC_BRANDS = new Set(['heic', 'heix', 'hevc', 'heim', 'heis', 'mif1', 'msf1']);

/** True for a file in the format that some phones save, and that this browser may not read. */
export async function isHeic(file: Blob): Promise<boolean> {
  const head = new TextDecoder('latin1').decode(await file.slice(4, 12).arrayBuffer());
  return head.startsWith('ftyp') && HEIC_BRANDS.has(head.slice(4));
}

/** The picture as pixels; null where this browser can not read it. */
async function decode(file: Blob): Promise<ImageBitmap | null> {
  return createImageBitmap(file).catch(() => null);
}

/**
 * Re-encodes a file as the picture that is kept: long side at most 2560 px, no metadata, then hashed. Those bytes are
 * the original from now on.
 */
export async function takePicture(
  db: Database,
  file: Blob,
): Promise<{ ok: true; photo: StoredPhoto } | { ok: false; why: PictureRefusal }> {
  if (file.size === 0) return { ok: false, why: 'picture.empty' };
  if (file.size > LARGEST_FILE) return { ok: false, why: 'picture.tooLarge' };
  const image = await decode(file);
  if (!image) return { ok: false, why: (await isHeic(file)) ? 'picture.heic' : 'picture.notAPicture' };
  const scale = Math.min(1, LONG_SIDE_PX / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(image.width * scale);
  canvas.height = Math.round(image.height * scale);
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.86));
  if (!blob) return { ok: false, why: 'picture.notAPicture' };
  const hash = sha256Hex(new Uint8Array(await blob.arrayBuffer()));
  const photo: StoredPhoto = {
    hash,
    blob,
    widthPx: canvas.width,
    heightPx: canvas.height,
    sent: false,
    takenMs: Date.now(),
  };
  image.close();
  try {
    await withRoom(db, () => db.put('photos', photo));
  } catch {
    return { ok: false, why: 'picture.tabletFull' };
  }
  return { ok: true, photo };
}
