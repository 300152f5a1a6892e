import { z } from 'zod';
import { done, refuse } from '../../outcome/outcome';
import { base } from './checkBase';
import { type CheckRule, figuresOf, ofWork } from './checkRule';

const Limit = z
  .object({ atLeastMm: z.number().optional(), atMostMm: z.number().optional() })
  .refine((l) => l.atLeastMm !== undefined || l.atMostMm !== undefined, 'limit-without-side');

/** What a measured check asks beside its limit. Lengths in mm along the element. */
const Pattern = z.object({
  readingsAtLeast: z.number().int().min(1),
  speaksForMm: z.number().positive(),
  endWithinMm: z.number().positive().optional(),
  gapAtMostMm: z.number().positive().optional(),
  lookOnWhole: z.boolean().optional(),
});

/** Heights that a drawing may ask for beyond a check's own limit. */
export const RAISES = ['flood-line', 'shower-head', 'six-feet'] as const;
/** One of them. */
export type Raise = (typeof RAISES)[number];

/** A length read off at places along its element: a lap, a height, a thickness. */
export const MeasuredCheck = z.object({
  ...base,
  kind: z.literal('measured'),
  limit: Limit,
  pattern: Pattern,
  instrument: z.string().min(1),
  /** Its greatest value by another figure of the same element, such as a span by its layers: from each figure on. */
  steps: z
    .object({
      by: z.string().min(1),
      limits: z.array(z.object({ from: z.number(), atMostMm: z.number().positive() })).min(1),
    })
    .optional(),
  /** What its least height, above the drain, must reach on every drawing, whatever the figure of the limit is. */
  raisedTo: z.array(z.enum(RAISES)).min(1).optional(),
  /** A height that is shown beside the reading with its margin. */
  comparedWith: z.literal('shower-head').optional(),
});
export type MeasuredCheck = z.infer<typeof MeasuredCheck>;

const withFigures: CheckRule<MeasuredCheck>['withFigures'] = (check, { least, most }) => ({
  ...check,
  limit: { ...(least === null ? {} : { atLeastMm: least }), ...(most === null ? {} : { atMostMm: most }) },
});

/** What the rule book knows of a length at places: its limit is typed as lengths, mm. */
export const measuredRule: CheckRule<MeasuredCheck> = {
  ...ofWork,
  fault: ({ label, limit }) =>
    (limit.atLeastMm ?? 0) > (limit.atMostMm ?? Infinity)
      ? refuse('check-limits-reversed', 'limit', { check: label })
      : done(null),
  figures: ({ limit }) => ({
    least: limit.atLeastMm ?? null,
    most: limit.atMostMm ?? null,
    in: 'length',
    hasMost: true,
  }),
  withFigures,
  labelled: (check, _line, range) => (range ? withFigures(check, figuresOf(range)) : check),
  byWholeLabel: false,
  ofWhole: 'floor',
};
