import { z } from 'zod';
import { done, refuse } from '../../outcome/outcome';
import { base } from './checkBase';
import { type CheckRule, figuresOf, ofWork } from './checkRule';

/** Units of single figures; lengths are mm. */
export const NUMBER_UNITS = ['mm', 'deg', 'count', 'percent', 'um', 'perm', 'hours', 'celsius', 'ratio'] as const;
/** In what a figure is told. */
export type NumberUnit = (typeof NUMBER_UNITS)[number];

/** One figure for the whole element, in its own unit. */
export const NumberCheck = z.object({
  ...base,
  kind: z.literal('number'),
  unit: z.enum(NUMBER_UNITS),
  /** Null until the firm or a label fills it: the verdict is then undecided. */
  limit: z.object({ atLeast: z.number().optional(), atMost: z.number().optional() }).nullable(),
  instrument: z.string().min(1),
});
export type NumberCheck = z.infer<typeof NumberCheck>;

const withFigures: CheckRule<NumberCheck>['withFigures'] = (check, { least, most }) => ({
  ...check,
  limit:
    least === null && most === null
      ? null
      : { ...(least === null ? {} : { atLeast: least }), ...(most === null ? {} : { atMost: most }) },
});

/** What the rule book knows of a single figure: its limit is typed in the figure's unit, lengths in mm. */
export const figureRule: CheckRule<NumberCheck> = {
  ...ofWork,
  fault: ({ label, limit }) =>
    (limit?.atLeast ?? -Infinity) > (limit?.atMost ?? Infinity)
      ? refuse('check-limits-reversed', 'limit', { check: label })
      : done(null),
  figures: ({ limit, unit }) => ({
    least: limit?.atLeast ?? null,
    most: limit?.atMost ?? null,
    in: unit === 'mm' ? 'length' : 'plain',
    hasMost: true,
  }),
  withFigures,
  labelled: (check, _line, range) => (range ? withFigures(check, figuresOf(range)) : check),
  byWholeLabel: false,
  ofWhole: 'floor',
};
