import { sentenceOf, type ToldProblem } from '@careful-seam/words/errors/errors';
import type { Language } from '@careful-seam/words/texts/language';
import i18next, { type i18n } from 'i18next';

/** The words of the screens in the language that is spoken on this tablet. */
export const words: i18n = i18next.createInstance();
// Both languages have every text: there is nothing to fall back on, and the other one need not be here.
void words.init({
  lng: 'en',
  fallbackLng: false,
  initAsync: false,
  interpolation: { escapeValue: false },
  resources: {},
});

/** Texts of a language as they come. */
type Texts = Promise<{ default: object }>;
/** Where the texts of each language lie: those shared with the printed record, and those of the screens. */
const TEXTS: Readonly<Record<Language, () => readonly [Texts, Texts]>> = {
  en: () => [import('@careful-seam/words/texts/en.json'), import('../texts/en.json')],
  es: () => [import('@careful-seam/words/texts/es.json'), import('../texts/es.json')],
};
/** Languages that are on their way, or here. */
const coming = new Map<Language, Promise<void>>();

/** Brings the texts of a language, once. Without a network it fails where they were never here, and may be asked again. */
export function loadLanguage(language: Language): Promise<void> {
  const known = coming.get(language);
  if (known) return known;
  const texts = Promise.all(TEXTS[language]()).then((all) => {
    for (const { default: some } of all) words.addResourceBundle(language, 'translation', some, true, true);
  });
  coming.set(language, texts);
  texts.catch(() => coming.delete(language));
  return texts;
}

/** The language that was asked for last. */
let wanted: Language | null = null;

/** Speaks a language from now on, once its texts are here; stays with the one before while they can't be had. */
export async function speakIn(language: Language): Promise<void> {
  wanted = language;
  await loadLanguage(language);
  // Somebody who chose another one meanwhile hears that, whichever texts came later.
  if (wanted === language) await words.changeLanguage(language);
}

/** The sentence of what is wrong, in the language that is spoken. */
export const problemWords = (problem: ToldProblem): string => sentenceOf(problem, words.language as Language);

/** What went wrong as a sentence: an error that carries a problem tells it, any other is named as it is. */
export function errorWords(error: unknown): string {
  if (error instanceof Error && 'problem' in error) return problemWords(error.problem as ToldProblem);
  const detail = error instanceof Error ? error.message : String(error);
  return problemWords({ code: 'unforeseen', values: { detail } });
}
