import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import type { SyncAsk } from '@careful-seam/contract/api/sync';
import { canonicalText } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { MemoryLedger } from '@careful-seam/core/tests/memoryLedger';
import { BOOK } from '@careful-seam/core/tests/sampleTablet';

export interface Answer {
  status: number;
  json: unknown;
  /** Sent line by line in place of the JSON. */
  lines?: unknown[];
}

/** What a wire brings of an answer. `whole` below 1: it breaks off after that share of its bytes. */
export function responseOf({ status, json, lines }: Answer, whole = 1): Response {
  if (!lines) return new Response(JSON.stringify(json), { status });
  const bytes = new TextEncoder().encode(lines.map((line) => `${JSON.stringify(line)}\n`).join(''));
  const body = new ReadableStream<Uint8Array>({
    start: (stream) => stream.enqueue(bytes.slice(0, Math.floor(bytes.length * whole))),
    pull: (stream) => (whole < 1 ? stream.error(new TypeError('broken off')) : stream.close()),
  });
  return new Response(body, { status });
}

const uuidOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
/** Entries in one line of a batch: few, so that a shower comes in several. */
const LINE_ENTRIES = 5;
const chunks = <T>(all: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / size) }, (_, k) => all.slice(k * size, (k + 1) * size));

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
  /** How often each shower moved, in the order in which they did. */
  moves: string[] = [];
  /** Which showers a tablet should hold by itself. */
  keeps: (id: string) => boolean = () => true;
  private epochs = 1;

  backup(): Backup {
    return { ledgers: new Map([...this.ledgers].map(([id, l]) => [id, l.copy()])), photos: new Set(this.photos) };
  }

  /** What a restore does: everything as it was then, and a new epoch. */
  restore(backup: Backup): void {
    this.ledgers = new Map([...backup.ledgers].map(([id, places]) => [id, MemoryLedger.restored(places)]));
    this.photos = new Set(backup.photos);
    this.epochs += 1;
    this.moves = [...this.ledgers.keys()];
  }

  /** As the server's own: everything at first and after a restore, then what moved. */
  private whatMoved({ since, firm, known }: SyncAsk): Answer {
    const epoch = uuidOf(this.epochs);
    const settings = {
      epoch,
      settings: FIRST_SETTINGS,
      crews: [{ id: 'heron', name: 'Heron' }],
      newestBook: { id: BOOK.id, version: BOOK.version },
    };
    const answer = { epoch, firm: firm === epoch ? null : settings, mark: epoch };
    const at = since === null ? '0' : since.startsWith(`${epoch}.`) ? since.split('.')[1]! : null;
    if (at === null) return this.gives({ ...answer, since: null, showers: [], more: null });
    const told = (id: string) => since !== null || this.keeps(id) || known?.includes(id);
    const moved = [...new Set(this.moves.slice(Number(at)))].filter((id) => this.ledgers.has(id) && told(id));
    return this.gives({
      ...answer,
      since: `${epoch}.${this.moves.length}`,
      showers: moved.map((id) => ({ ...this.row(id), keep: this.keeps(id) })),
      more: since === null ? false : null,
    });
  }

  private async batch({ want }: { want: { id: string; after: number }[] }): Promise<Answer> {
    const lines: unknown[] = [];
    for (const { id, after } of want) {
      const ledger = this.ledgers.get(id);
      if (!ledger) lines.push({ id, entries: [], missing: true });
      // A few at a time, as a long shower comes in several lines.
      else for (const entries of chunks(await ledger.after(after), LINE_ENTRIES)) lines.push({ id, entries });
    }
    return { status: 200, json: null, lines };
  }

  async handle(method: string, path: string, body: unknown): Promise<Answer> {
    const url = new URL(path, 'http://simulated');
    const [, , what = '', id = ''] = url.pathname.split('/');
    if (what === 'sync' && id === 'entries') return this.batch(JSON.parse(String(body)));
    if (what === 'sync') return this.whatMoved(JSON.parse(String(body)));
    if (what === 'rule-books') return this.gives({ book: BOOK });
    if (what === 'photos' && method === 'GET')
      return this.photos.has(id)
        ? this.gives('bytes')
        : { status: 404, json: { error: { code: 'picture-lost', field: 'hash', message: 'Not here.' } } };
    if (what === 'photos') {
      this.photos.add(id);
      return this.gives({ hash: id, widthPx: 1, heightPx: 1 });
    }
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
    if (!ledger) return refused('no-such-shower', 'There is no such shower.');
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
        refused: { id: first.id, code: 'shower-not-sent-first', field: 'showerId', message: '' },
        skewMs: 0,
      });
    const ledger = known ?? new MemoryLedger();
    this.ledgers.set(id, ledger);
    const answer = await ledger.append(texts);
    this.moves.push(id);
    return this.gives({ ...answer, refused: answer.refused && { ...answer.refused, message: '' }, skewMs: 0 });
  }
}
