import { z } from 'zod';
import { SEVERITIES } from '../rules/checks/checkBase';
import { id, instant, key, PhotoUse, Place, words } from './places';

/** How sure the cause of a defect is. */
export const CAUSE_CONFIDENCES = ['suspected', 'shown-by-test', 'admitted'] as const;
/** One of them. */
export type CauseConfidence = (typeof CAUSE_CONFIDENCES)[number];
/** The two questions that every defect ends with; families and escapes are the rule book's ids. */
const causeAnswers = {
  /** What went wrong. */
  cause: z
    .object({ family: key, confidence: z.enum(CAUSE_CONFIDENCES), words: z.string().max(2000).optional() })
    .optional(),
  /** Why the check before it did not catch it. */
  escape: z.object({ family: key, words: z.string().max(2000).optional() }).optional(),
};
/** Who made a defect: a crew of the firm, another trade, the house itself (its design, what it stands on), or nobody knows. */
export const MadeBy = z.discriminatedUnion('of', [
  z.object({ of: z.literal('crew'), crewId: key }),
  z.object({ of: z.literal('trade'), trade: z.string().trim().min(1).max(120) }),
  z.object({ of: z.literal('house') }),
  z.object({ of: z.literal('unknown') }),
]);
/** Who made a defect, as far as somebody said. */
export type MadeBy = z.infer<typeof MadeBy>;
/** What entries about a defect say, from found to closed. */
export const DEFECT_BODIES = {
  'defect-found': z.object({
    stage: key,
    place: Place,
    kind: key,
    severity: z.enum(SEVERITIES),
    words: z.string().max(2000),
    photos: z.array(PhotoUse).max(12),
    about: id.optional(),
    /** Since version 2: the stage that it was made in, an earlier defect that it repeats, and the first thoughts on why. */
    stageMade: key.optional(),
    repeats: id.optional(),
    ...causeAnswers,
    /** Since version 3: who made it, where that is not the crew that told its work. */
    madeBy: MadeBy.optional(),
  }),
  'defect-assigned': z.object({
    defect: id,
    crewId: key,
    due: z.iso.date().optional(),
    /** Since version 2: the end of that day on site, what to do, and whether it was looked at and sent back. */
    dueAt: instant.optional(),
    words: z.string().max(2000).optional(),
    again: z.boolean().optional(),
  }),
  'defect-answered': z.object({
    defect: id,
    words,
    photos: z.array(PhotoUse).max(12),
    /** Since version 2: what happened, as the crew says it. */
    cause: causeAnswers.cause,
  }),
  'defect-closed': z.object({
    defect: id,
    words: z.string().max(2000).optional(),
    /** Since version 2: the two answers, what it cost to put right, and pictures of how it is now. */
    ...causeAnswers,
    cost: z.object({ hours: z.number().min(0).max(1000), materials: z.number().min(0).max(1_000_000) }).optional(),
    photos: z.array(PhotoUse).max(12).optional(),
    /** Since version 3, which wants both answers of what stops or is fixed: where and by whom it was made, as it came out. */
    stageMade: key.optional(),
    madeBy: MadeBy.optional(),
  }),
} as const;
