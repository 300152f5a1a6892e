import type { Body, EntryKind } from './bodies';
import { VERSIONS } from './bodies';
import { type SealedEntry, seal } from './chain';
import type { Author, Entry } from './entry';
import { nextOrderAt } from './order';

/** What a device knows of one shower before it writes the next entry. */
export interface ChainEnd {
  /** The device and person that write it. */
  deviceId: string;
  /** Entries of this chain so far. */
  deviceSeq: number;
  /** Hash of the last one; null before the first. */
  prevDeviceHash: string | null;
  /** Highest orderAt seen for the shower, of any device. */
  lastOrderAt: string | null;
}

/** What is to be sealed as an entry. */
export interface Draft<K extends EntryKind> {
  /** An id that nobody else makes. */
  id: string;
  /** The shower that it is about. */
  showerId: string;
  /** Which kind of entry. */
  kind: K;
  /** What it says. */
  body: Body<K>;
  /** Who says it, and as what. */
  author: Author;
  /** Version of the drawing that the person had before them. */
  geometryVersion: number;
  /** Wall clock in ms and minutes ahead of UTC. */
  nowMs: number;
  /** Minutes that local time is ahead of UTC. */
  offsetMinutes: number;
}

/** Writes the next entry of a device's chain, sealed; gives the chain's new end with it. */
export function writeEntry<K extends EntryKind>(
  draft: Draft<K>,
  end: ChainEnd,
): { sealed: SealedEntry; end: ChainEnd } {
  const orderAt = nextOrderAt(end.lastOrderAt, draft.nowMs);
  const entry = {
    id: draft.id,
    showerId: draft.showerId,
    kind: draft.kind,
    v: VERSIONS[draft.kind],
    body: draft.body,
    author: draft.author,
    deviceId: end.deviceId,
    deviceSeq: end.deviceSeq + 1,
    prevDeviceHash: end.prevDeviceHash,
    orderAt,
    observedAt: new Date(draft.nowMs).toISOString(),
    offsetMinutes: draft.offsetMinutes,
    geometryVersion: draft.geometryVersion,
  } as Entry;
  const sealed = seal(entry);
  return {
    sealed,
    end: { deviceId: end.deviceId, deviceSeq: entry.deviceSeq, prevDeviceHash: sealed.hash, lastOrderAt: orderAt },
  };
}
