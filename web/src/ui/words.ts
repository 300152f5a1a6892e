import { sentenceOf, type ToldProblem } from '@careful-seam/words/errors/errors';
import { type Language, makeWords } from '@careful-seam/words/texts/words';
import en from '../texts/en.json';
import es from '../texts/es.json';

/** The words of the screens in the language that is spoken on this tablet. */
export const words = makeWords('en', { en, es });

/** The sentence of what is wrong, in the language that is spoken. */
export const problemWords = (problem: ToldProblem): string => sentenceOf(problem, words.language as Language);
