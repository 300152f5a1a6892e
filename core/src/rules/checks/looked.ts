import { z } from 'zod';
import { base } from './checkBase';
import { type CheckRule, noFigures } from './checkRule';

/** What a proof may be. */
export const PROOFS = ['document', 'photo', 'date', 'batch'] as const;

/** What is looked at and answered; with `proof`, by naming what shows it. */
export const LookedCheck = z.object({
  ...base,
  kind: z.literal('looked'),
  /** The grid that fasteners on a wall should stand in, so that they can be counted. */
  fasteners: z
    .object({
      firstRowMm: z.number().positive(),
      spacingMm: z.number().positive(),
      studSpacingMm: z.number().positive(),
    })
    .optional(),
  /** What shows it must be named: a paper, a picture, a date, a batch. */
  proof: z.enum(PROOFS).optional(),
  /** Looked at and found good it is still undecided until somebody who may has accepted it. */
  needsApproval: z.boolean().optional(),
});
export type LookedCheck = z.infer<typeof LookedCheck>;

/** What the rule book knows of what is looked at: it has no figures. */
export const lookedRule: CheckRule<LookedCheck> = { ...noFigures, ofWhole: 'floor' };
