import { admitEntry } from '../log/admitEntry';
import { ledgerHash, sha256Hex } from '../log/chain';
import type { Entry } from '../log/entry';
import type { Problem } from '../outcome/outcome';

/** One stored entry with its place. */
export interface LedgerPlace {
  id: string;
  text: string;
  hash: string;
  ledgerSeq: number;
  ledgerHash: string;
  receivedAt: string;
}

export interface LedgerAnswer {
  taken: Omit<LedgerPlace, 'text' | 'hash'>[];
  refused: (Problem & { id: string }) | null;
}

/** What a ledger of one shower does, whatever keeps it. The ledger suite runs against each. */
export interface Ledger {
  append: (texts: readonly string[]) => Promise<LedgerAnswer>;
  after: (seq: number) => Promise<LedgerPlace[]>;
}

/** A ledger in memory with the database's manners. `places` can be copied and put back, as a backup would. */
export class MemoryLedger implements Ledger {
  places: LedgerPlace[] = [];
  private byId = new Map<string, LedgerPlace>();
  private lastOfDevice = new Map<string, { deviceSeq: number; hash: string }>();

  /** What a backup would hold: nothing that comes later changes it. */
  copy(): LedgerPlace[] {
    return [...this.places];
  }

  /** Puts a copy back in force: what came after it is gone. */
  static restored(places: readonly LedgerPlace[]): MemoryLedger {
    const ledger = new MemoryLedger();
    for (const place of places) ledger.keep(JSON.parse(place.text) as Entry, place);
    return ledger;
  }

  async append(texts: readonly string[]): Promise<LedgerAnswer> {
    const taken: LedgerAnswer['taken'] = [];
    for (const text of texts) {
      const entry = JSON.parse(text) as Entry;
      const admitted = this.take(entry, text);
      if ('problem' in admitted) return { taken, refused: { id: entry.id, ...admitted.problem } };
      taken.push(admitted);
    }
    return { taken, refused: null };
  }

  async after(seq: number): Promise<LedgerPlace[]> {
    return this.places.filter((p) => p.ledgerSeq > seq);
  }

  private keep(entry: Entry, place: LedgerPlace): void {
    this.places.push(place);
    this.byId.set(place.id, place);
    this.lastOfDevice.set(entry.deviceId, { deviceSeq: entry.deviceSeq, hash: place.hash });
  }

  private take(entry: Entry, text: string): LedgerAnswer['taken'][number] | { problem: Problem } {
    const hash = sha256Hex(text);
    const same = this.byId.get(entry.id);
    const admitted = admitEntry(entry, hash, {
      sameIdHash: same?.hash ?? null,
      lastOfDevice: this.lastOfDevice.get(entry.deviceId) ?? null,
    });
    if (!admitted.ok) return { problem: admitted.problem };
    const place = same ?? this.placed(entry, text, hash);
    return { id: place.id, ledgerSeq: place.ledgerSeq, ledgerHash: place.ledgerHash, receivedAt: place.receivedAt };
  }

  private placed(entry: Entry, text: string, hash: string): LedgerPlace {
    const ledgerSeq = this.places.length + 1;
    const receivedAt = '2026-01-01T00:00:00.000Z';
    const prevLedgerHash = this.places.at(-1)?.ledgerHash ?? null;
    const link = ledgerHash({ ledgerSeq, entryHash: hash, prevLedgerHash, receivedAt, skewMs: 0 });
    const place = { id: entry.id, text, hash, ledgerSeq, ledgerHash: link, receivedAt };
    this.keep(entry, place);
    return place;
  }
}
