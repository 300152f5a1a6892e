import { z } from 'zod';
import { base, Named } from './checkBase';
import { type CheckRule, noFigures } from './checkRule';

/** A flood test of the whole shower: how deep, how long, what it must exclude, what is prepared and where one looks. */
export const FloodCheck = z.object({
  ...base,
  kind: z.literal('flood'),
  plannedHours: z.number().positive(),
  fillOverDrainMm: z.number().positive(),
  atThresholdAtLeastMm: z.number().min(0),
  /** Water line at least this far below the lowest curb; 0 where the code fills to its top. */
  belowCurbMm: z.number().min(0),
  /** The smallest leak that a pass must exclude; null: the firm has set none, and no test can pass. */
  smallestLeakMmPerDay: z.number().positive().nullable(),
  /** Hours after filling before the water is read: it settles, and mortar and fleece drink. Earlier readings count for nothing. */
  settleHours: z.number().min(0).max(12).default(0.5),
  /** A look at the start counts until this long after filling. */
  startLookWithinHours: z.number().positive().default(2),
  /** After the planned time it should be read within this. */
  readWithinHours: z.number().positive(),
  preparation: z.array(Named.extend({ why: z.string().min(1) })),
  /** Where moisture is looked for: at the start, before leaving and at the end. */
  places: z.array(Named).min(1),
});
export type FloodCheck = z.infer<typeof FloodCheck>;

/** What the rule book knows of a flood test: its figures have fields of their own. */
export const floodRule: CheckRule<FloodCheck> = { ...noFigures, ofWhole: 'floor' };
