import { LANGUAGES } from '@careful-seam/words/texts/language';
import { z } from 'zod';

/** A word in an address; an empty one counts as none. */
const word = z.string().max(300).default('');

/** What addresses ask for behind their question mark, each read through its schema as bodies are. */

/** The language of an answer, beside what is asked; none: the browser's. */
export const SPOKEN = { lang: z.enum(LANGUAGES).optional() };
/** A page of showers: of one job, from a place on. */
export const ShowersAsk = z.object({ job: word, from: word });
/** Words that a name or a job begins with. */
export const SearchAsk = z.object({ q: z.string().max(300).default('') });
/** Entries after a place in the ledger. */
export const EntriesAsk = z.object({ after: z.coerce.number().int().min(0).max(2_147_483_647).default(0) });
/** Jobs after one of them, by name. */
export const JobsAsk = z.object({ after: z.string().max(300).default('') });
/** Lines of the audit before a moment. */
export const AuditAsk = z.object({ before: z.iso.datetime().optional() });
/** A picture in the width that is nearest to what is asked for; none: the original. */
export const PictureAsk = z.object({ width: z.coerce.number().int().min(1).max(100_000).optional() });
/** The firm whose rule book it is; none: this one's own. */
export const RuleBookAsk = z.object({ origin: z.string().max(300).default('') });
/** The manager's queue from a place on. */
export const QueueAsk = z.object({ from: word });
/** A paper: its lengths, and the language. */
export const PaperAsk = z.object({ unit: z.enum(['in', 'mm']).default('in'), ...SPOKEN });
