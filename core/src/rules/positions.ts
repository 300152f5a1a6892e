import type { Disagreement, Effect, RuleBook } from './ruleBook';

/** The question with that id, or null. */
export function findDisagreement(book: RuleBook, id: string): Disagreement | null {
  return book.disagreements.find((d) => d.id === id) ?? null;
}

const fits = (methods: readonly string[] | undefined, method: string): boolean => !methods || methods.includes(method);

/** The position that holds until somebody says otherwise: the firm's choice, else the first that is right for the method. */
export function standingPosition(book: RuleBook, question: Disagreement, method: string): string {
  const chosen = book.choices[question.id];
  if (chosen && question.positions.some((p) => p.key === chosen)) return chosen;
  const accepted = question.positions.filter((p) => p.effect === 'accept');
  return (accepted.find((p) => p.methods?.includes(method)) ?? accepted.find((p) => !p.methods) ?? accepted[0])!.key;
}

/** What it means that this position was found on a shower of this method. A position of another method is a deviation. */
export function positionEffect(book: RuleBook, question: Disagreement, method: string, key: string): Effect {
  if (key === standingPosition(book, question, method)) return 'accept';
  const position = question.positions.find((p) => p.key === key);
  if (!position) return 'deviation';
  if (position.effect === 'accept' && !fits(position.methods, method)) return 'deviation';
  return position.effect;
}
