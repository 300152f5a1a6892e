import { seal } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { nextOrderAt } from '@careful-seam/core/log/order';
import { type Database, marked } from './database';
import { readStored } from './readStored';
import type { StoredEntry } from './stored';

/** The latest orderAt of some entries, or null. */
const latestOf = (entries: readonly StoredEntry[]): string | null =>
  entries
    .flatMap((e) => readStored(e)?.orderAt ?? [])
    .reduce<string | null>((a, b) => (a === null || b > a ? b : a), null);

/** The times of an entry by a clock that is set right. Those that a person typed into it stay as they were typed. */
function soundClock(entry: Entry, offMs: number, lastOrderAt: string | null): Pick<Entry, 'observedAt' | 'orderAt'> {
  const ms = Date.parse(entry.observedAt) + offMs;
  return { observedAt: new Date(ms).toISOString(), orderAt: nextOrderAt(lastOrderAt, ms) };
}

/**
 * Seals a person's entries of one shower that the server never took into a chain with a new device number, in their
 * old order: ids, contents and times stay. For a tablet that was copied or restored, and for setting a refused entry
 * aside (`without`): that one stays on the tablet, marked, and counts no more. `offMs` sets a clock right that ran ahead;
 * `name` is what the person's account is called now.
 * Gives the number of entries moved.
 */
export async function rechain(
  db: Database,
  showerId: string,
  personId: string,
  newId: () => string,
  without: string | null = null,
  offMs = 0,
  name: string | null = null,
): Promise<number> {
  const deviceId = newId();
  const tx = db.transaction(['entries', 'showers', 'kept'], 'readwrite');
  const entries = await tx.objectStore('entries').index('byShower').getAll(showerId);
  const shower = await tx.objectStore('showers').get(showerId);
  const kept = await tx.objectStore('kept').get('kept');
  const unsent = entries
    .filter((e) => e.ledgerSeq === null && e.authorId === personId && !e.aside)
    .sort((a, b) => a.deviceSeq - b.deviceSeq);
  // The clock begins anew behind what others wrote: what this tablet wrote ahead of time does not count.
  let lastOrderAt = offMs === 0 ? (shower?.lastOrderAt ?? null) : latestOf(entries.filter((e) => !unsent.includes(e)));
  let deviceSeq = 0;
  let prevDeviceHash: string | null = null;
  for (const old of unsent) {
    const entry = readStored(old);
    // What can't be read can't be sealed anew: it stays on the tablet, marked, like one that a person sets aside.
    if (old.id === without || entry === null) {
      await tx.objectStore('entries').put({ ...old, aside: true });
      continue;
    }
    deviceSeq += 1;
    const sound = offMs === 0 ? {} : soundClock(entry, offMs, lastOrderAt);
    const author = name === null ? entry.author : { ...entry.author, name };
    const { text, hash } = seal({ ...entry, ...sound, author, deviceId, deviceSeq, prevDeviceHash });
    const clockWas = offMs === 0 ? {} : { clockWas: old.clockWas ?? entry.observedAt };
    const moved: StoredEntry = { ...old, ...clockWas, deviceId, deviceSeq, text, hash, refused: null };
    if (offMs !== 0) lastOrderAt = (sound as Entry).orderAt;
    await tx.objectStore('entries').put(moved);
    prevDeviceHash = hash;
  }
  if (shower) {
    const end = { deviceId, deviceSeq, prevDeviceHash, lastOrderAt };
    await tx
      .objectStore('showers')
      .put(marked({ ...shower, lastOrderAt, chains: { ...shower.chains, [personId]: end } }));
  }
  if (kept) await tx.objectStore('kept').put({ ...kept, devices: { ...kept.devices, [personId]: deviceId } }, 'kept');
  await tx.done;
  return deviceSeq;
}
