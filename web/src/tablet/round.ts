import { ZodError } from 'zod';
import { ApiError, type Server } from './api';
import type { Database } from './database';
import type { Ports } from './outbox';

/** What a round needs from outside. */
export interface Outside {
  /** The ways to ask it. */
  server: Server;
  /** The clock of this tablet and its ids. */
  ports: Pick<Ports, 'newId' | 'nowMs'>;
  /** Told of each shower that changed elsewhere once it is here: how many are, and of how many. */
  onPulled?: (done: number, of: number, showerId: string) => void;
}

/** What a round of sync found out. */
export interface SyncReport {
  /** Showers that are to be worked out anew. */
  changed: Set<string>;
  /** What the clock is off by, as the last push told, ms; null where nothing was pushed. */
  skewMs: number | null;
  /** A rule book was fetched. */
  books: boolean;
  /** The server was restored, and this tablet sent what it lacked. */
  restored: boolean;
  /** Entries that were sealed anew, since this tablet's clock had run ahead of the server's. */
  resealed: number;
  /** Showers of which the server has more than this tablet, after the round. */
  behind: number;
}

/** A round on its way: what it needs, for whom, and what it found out so far. */
export interface Round extends Outside {
  /** The store of this tablet. */
  db: Database;
  /** For whom. */
  personId: string;
  /** What it found out so far. */
  report: SyncReport;
}

/** What fetching needs of it. */
export type Pulling = Pick<Round, 'db' | 'server' | 'report'>;

/** A report before a round: what the round finds out is written into it, so that it is there when the round breaks. */
export const emptyReport = (): SyncReport => ({
  changed: new Set(),
  skewMs: null,
  books: false,
  restored: false,
  resealed: 0,
  behind: 0,
});

/** Failures of single showers: each is kept for the end of the round, and the others go on. No network stops everything. */
export class Sick {
  first: unknown = null;
  async spare(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (!isOfOneShower(error)) throw error;
      this.first ??= error;
    }
  }
}

/** A refusal or an answer that can't be read concerns what was asked for; all else concerns the way to the server. */
const isOfOneShower = (error: unknown): boolean =>
  error instanceof ApiError ? !['offline', 'not-signed-in'].includes(error.code) : error instanceof ZodError;
