import { z } from 'zod';
import { Named } from './defects';

/** Defects that were written down before this program, as a table. Fields and orders are those of `files/oldDefects`. */

/** Letters of a table; more than this is taken in several. */
export const OLD_TABLE_AT_MOST = 5_000_000;
/** Rows of a table that are taken in one go. */
export const OLD_ROWS_AT_MOST = 20_000;

const field = z.string().min(1).max(30);
/** How a table is to be read: what is left out is found as well as it can be, or as the last table with these headings was. */
export const OldMappingBody = z.object({
  columns: z.record(field, z.number().int().min(0).max(500).nullable()).optional(),
  days: z.enum(['ymd', 'mdy', 'dmy']).optional(),
  meanings: z
    .array(z.object({ field, word: z.string().min(1).max(2000), id: z.string().max(120) }))
    .max(500)
    .optional(),
});
export type OldMappingBody = z.infer<typeof OldMappingBody>;

/** A table that is looked at; nothing of it is kept. */
export const OldTableAsk = z.object({ text: z.string().max(OLD_TABLE_AT_MOST), mapping: OldMappingBody.optional() });
export type OldTableAsk = z.infer<typeof OldTableAsk>;
/** How it would be taken. */
export const OldTableRead = z.object({
  heads: z.array(z.string()),
  columns: z.record(field, z.number().int()),
  days: z.enum(['ymd', 'mdy', 'dmy']),
  daysSure: z.boolean(),
  /** What words were taken to mean, as somebody chose. */
  meanings: OldMappingBody.shape.meanings.unwrap(),
  /** The mapping of the last table with these headings was used. */
  remembered: z.boolean(),
  rows: z.number().int(),
  /** Rows that would be taken. */
  good: z.number().int(),
  /** Rows that say what another row, an earlier table or a shower's own record says: they are not taken. */
  twice: z.object({ here: z.number().int(), taken: z.number().int(), recorded: z.number().int() }),
  /** The first cells that can't be taken, and how many there are. */
  problems: z.array(z.object({ line: z.number().int(), field, cell: z.string(), why: z.string() })),
  problemCount: z.number().int(),
  /** Words that are like no name. */
  unknown: z.array(z.object({ field, word: z.string(), rows: z.number().int() })),
  /** The first rows as they would stand in the list. */
  preview: z.array(
    z.object({ line: z.number().int(), found: z.string(), kind: z.string(), crew: z.string(), shower: z.string() }),
  ),
  /** What words can be said to mean, by field. */
  names: z.record(field, z.array(Named)),
});
export type OldTableRead = z.infer<typeof OldTableRead>;

/** A table that is taken. Rows that can't be are named, and left out only where somebody says so. */
export const NewOldTable = OldTableAsk.extend({ name: z.string().trim().min(1).max(200), leaveOut: z.boolean() });
export type NewOldTable = z.infer<typeof NewOldTable>;
/** What was taken of it. */
export const OldTableTaken = z.object({ id: z.uuid(), taken: z.number().int(), leftOut: z.number().int() });

/** A table that was taken. */
export const OldTableRow = z.object({
  id: z.uuid(),
  name: z.string(),
  by: z.string(),
  at: z.string(),
  defects: z.number().int(),
});
export type OldTableRow = z.infer<typeof OldTableRow>;
export const OldTables = z.object({ tables: z.array(OldTableRow) });
