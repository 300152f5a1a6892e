import { z } from 'zod';
import { TABLES } from './tables';

export const MANIFEST = 'manifest.json';
export const SIGNATURE = 'manifest.sig';
export const PHOTOS = 'photos';
export const ROWS = 'tables';
/** What an earlier version put in place of the tables: the database as a program of PostgreSQL dumps it. */
export const DUMP = 'database.dump';

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const column = z.string().regex(/^[a-z][a-z0-9_]{0,60}$/);
const count = z.number().int().min(0).max(2_147_483_647);
const counts = { showers: count, entries: count, photos: count };
const about = { format: z.literal('careful-seam-backup'), madeAt: z.iso.datetime() };

/** First file of a backup: what it holds, so that a restore can be checked against it. */
export const Manifest = z.object({
  ...about,
  formatVersion: z.literal(2),
  /** Name of the newest migration of the database that it was made of. */
  schema: z.string().regex(/^[A-Za-z0-9]{1,80}$/),
  /** The rows of each table as COPY writes them, with the columns in their order. */
  tables: z
    .array(z.object({ name: z.enum(TABLES), columns: z.array(column).min(1).max(60), sha256 }))
    .max(TABLES.length),
  ...counts,
});
export type Manifest = z.infer<typeof Manifest>;

/** A backup of an earlier version: a dump that is a program, so that it is run from the command line alone. */
export const DumpManifest = z.object({ ...about, formatVersion: z.literal(1), dumpSha256: sha256, ...counts });
export type DumpManifest = z.infer<typeof DumpManifest>;
