import type { DataSource } from 'typeorm';

/** What this server needs of a connection that hears what others tell. */
interface Hearing {
  query: (text: string) => Promise<unknown>;
  on: (event: 'notification' | 'error' | 'end', tell: (error?: Error) => void) => void;
  removeAllListeners: () => void;
}
/** The pool behind a store gives a connection and the way to give it back; a broken one is thrown away. */
type Pool = { connect: () => Promise<Hearing & { release: (broken?: boolean) => void }> };

/** News that come within so long are told once, ms. */
const TOGETHER_MS = 150;
/** A connection that broke is made anew after so long, ms; whoever listens asks by itself meanwhile. */
const AGAIN_MS = 2000;

/** Tells whoever listens that something moved, wherever it was written. One connection of the database serves all of them. */
class News {
  private readonly listeners = new Set<() => void>();
  private heard: Promise<() => unknown> | null = null;
  private due: NodeJS.Timeout | null = null;

  constructor(private readonly store: DataSource) {}

  /** Begins to tell; gives the way to stop. The connection goes back when nobody listens any more. */
  listen(tell: () => void): () => void {
    this.listeners.add(tell);
    this.heard ??= this.hear();
    return () => {
      this.listeners.delete(tell);
      if (this.listeners.size > 0 || !this.heard) return;
      const [ending] = [this.heard];
      this.heard = null;
      void ending.then((end) => end());
    };
  }

  private readonly tellAll = () => {
    if (this.due) return;
    this.due = setTimeout(() => {
      this.due = null;
      for (const tell of [...this.listeners]) tell();
    }, TOGETHER_MS);
  };

  /** Hears the database on a connection of its own; gives the way to give it back. */
  private async hear(): Promise<() => unknown> {
    const again = () => {
      if (this.listeners.size === 0) return;
      // What was written meanwhile nobody heard.
      setTimeout(() => {
        if (this.listeners.size > 0) this.heard = this.hear();
        this.tellAll();
      }, AGAIN_MS);
    };
    const client = await (this.store.driver as unknown as { master: Pool }).master.connect().catch(() => null);
    if (!client) {
      again();
      return () => undefined;
    }
    let isOver = false;
    /** Gives the connection back; true the first time. */
    const end = (): boolean => {
      if (isOver) return false;
      isOver = true;
      client.removeAllListeners();
      // A connection that goes on with an error nobody hears would end the server.
      client.on('error', () => undefined);
      client.release(true);
      return true;
    };
    const lost = () => {
      if (end()) again();
    };
    client.on('notification', () => this.tellAll());
    client.on('error', lost);
    client.on('end', lost);
    await client.query('LISTEN news').catch(lost);
    return end;
  }
}

/** The news of each store. */
const all = new WeakMap<DataSource, News>();

/** Tells when something moved that somebody's tablet may want to hear; gives the way to stop. */
export function onNews(store: DataSource, tell: () => void): () => void {
  const news = all.get(store) ?? new News(store);
  all.set(store, news);
  return news.listen(tell);
}
