import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import { canonicalText } from '@careful-seam/core/entries/chain';
import type { Entry } from '@careful-seam/core/entries/entry';
import { MemoryLedger } from '@careful-seam/core/tests/memoryLedger';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';

interface Answer {
  status: number;
  json: unknown;
}

const uuidOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const refused = (code: string, message: string): Answer => ({
  status: 404,
  json: { error: { code, field: '', message } },
});

/** A backup of the simulated server. */
export interface Backup {
  ledgers: Map<string, ReturnType<MemoryLedger['copy']>>;
  photos: Set<string>;
}

/** The server's part in a simulation: the routes that sync uses, over ledgers in memory. */
export class SimulatedServer {
  ledgers = new Map<string, MemoryLedger>();
  photos = new Set<string>();
  private epochs = 1;

  backup(): Backup {
    return { ledgers: new Map([...this.ledgers].map(([id, l]) => [id, l.copy()])), photos: new Set(this.photos) };
  }

  /** What a restore does: everything as it was then, and a new epoch. */
  restore(backup: Backup): void {
    this.ledgers = new Map([...backup.ledgers].map(([id, places]) => [id, MemoryLedger.restored(places)]));
    this.photos = new Set(backup.photos);
    this.epochs += 1;
  }

  async handle(method: string, path: string, body: unknown): Promise<Answer> {
    const url = new URL(path, 'http://simulated');
    const [, , what, id] = url.pathname.split('/');
    if (what === 'firm')
      return this.gives({
        epoch: uuidOf(this.epochs),
        settings: FIRST_SETTINGS,
        crews: [{ id: 'heron', name: 'Heron' }],
        newestBook: { id: BOOK.id, version: BOOK.version },
      });
    if (what === 'rule-books') return this.gives({ book: BOOK });
    if (what === 'photos') {
      this.photos.add(id!);
      return this.gives({ hash: id, widthPx: 1, heightPx: 1 });
    }
    if (!id) return this.gives({ showers: [...this.ledgers.keys()].map((showerId) => this.row(showerId)) });
    if (method === 'GET') return this.pull(id, Number(url.searchParams.get('after')));
    return this.push(id, (JSON.parse(String(body)) as { entries: string[] }).entries);
  }

  private gives(json: unknown): Answer {
    return { status: 200, json };
  }

  private row(id: string) {
    const places = this.ledgers.get(id)!.places;
    return {
      id,
      name: 'n',
      job: 'j',
      crewId: 'heron',
      headSeq: places.length,
      headHash: places.at(-1)?.ledgerHash ?? null,
      updatedAt: '',
      inspectorId: null,
      visitOn: null,
    };
  }

  private async pull(id: string, after: number): Promise<Answer> {
    const ledger = this.ledgers.get(id);
    if (!ledger) return refused('not-found', 'There is no such shower.');
    return this.gives({ entries: await ledger.after(after), more: false });
  }

  private async push(id: string, texts: string[]): Promise<Answer> {
    for (const text of texts)
      if (canonicalText(JSON.parse(text)) !== text) throw new Error('an entry that is not canonical was sent');
    const first = JSON.parse(texts[0]!) as Entry;
    const known = this.ledgers.get(id);
    if (!known && first.kind !== 'shower-created')
      return this.gives({
        taken: [],
        refused: { id: first.id, code: 'not-found', field: 'showerId', message: '' },
        skewMs: 0,
      });
    const ledger = known ?? new MemoryLedger();
    this.ledgers.set(id, ledger);
    return this.gives({ ...(await ledger.append(texts)), skewMs: 0 });
  }
}
