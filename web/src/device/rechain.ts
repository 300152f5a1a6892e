import { seal } from '@careful-seam/core/entries/chain';
import type { Entry } from '@careful-seam/core/entries/entry';
import type { Database, StoredEntry } from './database';

/**
 * Seals a person's entries of one shower that the server never took into a chain with a new device number, in their
 * old order: ids, contents and times stay. For a tablet that was copied or restored, and for setting a refused entry
 * aside (`without`): that one stays on the tablet, marked, and counts no more. Give the number of entries moved.
 */
export async function rechain(
  db: Database,
  showerId: string,
  personId: string,
  newId: () => string,
  without: string | null = null,
): Promise<number> {
  const deviceId = newId();
  const tx = db.transaction(['entries', 'showers', 'kept'], 'readwrite');
  const entries = await tx.objectStore('entries').index('byShower').getAll(showerId);
  const shower = await tx.objectStore('showers').get(showerId);
  const kept = await tx.objectStore('kept').get('kept');
  const unsent = entries
    .filter((e) => e.ledgerSeq === null && e.authorId === personId && !e.aside)
    .sort((a, b) => a.deviceSeq - b.deviceSeq);
  let deviceSeq = 0;
  let prevDeviceHash: string | null = null;
  for (const old of unsent) {
    if (old.id === without) {
      await tx.objectStore('entries').put({ ...old, aside: true });
      continue;
    }
    deviceSeq += 1;
    const { text, hash } = seal({ ...(JSON.parse(old.text) as Entry), deviceId, deviceSeq, prevDeviceHash });
    const moved: StoredEntry = { ...old, deviceId, deviceSeq, text, hash, refused: null };
    await tx.objectStore('entries').put(moved);
    prevDeviceHash = hash;
  }
  if (shower) {
    const end = { deviceId, deviceSeq, prevDeviceHash, lastOrderAt: shower.lastOrderAt };
    await tx.objectStore('showers').put({ ...shower, chains: { ...shower.chains, [personId]: end } });
  }
  if (kept) await tx.objectStore('kept').put({ ...kept, devices: { ...kept.devices, [personId]: deviceId } }, 'kept');
  await tx.done;
  return deviceSeq;
}
