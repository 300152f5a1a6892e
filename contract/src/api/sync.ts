import { z } from 'zod';
import { FirmAnswer } from './firm';
import { PulledEntry, ShowerRow } from './messages';

/** What a tablet and the server say to each other in a round: what the tablet knows, and what moved since. */

/** Showers that a tablet is given by itself at most; the others are found by their names. */
export const ON_A_TABLET = 1000;
/** Showers that one batch of entries brings at most. */
export const BATCH_AT_MOST = 500;

export const SyncAsk = z.object({
  /** What the last answer to this person ended with; null: everything that the tablet should hold. */
  since: z.string().max(100).nullable(),
  /** Which words of the firm the tablet has. */
  firm: z.string().max(100).nullable(),
  /** Asked from the beginning: showers that the tablet holds beyond what it should. */
  known: z.array(z.uuid()).max(20_000).default([]),
});
export type SyncAsk = z.input<typeof SyncAsk>;

/** `keep`: the tablet should hold it by itself; others matter to those alone that have them. */
export const MovedShower = ShowerRow.extend({ keep: z.boolean() });
export type MovedShower = z.infer<typeof MovedShower>;

export const SyncAnswer = z.object({
  epoch: z.uuid(),
  /** The firm, where the tablet's words of it are old; else null. */
  firm: FirmAnswer.nullable(),
  /** Which words of the firm are in force. */
  mark: z.string(),
  /** What to ask from next time; null: nothing can be said from there, and the tablet asks from the beginning. */
  since: z.string().nullable(),
  showers: z.array(MovedShower),
  /** Whether there are more showers that the tablet should hold than it is given; null where it asked for what moved alone. */
  more: z.boolean().nullable(),
});
export type SyncAnswer = z.infer<typeof SyncAnswer>;

/** Entries that a tablet lacks, shower by shower in the order in which it wants to show them. */
export const BatchAsk = z.object({
  want: z
    .array(z.object({ id: z.uuid(), after: z.number().int().min(0).max(10_000_000) }))
    .min(1)
    .max(BATCH_AT_MOST),
});
/** One line of the streamed answer: some entries of one shower; a shower that is not to be had has none and says so. */
export const BatchLine = z.object({ id: z.string(), entries: z.array(PulledEntry), missing: z.boolean().optional() });
export type BatchLine = z.infer<typeof BatchLine>;
