import { SHIPPED_ODDS } from '@careful-seam/core/trace/odds';
import { SUSPECT_KINDS } from '@careful-seam/core/trace/startingValues';
import { z } from 'zod';

/** What a firm knows of leaks: how often each kind was found, and figures of its own to begin with. */

/** A firm's own starting figures, by kind: leaks to be expected of a metre or a piece, against the others. What is not set is as shipped. */
export const LeakRates = z.partialRecord(z.enum(SUSPECT_KINDS), z.number().positive().max(1000));
/** A firm's own starting figures. */
export type LeakRates = z.infer<typeof LeakRates>;

/** A firm's own probabilities of what is seen and what tests show, by their names. What is not set is as shipped. */
export const LeakOdds = z.partialRecord(z.enum(Object.keys(SHIPPED_ODDS)), z.number().min(0.001).max(0.999));
/** A firm's own probabilities. */
export type LeakOdds = z.infer<typeof LeakOdds>;

/** What every tablet keeps of it. */
export const LeakBook = z.object({
  /** Kind of what was found, or `unknown` → calls that ended so. */
  finds: z.record(z.string(), z.number().int().min(0)),
  own: LeakRates,
  odds: LeakOdds.default({}),
});
/** What every tablet keeps of it. */
export type LeakBook = z.infer<typeof LeakBook>;
/** As a firm begins. */
export const NO_LEAKS: LeakBook = { finds: {}, own: {}, odds: {} };
