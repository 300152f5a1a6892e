import { z } from 'zod';

// Names and shapes of what crews are counted by, without the statistics: a tablet reads them and works nothing out.

/** What such a comparison can not tell by itself. */
export const BEFORE_AFTER_WARNINGS = ['too-little', 'regression-to-the-mean'] as const;

/** Why a month stands out: by itself, or as the last of a run on one side. */
export const SIGNALS = ['beyond', 'run'] as const;

/** What is said of a place that is looked at blind, by the answers of a look; a place that somebody could not see is not compared. */
export const BLIND_ANSWERS = ['ok', 'defect', 'could-not-see'] as const;
/** One of them. */
export type BlindAnswer = (typeof BLIND_ANSWERS)[number];
/** What two answers are compared by. */
export const BLIND_VERDICTS = ['ok', 'defect'] as const;
/** One of them. */
export type BlindVerdict = (typeof BLIND_VERDICTS)[number];

/** A rate or a bound of one; null where there is no exposure. */
const rateOrNone = z.number().min(0).nullable();

/** How one group stands against all together; rates are per unit of the exposure that it was given with. */
export const FunnelGroup = z.object({
  /** As it came. */
  name: z.string(),
  /** Its own rate. */
  rate: rateOrNone,
  /** Its rate, drawn towards that of all as far as little work makes it uncertain. */
  shrunk: z.number().min(0),
  /** Of 100 equal groups of this size 2.5 lie below. */
  low95: rateOrNone,
  /** 2.5 of 100 lie above. */
  high95: rateOrNone,
  /** 1 of 1,000 lies below. */
  low998: rateOrNone,
  /** 1 of 1,000 lies above. */
  high998: rateOrNone,
  /** Its count lies beyond what 998 of 1,000 equal groups would have. */
  outside: z.boolean(),
  /** On which side of all together it lies, where it is outside; null within. */
  side: z.enum(['above', 'below']).nullable(),
  /** How often chance alone puts an equal group as far out, on either side, 0 to 1. */
  p: z.number().min(0).max(1),
  /** Of all groups together this one may be named: at most one of twenty that are named is chance. */
  discovery: z.boolean(),
});
export type FunnelGroup = z.infer<typeof FunnelGroup>;
