import { ApiError } from './api';
import type { Database } from './database';

/** Below this share of free room the tablet is told to be nearly full. */
const NEARLY_FULL = 0.1;

/** The tablet has no room left. */
const isFull = (error: unknown): boolean =>
  error instanceof Error && (error.name === 'QuotaExceededError' || /quota/i.test(error.message));

/**
 * Makes room: first the copies of other people's pictures, then own pictures whose hash the server confirmed, the
 * oldest first, up to `atMost`. Entries are never removed. Gives the number removed.
 */
export async function makeRoom(db: Database, atMost = 40): Promise<number> {
  const copies = await db.getAllKeys('small');
  if (copies.length > 0) {
    await db.clear('small');
    return copies.length;
  }
  const sent = (await db.getAll('photos')).filter((p) => p.sent).sort((a, b) => (a.takenMs ?? 0) - (b.takenMs ?? 0));
  for (const { hash } of sent.slice(0, atMost)) await db.delete('photos', hash);
  return Math.min(sent.length, atMost);
}

/** Runs a write; when the tablet is full it makes room and tries again, and says so in a sentence when nothing is left to remove. */
export async function withRoom<T>(db: Database, write: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await write();
    } catch (error) {
      if (!isFull(error)) throw error;
      if ((await makeRoom(db)) === 0) throw new ApiError({ code: 'tablet-full', field: 'storage' });
    }
  }
}

/** How the tablet's storage stands: whether the browser may clear it by itself, and whether it is nearly full. */
export interface Room {
  /** The browser does not clear it by itself. */
  persisted: boolean;
  /** Little is left: finished showers should go. */
  nearlyFull: boolean;
}

/** Asks the browser to keep this tablet's data, and reads how much room is left. */
export async function askForRoom(storage: StorageManager | undefined): Promise<Room> {
  if (!storage?.estimate) return { persisted: false, nearlyFull: false };
  const persisted = (await storage.persisted?.()) || (await storage.persist?.()) || false;
  const { usage = 0, quota = 0 } = await storage.estimate();
  return { persisted, nearlyFull: quota > 0 && usage > quota * (1 - NEARLY_FULL) };
}
