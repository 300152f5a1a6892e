import { z } from 'zod';
import { TABLES } from './tables';

/** What is in it, with the hash of each part. */
export const MANIFEST = 'manifest.json';
/** Signature of the manifest with the key of the firm. */
export const SIGNATURE = 'manifest.sig';
/** Folder of the pictures. */
export const PHOTOS = 'photos';
/** Folder of the rows. */
export const ROWS = 'tables';
/** What an earlier version put in place of the tables: the database as a program of PostgreSQL dumps it. */
export const DUMP = 'database.dump';

/** A hash, hex. */
const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
/** A name that is a column and nothing else. */
const column = z.string().regex(/^[a-z][a-z0-9_]{0,60}$/);
/** So many. */
const count = z.number().int().min(0).max(2_147_483_647);
/** How much is in it. */
const counts = { showers: count, entries: count, photos: count };
/** What every backup says first. */
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
/** What a backup says of itself. */
export type Manifest = z.infer<typeof Manifest>;

/** A backup of an earlier version: a dump that is a program, so that it is run from the command line alone. */
export const DumpManifest = z.object({ ...about, formatVersion: z.literal(1), dumpSha256: sha256, ...counts });
/** The same of an earlier version. */
export type DumpManifest = z.infer<typeof DumpManifest>;
