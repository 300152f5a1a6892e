import { PHOTO_BYTES_AT_MOST, PhotoTaken } from '@careful-seam/contract/api/messages';
import { orderAtOf } from '@careful-seam/core/log/order';
import { ApiError, isOffline, type Server } from './api';
import type { Database } from './database';
import { inLanes } from './lanes';
import type { WantedPicture } from './stored';

/** Width of the copies that are kept of other people's pictures, px. */
const SMALL_PX = 960;
/** Smaller copies fetched in one round at most, so that a first visit does not block what follows. */
const COPIES_A_ROUND = 40;

/** Pictures on their way at a time: while the server looks at one, the next one travels. */
const AT_ONCE = 2;

/** Sends one picture; true when the server has it now. */
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

/** So long a tablet keeps the whole of a picture that the server has, ms: for whoever looks at it again in the same week's cellar. */
const KEPT_WHOLE_MS = 7 * 24 * 3_600_000;

/** Pictures that the server confirmed long ago make room: a smaller copy is fetched for each. What it has not confirmed stays whole. */
export async function letGoSent(db: Database, nowMs: number): Promise<void> {
  for (const hash of await db.getAllKeys('photos')) {
    const tx = db.transaction(['photos', 'wanted'], 'readwrite');
    const photo = await tx.objectStore('photos').get(hash);
    if (photo?.sent && nowMs - (photo.takenMs ?? 0) > KEPT_WHOLE_MS) {
      void tx.objectStore('wanted').put({ hash, orderAt: orderAtOf(photo.takenMs ?? 0, 0), tries: 0, askAgainMs: 0 });
      void tx.objectStore('photos').delete(hash);
    }
    await tx.done;
  }
}

/** A picture that its tablet has not sent yet is asked for again after this, then after twice as long each time, ms. */
const ASK_AGAIN_MS = 4_000;
/** Longest pause between two questions, ms: what lies on a tablet in a cellar may take days. */
const ASK_AGAIN_AT_LATEST_MS = 30 * 60_000;
/** Copies kept at most: the newest. At some 60 kB each this is what a day's showers need several times over. */
const COPIES_AT_MOST = 600;

/** The oldest copies make room for newer ones. */
async function dropOldCopies(db: Database): Promise<void> {
  const tx = db.transaction('small', 'readwrite');
  let tooMany = (await tx.store.count()) - COPIES_AT_MOST;
  for (let at = await tx.store.index('byOrder').openCursor(); at && tooMany > 0; at = await at.continue()) {
    void at.delete();
    tooMany -= 1;
  }
  await tx.done;
}

/** Asks the server for one wanted picture. A network that is gone throws: nothing was learned then. */
async function fetchCopy(db: Database, server: Server, wanted: WantedPicture, nowMs: number): Promise<void> {
  const { hash, orderAt, tries } = wanted;
  try {
    const response = await server.send('GET', `/api/photos/${hash}?width=${SMALL_PX}`);
    await db.put('small', { hash, blob: await response.blob(), orderAt });
    await db.delete('wanted', hash);
  } catch (error) {
    if (!(error instanceof ApiError) || isOffline(error)) throw error;
    const pauseMs = Math.min(ASK_AGAIN_MS * 2 ** tries, ASK_AGAIN_AT_LATEST_MS);
    await db.put('wanted', { ...wanted, tries: tries + 1, askAgainMs: nowMs + pauseMs });
  }
}

/**
 * Fetches smaller copies of what others photographed, the newest first, for the time without a signal. What has not arrived at
 * the server yet stays wanted and is asked for again; a round that is cut off, or that brought too much, goes on in the next.
 */
export async function fetchCopies(db: Database, server: Server, nowMs: number): Promise<void> {
  const due = (await db.getAll('wanted')).filter((w) => w.askAgainMs <= nowMs);
  due.sort((a, b) => b.orderAt.localeCompare(a.orderAt));
  let left = COPIES_A_ROUND;
  for (const [place, wanted] of due.entries()) {
    if (left === 0) break;
    const isHere = (await db.getKey('photos', wanted.hash)) ?? (await db.getKey('small', wanted.hash));
    if (isHere || place >= COPIES_AT_MOST) await db.delete('wanted', wanted.hash);
    else {
      left -= 1;
      await fetchCopy(db, server, wanted, nowMs);
    }
  }
  await dropOldCopies(db);
}

/** A picture for the screen: from this tablet, else from the server, else null while it is pending. */
export async function pictureUrl(db: Database, hash: string): Promise<string | null> {
  const own = (await db.get('photos', hash)) ?? (await db.get('small', hash));
  if (own) return URL.createObjectURL(own.blob);
  const response = await fetch(`/api/photos/${hash}?width=${SMALL_PX}`).catch(() => null);
  return response?.ok ? URL.createObjectURL(await response.blob()) : null;
}
