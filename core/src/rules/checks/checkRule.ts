import { done, type Outcome } from '../../outcome/outcome';
import type { LabelRange, ProductLine } from '../productLine';

/** The limits of a check as figures in their unit; null where there is none on that side. */
export interface Figures {
  least: number | null;
  most: number | null;
}

/** What a check is held against when a book is read: the stages of its method, the questions and kinds of defect of its book. */
export interface Surroundings {
  stages: ReadonlySet<string>;
  questions: ReadonlySet<string>;
  kinds: ReadonlySet<string>;
}

/** What the rule book must know of a kind of check. A kind that lacks one of these does not compile. */
export interface CheckRule<C> {
  /** Refuses what can't be; the field lies below the check. */
  fault: (check: C, within: Surroundings) => Outcome<null>;
  /** The figures of its limit and in what they are typed, lengths in mm; a kind may have no greatest one. Null: none to set. */
  figures: (check: C) => (Figures & { in: 'length' | 'percent' | 'plain'; hasMost: boolean }) | null;
  /** The check with other figures; a side that the kind does not have is left out. */
  withFigures: (check: C, figures: Figures) => C;
  /** The check as a product's label limits it; `range` is the figure that the check names, if the label states it. */
  labelled: (check: C, line: ProductLine, range: LabelRange | undefined) => C;
  /** A label limits it by all of its figures, and not only by the one that the check names. */
  byWholeLabel: boolean;
  /** Of the shower or its drain it is asked once, by the method of the floor; where several methods ask: the stricter one. */
  ofWhole: 'floor' | 'stricter' | 'parts';
  /** It is about something that was built and that a later layer covers; time alone is not. */
  isOfWork: boolean;
  /** Keys of the stages whose work lets it begin anew. */
  follows: (check: C) => readonly string[];
  /** The question on which the trade disagrees and that its answer settles, by its id; null where it asks none. */
  question: (check: C) => string | null;
}

/** Of a kind that is asked of work, by itself and not after a stage, and that settles no question of the trade. */
export const ofWork = { isOfWork: true, follows: () => [], question: () => null } as const;

/** Of a kind whose limit is not a figure that a firm or a label sets. */
export const noFigures = {
  ...ofWork,
  fault: () => done(null),
  figures: () => null,
  withFigures: <C>(check: C): C => check,
  labelled: <C>(check: C): C => check,
  byWholeLabel: false,
} as const;

/** What a label's figure says of each side; a side that it does not name has no limit. */
export const figuresOf = ({ least, most }: LabelRange): Figures => ({ least: least ?? null, most: most ?? null });
