import type { sentenceOf, ToldProblem } from '@careful-seam/words/errors/errors';
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
  // A text that is not here is told to whoever looks: the browser's tests fail by it.
  saveMissing: true,
  missingKeyHandler: (_languages, _part, key) => console.error(`no text: ${key}`),
});

/** Texts as they come. */
type Coming = () => Promise<{ texts: object }>;
/** Where each part of the texts lies: what stands on the doors, what is said on site, and what only some screens say. */
const TEXTS = {
  door: { en: () => import('virtual:texts/door/en'), es: () => import('virtual:texts/door/es') },
  site: { en: () => import('virtual:texts/site/en'), es: () => import('virtual:texts/site/es') },
  sums: { en: () => import('virtual:texts/sums/en'), es: () => import('virtual:texts/sums/es') },
  tools: { en: () => import('virtual:texts/tools/en'), es: () => import('virtual:texts/tools/es') },
  office: { en: () => import('virtual:texts/office/en'), es: () => import('virtual:texts/office/es') },
} satisfies Record<string, Record<Language, Coming>>;
/** A part of the texts. */
export type TextPart = keyof typeof TEXTS;
/** All parts. */
export const TEXT_PARTS = Object.keys(TEXTS) as TextPart[];

/** Texts that are on their way, or here. */
const coming = new Map<Coming, Promise<void>>();
/** The parts that some screen wants, in whatever language is spoken. */
const parts = new Set<TextPart>(['door']);

/** Brings a part in a language, once. Without a network it fails where it was never here, and may be asked again. */
function loadPart(part: TextPart, language: Language): Promise<void> {
  const load: Coming = TEXTS[part][language];
  const known = coming.get(load);
  if (known) return known;
  const texts = load().then(({ texts: some }) => {
    words.addResourceBundle(language, 'translation', some, true, true);
  });
  coming.set(load, texts);
  texts.catch(() => coming.delete(load));
  return texts;
}

/** Brings what is wanted so far in a language. */
async function loadLanguage(language: Language): Promise<void> {
  await Promise.all([...parts].map((part) => loadPart(part, language)));
}

/** Brings a part of the texts, in the language that is spoken now and in each one that is spoken later. */
export async function bringTexts(part: TextPart): Promise<void> {
  parts.add(part);
  await loadPart(part, wanted ?? 'en');
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

/** Says a problem as a sentence; null until the sentences are here. They are many, and no first words are among them. */
let sentences: typeof sentenceOf | null = null;

/** Brings the sentences of what can be wrong. */
export async function bringSentences(): Promise<void> {
  sentences = (await import('@careful-seam/words/errors/errors')).sentenceOf;
}

/** The sentence of what is wrong, in the language that is spoken. */
export const problemWords = (problem: ToldProblem): string =>
  sentences?.(problem, words.language as Language) ?? problem.code;

/** What went wrong as a sentence: an error that carries a problem tells it, any other is named as it is. */
export function errorWords(error: unknown): string {
  if (error instanceof Error && 'problem' in error) return problemWords(error.problem as ToldProblem);
  const detail = error instanceof Error ? error.message : String(error);
  return problemWords({ code: 'unforeseen', values: { detail } });
}
