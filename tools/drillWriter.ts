import { randomUUID } from 'node:crypto';
import { type ChainEnd, writeEntry } from '@careful-seam/core/log/writeEntry';
import { DEMO_PASSWORD, PEOPLE } from '@careful-seam/demo/firm';

const HEADERS = { 'x-careful-seam': '1', 'content-type': 'application/json' };

/** What a writer was told, and how the server answered on the way. */
export interface Written {
  acknowledged: Map<string, string>;
  answers: Map<number, number>;
}

/** One request that never throws: no answer is status 0. */
export async function ask(
  address: string,
  method: string,
  path: string,
  { cookie = '', body, ms = 20_000 }: { cookie?: string; body?: unknown; ms?: number } = {},
): Promise<{ status: number; json: unknown; cookie: string }> {
  try {
    const answer = await fetch(`${address}${path}`, {
      method,
      headers: { ...HEADERS, ...(cookie ? { cookie } : {}) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(ms),
    });
    const text = await answer.text();
    const json: unknown = answer.headers.get('content-type')?.includes('json') ? JSON.parse(text) : text;
    return { status: answer.status, json, cookie: answer.headers.get('set-cookie')?.split(';')[0] ?? '' };
  } catch {
    return { status: 0, json: null, cookie: '' };
  }
}

export async function signIn(address: string, name = 'ines'): Promise<string> {
  for (;;) {
    const { status, cookie } = await ask(address, 'POST', '/api/session', {
      body: { signIn: name, password: DEMO_PASSWORD },
    });
    if (status === 200) return cookie;
    await new Promise((later) => setTimeout(later, 200));
  }
}

/**
 * A tablet that writes without a pause: an entry that was not acknowledged is sent again, as a tablet does, to the next of the
 * servers. What was acknowledged is remembered with its hash in the ledger.
 */
export class Writer {
  readonly showerId = randomUUID();
  readonly written: Written = { acknowledged: new Map(), answers: new Map() };
  private end: ChainEnd = { deviceId: randomUUID(), deviceSeq: 0, prevDeviceHash: null, lastOrderAt: null };
  private going = true;
  private turn = 0;
  private cookies = new Map<string, string>();

  constructor(readonly addresses: () => readonly string[]) {}

  private seal(kind: 'shower-created' | 'note', body: unknown): { id: string; text: string } {
    const { id, name, role } = PEOPLE.find((p) => p.signIn === 'ines')!;
    const made = writeEntry(
      {
        id: randomUUID(),
        showerId: this.showerId,
        kind,
        body: body as never,
        author: { id, name, role },
        geometryVersion: 0,
        nowMs: Date.now(),
        offsetMinutes: 0,
      },
      this.end,
    );
    this.end = made.end;
    return { id: made.sealed.entry.id, text: made.sealed.text };
  }

  private async send(entry: { id: string; text: string }): Promise<void> {
    while (this.going) {
      const all = this.addresses();
      this.turn += 1;
      const address = all[this.turn % all.length]!;
      let cookie = this.cookies.get(address) ?? '';
      if (cookie === '') {
        cookie = await signIn(address);
        this.cookies.set(address, cookie);
      }
      const { status, json } = await ask(address, 'POST', `/api/showers/${this.showerId}/entries`, {
        cookie,
        body: { clock: new Date().toISOString(), entries: [entry.text] },
      });
      this.written.answers.set(status, (this.written.answers.get(status) ?? 0) + 1);
      const taken = (json as { taken?: { id: string; ledgerHash: string }[] } | null)?.taken?.[0];
      if (status === 200 && taken) {
        this.written.acknowledged.set(taken.id, taken.ledgerHash);
        return;
      }
      if (status === 401) this.cookies.delete(address);
      await new Promise((later) => setTimeout(later, 30));
    }
  }

  /** Writes until it is stopped. */
  async write(): Promise<void> {
    await this.send(
      this.seal('shower-created', {
        name: `Drill ${this.showerId.slice(0, 8)}`,
        job: 'Drills',
        crewId: 'crew-heron',
        timeZone: 'UTC',
      }),
    );
    for (let k = 0; this.going; k += 1) await this.send(this.seal('note', { words: `entry ${k}` }));
  }

  stop(): void {
    this.going = false;
  }

  /** Acknowledged entries that the server does not give back, or gives back otherwise, or twice. */
  async lost(address: string): Promise<number> {
    const cookie = await signIn(address);
    const found = new Map<string, string[]>();
    for (let after = 0; ; ) {
      const { json } = await ask(address, 'GET', `/api/showers/${this.showerId}/entries?after=${after}`, { cookie });
      const { entries, more } = json as {
        entries: { text: string; ledgerHash: string; ledgerSeq: number }[];
        more: boolean;
      };
      for (const e of entries) {
        const { id } = JSON.parse(e.text) as { id: string };
        found.set(id, [...(found.get(id) ?? []), e.ledgerHash]);
        after = e.ledgerSeq;
      }
      if (!more) break;
    }
    return [...this.written.acknowledged].filter(([id, hash]) => found.get(id)?.join() !== hash).length;
  }
}
