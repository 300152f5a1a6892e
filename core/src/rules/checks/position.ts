import { z } from 'zod';
import { done, refuse } from '../../outcome/outcome';
import { base } from './checkBase';
import { type CheckRule, noFigures } from './checkRule';

/** How a question that the trade disagrees on was answered on this shower; the firm's choice until somebody says otherwise. */
export const PositionCheck = z.object({ ...base, kind: z.literal('position'), disagreement: z.string().min(1) });
export type PositionCheck = z.infer<typeof PositionCheck>;

/** What the rule book knows of a position that the trade disagrees on: the book must hold its question. */
export const positionRule: CheckRule<PositionCheck> = {
  ...noFigures,
  fault: ({ id, disagreement }, { questions }) =>
    questions.has(disagreement)
      ? done(null)
      : refuse('check-question-missing', '', { check: id, question: disagreement }),
  ofWhole: 'floor',
  question: ({ disagreement }) => disagreement,
};
