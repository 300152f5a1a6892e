import type { SyncAnswer } from '@careful-seam/contract/api/sync';
import { type Database, marked } from './database';
import { emptyShower, type Kept } from './stored';

/** What a tablet learnt from an answer of the server. */
export interface Noted {
  /** The server was restored from a backup. */
  restored: boolean;
  /** Showers that were not here. */
  fresh: string[];
}

/**
 * Writes down an answer of the server, all in one transaction: a crash in the middle leaves what was before, and the next round
 * asks from there again. A new epoch means that the server was restored from a backup: whatever it had acknowledged is in
 * doubt, so every shower is asked for from its beginning and what the server lacks is sent again.
 */
export async function noteAnswer(db: Database, answer: SyncAnswer, nowMs: number): Promise<Noted> {
  const tx = db.transaction(['kept', 'entries', 'showers', 'photos'], 'readwrite');
  const showers = tx.objectStore('showers');
  const kept = (await tx.objectStore('kept').get('kept')) as Kept;
  const restored = typeof kept?.epoch === 'string' && kept.epoch !== answer.epoch;
  if (restored) {
    for (const entry of await tx.objectStore('entries').getAll())
      if (entry.ledgerSeq !== null)
        void tx.objectStore('entries').put({ ...entry, ledgerSeq: null, waits: 1, again: true });
    for (const shower of await showers.getAll()) void showers.put(marked({ ...shower, cursor: 0, headHash: null }));
    for (const photo of await tx.objectStore('photos').getAll())
      if (photo.sent) void tx.objectStore('photos').put({ ...photo, sent: false });
  }
  const fresh: string[] = [];
  for (const { keep, ...row } of answer.showers) {
    const known = await showers.get(row.id);
    // Others' showers, that this tablet never had: no more than a name in a list that nobody asked for.
    if (!known && !keep) continue;
    if (!known?.row) fresh.push(row.id);
    void showers.put(marked({ ...(known ?? emptyShower(row.id)), row }));
  }
  const { epoch, firm, mark, since } = answer;
  const words =
    firm === null
      ? {}
      : {
          settings: firm.settings,
          crews: firm.crews,
          newestBook: firm.newestBook,
          lookPlan: firm.lookPlan,
          plan: firm.plan,
          leaks: firm.leaks,
        };
  const more = answer.more ?? kept?.more ?? false;
  await tx.objectStore('kept').put({ ...kept, ...words, epoch, firmMark: mark, since, more, contactMs: nowMs }, 'kept');
  await tx.done;
  return { restored, fresh };
}
