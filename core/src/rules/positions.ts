import type { Variant } from './checks/checkBase';
import type { Disagreement, Effect, RuleBook } from './ruleBook';

/** The question with that id, or null. */
export function findDisagreement(book: RuleBook, id: string): Disagreement | null {
  return book.disagreements.find((d) => d.id === id) ?? null;
}

/** How a shower is built, as far as positions depend on it. */
export interface BuiltAs {
  method: string;
  variants?: readonly Variant[] | undefined;
}

type Position = Disagreement['positions'][number];

const fits = ({ methods, when, unless }: Position, { method, variants = [] }: BuiltAs): boolean =>
  (!methods || methods.includes(method)) &&
  (!when || variants.includes(when)) &&
  !(unless && variants.includes(unless));

/**
 * The position that holds until somebody says otherwise: the firm's choice, else the first that is right for the method and
 * the way of building, one that names them before one that is right everywhere.
 */
export function standingPosition(book: RuleBook, question: Disagreement, built: BuiltAs): string {
  const chosen = book.choices[question.id];
  if (chosen && question.positions.some((p) => p.key === chosen)) return chosen;
  const accepted = question.positions.filter((p) => p.effect === 'accept');
  const right = accepted.filter((p) => fits(p, built));
  return (right.find((p) => p.methods || p.when) ?? right[0] ?? accepted[0])!.key;
}

/** What it means that this position was found on a shower that is built so. */
export function positionEffect(book: RuleBook, question: Disagreement, built: BuiltAs, key: string): Effect {
  if (key === standingPosition(book, question, built)) return 'accept';
  const position = question.positions.find((p) => p.key === key);
  if (!position) return 'deviation';
  if (position.effect === 'accept' && !fits(position, built)) return question.elsewhere;
  return position.effect;
}
