import { PHOTO_BYTES_AT_MOST, PhotoTaken } from '@careful-seam/contract/api/messages';
import type { Entry } from '@careful-seam/core/entries/entry';
import { photosNeeded } from '@careful-seam/core/entries/photosNeeded';
import type { Server } from './api';
import type { Database } from './database';
import { inLanes } from './lanes';
import { entriesOf } from './outbox';

/** Width of the copies that are kept of other people's pictures, px. */
const SMALL_PX = 960;
/** Smaller copies fetched in one round at most, so that a first visit does not block what follows. */
const COPIES_A_ROUND = 40;

/** Pictures on their way at a time: while the server looks at one, the next one travels. */
const AT_ONCE = 2;

async function sendPicture(db: Database, server: Server, hash: string): Promise<boolean> {
  const photo = await db.get('photos', hash);
  if (!photo || photo.sent || photo.blob.size > PHOTO_BYTES_AT_MOST) return false;
  const response = await server.send('PUT', `/api/photos/${hash}`, photo.blob, photo.blob.type);
  PhotoTaken.parse(await response.json());
  await db.put('photos', { ...photo, sent: true });
  return true;
}

/** Sends the pictures that the server has not confirmed yet. Gives the number sent; throws the first failure. */
export async function sendPictures(db: Database, server: Server): Promise<number> {
  let sent = 0;
  await inLanes(await db.getAllKeys('photos'), AT_ONCE, async (hash) => {
    if (await sendPicture(db, server, hash)) sent += 1;
  });
  return sent;
}

/** Fetches smaller copies of what others photographed in these showers, for the time without a signal. */
export async function fetchCopies(db: Database, server: Server, showerIds: Iterable<string>): Promise<void> {
  let left = COPIES_A_ROUND;
  for (const id of showerIds) {
    const entries = (await entriesOf(db, id)).map((e) => JSON.parse(e.text) as Entry);
    for (const hash of photosNeeded(entries)) {
      if (left === 0) return;
      if ((await db.getKey('photos', hash)) ?? (await db.getKey('small', hash))) continue;
      // Not arrived yet, or gone: it is asked for again when its shower changes.
      const response = await server.send('GET', `/api/photos/${hash}?width=${SMALL_PX}`).catch(() => null);
      if (!response) continue;
      await db.put('small', { hash, blob: await response.blob() });
      left -= 1;
    }
  }
}

/** A picture for the screen: from this tablet, else from the server, else null while it is pending. */
export async function pictureUrl(db: Database, hash: string): Promise<string | null> {
  const own = (await db.get('photos', hash)) ?? (await db.get('small', hash));
  if (own) return URL.createObjectURL(own.blob);
  const response = await fetch(`/api/photos/${hash}?width=${SMALL_PX}`).catch(() => null);
  return response?.ok ? URL.createObjectURL(await response.blob()) : null;
}
