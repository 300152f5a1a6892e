import { sentenceOf, type ToldProblem } from '@careful-seam/words/errors/errors';
import { type Language, makeWords } from '@careful-seam/words/texts/words';
import en from '../texts/en.json';
import es from '../texts/es.json';

/** The words of the screens in the language that is spoken on this tablet. */
export const words = makeWords('en', { en, es });

/** The sentence of what is wrong, in the language that is spoken. */
export const problemWords = (problem: ToldProblem): string => sentenceOf(problem, words.language as Language);

/** What went wrong as a sentence: an error that carries a problem tells it, any other is named as it is. */
export function errorWords(error: unknown): string {
  if (error instanceof Error && 'problem' in error) return problemWords(error.problem as ToldProblem);
  const detail = error instanceof Error ? error.message : String(error);
  return problemWords({ code: 'unforeseen', values: { detail } });
}
