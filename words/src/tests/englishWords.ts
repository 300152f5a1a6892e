import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import { ERRORS } from '../errors/errors';
import en from '../texts/en.json' with { type: 'json' };
import es from '../texts/es.json' with { type: 'json' };

type Texts = { [key: string]: string | Texts };
const flat = (texts: Texts): string[] =>
  Object.values(texts).flatMap((value) => (typeof value === 'string' ? [value] : flat(value)));

/** What is shared, but for mail: that is in the language of who it was written to, wherever it is read. */
const shared = ({ mail: _mail, ...texts }: Texts): Texts => texts;

/** Every text inside a value, wherever it stands. */
const textsIn = (value: unknown): string[] =>
  typeof value === 'string' ? [value] : value && typeof value === 'object' ? Object.values(value).flatMap(textsIn) : [];

/** The pieces of a text between its values: what stands on paper as it stands in the table. */
const pieces = (text: string): string[] =>
  text
    .replaceAll(/\$t\([^)]*\)/g, '{{x}}')
    .split(/\{\{[^}]*\}\}/)
    .map((piece) => piece.trim().replaceAll(/\s+/g, ' '));

/** Two words at least: one alone may be a name, or the same in both languages. */
const isPhrase = (text: string): boolean => /[a-z]{3,}[^a-z]+[a-z]{2,}/i.test(text) && text.length >= 9;

/**
 * Phrases that are English and not Spanish as well: of the texts given, of those that screens and papers share, of the errors
 * and of the rule book. A Spanish page that holds one of them is not in Spanish.
 */
export function englishPhrases(more: { en: Texts; es: Texts } = { en: {}, es: {} }): string[] {
  const book = defaultRuleBook();
  const rules = (language: 'en' | 'es') => textsIn({ ...translateBook(book, language), texts: {}, translations: {} });
  const spanish = [...flat(es), ...flat(more.es), ...rules('es'), ...Object.values(ERRORS).map((e) => e.es)];
  const known = spanish.join('\n').replaceAll(/\s+/g, ' ');
  const english = [...flat(shared(en)), ...flat(more.en), ...rules('en'), ...Object.values(ERRORS).map((e) => e.en)];
  return [...new Set(english.flatMap(pieces))].filter((piece) => isPhrase(piece) && !known.includes(piece));
}

/** The English phrases that stand in a text. */
export function englishIn(text: string, phrases: readonly string[]): string[] {
  const tidy = text.replaceAll(/\s+/g, ' ');
  return phrases.filter((phrase) => tidy.includes(phrase));
}

/** Whole texts that are English and not Spanish as well, also single words: what a key or a heading says. */
export function englishLabels(more: { en: Texts; es: Texts }): ReadonlySet<string> {
  const spanish = new Set([...flat(es), ...flat(more.es)]);
  return new Set(
    [...flat(shared(en)), ...flat(more.en)].filter((text) => !spanish.has(text) && /[a-z]{3}/i.test(text)),
  );
}
