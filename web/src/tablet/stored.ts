import { FirmAnswer, FirmSettings } from '@careful-seam/contract/api/firm';
import { NO_LEAKS } from '@careful-seam/contract/api/leaks';
import { Crew, Person, ShowerRow } from '@careful-seam/contract/api/messages';
import { FIRST_PLAN_BOOK } from '@careful-seam/contract/api/plan';
import type { ChainEnd } from '@careful-seam/core/log/writeEntry';
import type { Values } from '@careful-seam/core/outcome/outcome';
import { z } from 'zod';

// What lies in the tablet's own store, as schemas: an older program wrote some of it, a failing disk or a curious hand may have
// changed the rest. What can be fetched again falls back to "not known"; what was typed here is never thrown away.

const seq = z.number().int().min(0);
/** A span or moment, ms. */
const ms = z.number();
/** A mark that finds a row: there, or not there at all. */
const marked = z.literal(1).optional();

/** An entry on this tablet. `ledgerSeq` is null until the server acknowledged it. */
export const StoredEntry = z.object({
  id: z.string(),
  showerId: z.string(),
  authorId: z.string(),
  deviceId: z.string(),
  deviceSeq: seq,
  /** What was sealed, letter by letter. */
  text: z.string(),
  hash: z.string(),
  ledgerSeq: seq.nullable(),
  refused: z
    .object({
      code: z.string(),
      field: z.string(),
      message: z.string(),
      values: z.custom<Values>((v) => typeof v === 'object' && v !== null).optional(),
    })
    .nullable(),
  /** 1 as long as the server has not acknowledged it, so that what waits is found without reading all the rest. */
  waits: marked,
  /** Refused for good and set aside by a person: kept, shown, no longer counted. */
  aside: z.boolean().optional(),
  /** How it came to the server: what its device's clock was off by, when it was taken in, whether out of a file. */
  skewMs: ms.optional(),
  receivedAt: z.string().optional(),
  imported: z.boolean().optional(),
  /** A server had acknowledged it before it was restored. */
  again: z.boolean().optional(),
  /** Its clock ran ahead of the server's: what it said then. It was sealed anew with a sound one. */
  clockWas: z.string().optional(),
});
/** An entry on this tablet. */
export type StoredEntry = z.infer<typeof StoredEntry>;

/** Where the chain of one person ends on this tablet. */
const Chain: z.ZodType<ChainEnd> = z.object({
  deviceId: z.string(),
  deviceSeq: seq,
  prevDeviceHash: z.string().nullable(),
  lastOrderAt: z.string().nullable(),
});

/** What this tablet knows of one shower. `chains` has one chain for each person who writes here. */
const StoredShower = z.object({
  id: z.string(),
  row: ShowerRow.nullable(),
  cursor: seq,
  headHash: z.string().nullable(),
  lastOrderAt: z.string().nullable(),
  chains: z.record(z.string(), Chain),
  /** Up to which entry the rule books that it was pinned to are known to be here. */
  booksAt: seq.optional(),
  /** 1 as long as the server has entries that are not here. */
  lags: marked,
  /** 1 as long as the rule books of its newest entries were not looked for. */
  bookless: marked,
});
/** A row of a shower. */
export type StoredShower = z.infer<typeof StoredShower>;

/** A shower that nothing is known of but its id. */
export const emptyShower = (id: string): StoredShower => ({
  id,
  row: null,
  cursor: 0,
  headHash: null,
  lastOrderAt: null,
  chains: {},
});

/** A picture that was taken on this tablet. */
export interface StoredPhoto {
  /** SHA-256 of its bytes, in hex. */
  hash: string;
  /** Its bytes. */
  blob: Blob;
  /** Width of the whole picture, px. */
  widthPx: number;
  /** Height of the whole picture, px. */
  heightPx: number;
  /** The server confirmed the hash. Only then may the bytes be removed from the tablet. */
  sent: boolean;
  /** ms since 1970; missing on pictures of the first version. */
  takenMs?: number;
}

/** A smaller copy of somebody else's picture, kept for the cellar. */
export interface SmallPicture {
  /** SHA-256 of its bytes, in hex. */
  hash: string;
  /** Its bytes. */
  blob: Blob;
  /** When it was named in the record: the oldest make room for new ones. */
  orderAt: string;
}

