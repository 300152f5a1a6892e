import { done, type Outcome, refuse } from '../outcome/outcome';
import { continuesChain } from './chain';
import type { Entry } from './entry';

/** What a ledger knows when an entry arrives. */
export interface AdmissionGround {
  /** Hash of the entry that is stored under the same id already, or null. */
  sameIdHash: string | null;
  /** The newest entry of the same device for this shower, or null. */
  lastOfDevice: { deviceSeq: number; hash: string } | null;
}

/**
 * Decides whether a ledger takes an entry: `known` = it is stored already and is acknowledged again, `new` = it gets
 * the next place. Refuses another content under a known id (`id-taken`) and a chain with a gap or a fork
 * (`chain-broken`). The one decision that every ledger makes, in the database and in memory.
 */
export function admitEntry(entry: Entry, hash: string, ground: AdmissionGround): Outcome<'known' | 'new'> {
  if (ground.sameIdHash === hash) return done('known');
  if (ground.sameIdHash !== null) return refuse('id-taken', 'id');
  const chained = continuesChain(entry, ground.lastOfDevice);
  return chained.ok ? done('new') : chained;
}
