import type { RuleBook } from './ruleBook';

/** Fields whose text a person reads; everything else is an id or a figure. */
const READ = new Set(['title', 'label', 'why', 'caution', 'deference', 'packLabel', 'question', 'note', 'text']);

function translated(value: unknown, texts: Record<string, string>, isRead: boolean): unknown {
  if (typeof value === 'string') return isRead ? (texts[value] ?? value) : value;
  if (Array.isArray(value)) return value.map((v) => translated(v, texts, isRead));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, translated(v, texts, READ.has(key))]));
}

/**
 * A rule book in another language, by its own table of texts; what the firm has not translated stays English. Ids,
 * limits and sources are the same, so that the same entries are judged the same.
 */
export function translateBook(book: RuleBook, language: string): RuleBook {
  const { texts } = book;
  const table = texts[language];
  return table ? { ...(translated({ ...book, texts: {} }, table, false) as RuleBook), texts } : book;
}

/** One text of a book in a language; the book's own where it was not translated. */
export const textIn = (book: RuleBook, language: string, text: string): string => book.texts[language]?.[text] ?? text;

/** A book that says one of its texts otherwise in a language; its own text stays. */
export const withTextIn = (book: RuleBook, language: string, text: string, said: string): RuleBook => ({
  ...book,
  texts: { ...book.texts, [language]: { ...book.texts[language], [text]: said } },
});

function collect(value: unknown, isRead: boolean, into: Set<string>): void {
  if (typeof value === 'string') {
    if (isRead) into.add(value);
  } else if (Array.isArray(value)) for (const v of value) collect(v, isRead, into);
  else if (value !== null && typeof value === 'object')
    for (const [key, v] of Object.entries(value)) collect(v, READ.has(key), into);
}

/** Every text of a book that a person reads, each once: what a translation must hold. */
export function textsOf(book: RuleBook): string[] {
  const found = new Set<string>();
  collect({ ...book, texts: {} }, false, found);
  return [...found];
}
