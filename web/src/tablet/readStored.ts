import { type Entry, knownKind, readEntry } from '@careful-seam/core/log/entry';
import { StoredEntry } from './stored';

/**
 * An entry as it is read from its text; null where it can't be. What the server took it has read through its schema, so that of
 * those the kind and the version are asked alone: a later version of this program may have written them. All else is read whole.
 */
export function readStored(stored: StoredEntry): Entry | null {
  if (!StoredEntry.safeParse(stored).success) return null;
  const { text, ledgerSeq } = stored;
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return null;
  }
  if (ledgerSeq !== null) return knownKind(raw).ok ? (raw as Entry) : null;
  const read = readEntry(raw);
  return read.ok ? read.value : null;
}
