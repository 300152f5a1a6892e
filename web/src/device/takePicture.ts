import { sha256Hex } from '@careful-seam/core/entries/chain';
import type { Database, StoredPhoto } from './database';

const LONG_SIDE_PX = 2560;
const LARGEST_FILE = 60 * 1024 * 1024;

/** Why a file can't become a picture: the text key that says so. */
export type PictureRefusal = 'picture.empty' | 'picture.tooLarge' | 'picture.notAPicture';

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
  if (!image) return { ok: false, why: 'picture.notAPicture' };
  const scale = Math.min(1, LONG_SIDE_PX / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(image.width * scale);
  canvas.height = Math.round(image.height * scale);
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.86));
  if (!blob) return { ok: false, why: 'picture.notAPicture' };
  const hash = sha256Hex(new Uint8Array(await blob.arrayBuffer()));
  const photo: StoredPhoto = { hash, blob, widthPx: canvas.width, heightPx: canvas.height, sent: false };
  await db.put('photos', photo);
  return { ok: true, photo };
}

/** A picture for the screen: from this tablet, else from the server, else null while it is pending. */
export async function pictureUrl(db: Database, hash: string): Promise<string | null> {
  const own = await db.get('photos', hash);
  if (own) return URL.createObjectURL(own.blob);
  const response = await fetch(`/api/photos/${hash}?width=960`).catch(() => null);
  return response?.ok ? URL.createObjectURL(await response.blob()) : null;
}
