import { z } from 'zod';
import { CURE_MODELS } from '../../cure/cureAge';
import { CURE_KINDS } from '../../cure/cureClock';
import { done, refuse } from '../../outcome/outcome';
import { base } from './checkBase';
import type { CheckRule } from './checkRule';

/** A wait after the last work on some stages, before water or the next layer. */
export const WaitCheck = z.object({
  ...base,
  kind: z.literal('wait'),
  after: z.array(z.string().min(1)).min(1),
  hours: z.number().min(0),
  /** What hardens there, so that the air on site counts; without it the hours stand alone. */
  cures: z.enum(CURE_KINDS).optional(),
  /** The firm's school of counting cement. */
  model: z.enum(CURE_MODELS).optional(),
});
export type WaitCheck = z.infer<typeof WaitCheck>;

/** What the rule book knows of a wait: its hours have a least alone; of several methods the longer wait counts. */
export const waitRule: CheckRule<WaitCheck> = {
  fault: ({ id, after }, { stages }) => {
    const unknown = after.find((stage) => !stages.has(stage));
    return unknown === undefined ? done(null) : refuse('check-stage-missing', 'after', { check: id, stage: unknown });
  },
  figures: ({ hours }) => ({ least: hours, most: null, in: 'plain', hasMost: false }),
  withFigures: (check, { least }) => ({ ...check, hours: least ?? 0 }),
  labelled: (check, _line, range) => ({ ...check, hours: range?.least ?? range?.most ?? check.hours }),
  byWholeLabel: false,
  ofWhole: 'stricter',
  isOfWork: false,
  follows: ({ after }) => after,
  question: () => null,
};
