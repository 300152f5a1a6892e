import type { FirmAnswer } from '@careful-seam/contract/api/firm';
import type { Database, Kept } from './database';

/**
 * Writes down what the server says of the firm. A new epoch means that the server was restored from a backup: whatever
 * it had acknowledged is in doubt, so every shower is asked for from its beginning and what the server lacks is sent
 * again. All in one transaction: a crash in the middle leaves the old epoch, and the next round begins anew. Gives
 * true when the epoch is a new one.
 */
export async function noteFirm(db: Database, firm: FirmAnswer, nowMs: number): Promise<boolean> {
  const tx = db.transaction(['kept', 'entries', 'showers', 'photos'], 'readwrite');
  const kept = (await tx.objectStore('kept').get('kept')) as Kept;
  const restored = typeof kept?.epoch === 'string' && kept.epoch !== firm.epoch;
  if (restored) {
    for (const entry of await tx.objectStore('entries').getAll())
      if (entry.ledgerSeq !== null)
        void tx.objectStore('entries').put({ ...entry, ledgerSeq: null, waits: 1, again: true });
    for (const shower of await tx.objectStore('showers').getAll())
      void tx.objectStore('showers').put({ ...shower, cursor: 0, headHash: null });
    for (const photo of await tx.objectStore('photos').getAll())
      if (photo.sent) void tx.objectStore('photos').put({ ...photo, sent: false });
  }
  const { epoch, settings, crews } = firm;
  await tx.objectStore('kept').put({ ...kept, epoch, settings, crews, contactMs: nowMs }, 'kept');
  await tx.done;
  return restored;
}
