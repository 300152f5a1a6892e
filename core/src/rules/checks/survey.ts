import { z } from 'zod';
import { base } from './checkBase';
import { type CheckRule, noFigures } from './checkRule';

/** A level survey of a floor: shots of a laser or a rod, judged as one. */
export const SurveyCheck = z.object({
  ...base,
  kind: z.literal('survey'),
  measures: z.discriminatedUnion('of', [
    /** Falls are rise / run; no pond deeper than `pondMm`. */
    z.object({
      of: z.literal('fall'),
      minFall: z.number().min(0),
      maxFall: z.number().min(0),
      pondMm: z.number().min(0),
    }),
    /** The worst gap under a straightedge laid anywhere. */
    z.object({ of: z.literal('flat'), straightedgeMm: z.number().positive(), gapMm: z.number().min(0) }),
  ]),
  /** Half-width of a shot that holds it 95 times of 100. */
  uncertaintyMm: z.number().min(0),
  shotsAtLeast: z.number().int().min(3),
  /** About how far apart the places of the rod are proposed. */
  spacingMm: z.number().positive(),
  /** Without it nothing is asked until the first shot; what was shot is judged and holds. */
  required: z.boolean().default(false),
});
export type SurveyCheck = z.infer<typeof SurveyCheck>;

/** Falls are typed in percent: 1/4 in per ft is 2.08 %. */
const PERCENT = 100;

/** What the rule book knows of a level survey: falls are typed in percent; flatness has fields of its own. */
export const surveyRule: CheckRule<SurveyCheck> = {
  ...noFigures,
  figures: ({ measures }) =>
    measures.of === 'fall'
      ? { least: measures.minFall * PERCENT, most: measures.maxFall * PERCENT, in: 'percent', hasMost: true }
      : null,
  // A fall has both limits: one that is emptied stays as it was.
  withFigures: (check, { least, most }) =>
    check.measures.of === 'fall'
      ? {
          ...check,
          measures: {
            ...check.measures,
            minFall: least === null ? check.measures.minFall : least / PERCENT,
            maxFall: most === null ? check.measures.maxFall : most / PERCENT,
          },
        }
      : check,
  ofWhole: 'floor',
};