/** A picture that an entry from elsewhere names and that is not here yet: it often arrives later than its entry. */
export interface WantedPicture {
  /** SHA-256 of its bytes, in hex. */
  hash: string;
  /** When it was named in the record: the newest are fetched first. */
  orderAt: string;
  /** How often it was asked for in vain, and before when it is not asked for again, ms since 1970. */
  tries: number;
  /** Not before this moment, ms since 1970. */
  askAgainMs: number;
}

/** What this tablet remembers beside showers: who is signed in, the firm's words, how far it has heard, its clock. */
const Kept = z.object({
  person: Person.nullable(),
  /** This tablet's device number for each person who writes on it. */
  devices: z.record(z.string(), z.string()),
  crews: z.array(Crew),
  settings: FirmSettings.nullable(),
  /** The server's epoch when it was last heard; another one means that it was restored. */
  epoch: z.string().nullable(),
  /** The firm's newest rule book. */
  newestBook: FirmAnswer.shape.newestBook,
  /** Seams on which the firm wants more places read than is usual. */
  lookPlan: FirmAnswer.shape.lookPlan,
  /** What the plan is made from beside the showers. */
  plan: FirmAnswer.shape.plan,
  /** What the firm knows of leaks. */
  leaks: FirmAnswer.shape.leaks,
  /** The newest rule book that was fetched, and under which epoch. */
  book: z.string().nullable(),
  /** Last answer from the server, ms since 1970. */
  contactMs: ms.nullable(),
  /** What the last answer to this person ended with: the next round asks from there. */
  since: z.string().nullable(),
  /** Which words of the firm are here. */
  firmMark: z.string().nullable(),
  /** The firm has more open showers than a tablet is given by itself. */
  more: z.boolean(),
  /** Added to this tablet's clock, which ran ahead of the server's, ms. */
  clockOffMs: ms,
  /** What the sound clock was still off by at the last push, ms. */
  skewMs: ms,
});
/** What is remembered. */
export type Kept = z.infer<typeof Kept>;

/** What a tablet remembers that nobody has signed in on. */
export const NOTHING_KEPT: Kept = {
  person: null,
  devices: {},
  crews: [],
  settings: null,
  epoch: null,
  newestBook: null,
  lookPlan: [],
  plan: FIRST_PLAN_BOOK,
  leaks: NO_LEAKS,
  book: null,
  contactMs: null,
  since: null,
  firmMark: null,
  more: false,
  clockOffMs: 0,
  skewMs: 0,
};

/** A row as its schema reads it, field by field; `lost` names what could not be read and is taken as not known. */
interface Mended<T> {
  /** The row, with what can not be read taken as not known. */
  row: T;
  /** Names of fields that could not be read. */
  lost: string[];
}

/** Reads a row field by field. */
function mend<S extends z.ZodRawShape>(
  { shape }: z.ZodObject<S>,
  nothing: z.infer<z.ZodObject<S>>,
  row: unknown,
): Mended<z.infer<z.ZodObject<S>>> {
  const has = typeof row === 'object' && row !== null ? (row as Record<string, unknown>) : {};
  const mended: Record<string, unknown> = {};
  const lost: string[] = [];
  for (const [key, schema] of Object.entries(shape)) {
    const read = (schema as unknown as z.ZodType).safeParse(has[key]);
    if (read.success && read.data === undefined) continue;
    mended[key] = read.success ? read.data : (nothing as Record<string, unknown>)[key];
    // What an older program did not know is not lost.
    if (!read.success && has[key] !== undefined) lost.push(key);
  }
  return { row: mended as z.infer<z.ZodObject<S>>, lost };
}

/**
 * What a store holds of a shower. A cursor that can't be read is asked for from the beginning; a chain that can't be read is begun
 * anew, and the server's answer to that is healed like any broken chain.
 */
export const mendShower = (id: string, row: unknown): Mended<StoredShower> => {
  const found = mend(StoredShower, emptyShower(id), row);
  return { ...found, row: { ...found.row, id } };
};

/** What a store remembers beside showers. Without a place to go on from, the next round asks from the beginning. */
export const mendKept = (row: unknown): Mended<Kept> => mend(Kept, NOTHING_KEPT, row);
