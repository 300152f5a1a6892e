import { checkBook } from '@careful-seam/core/rules/checkBook';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { RuleBookEntity } from '../store/entities/firm';

/** The firm's own books: another firm's never becomes the newest. */
const OWN = { origin: '' };

/** The newest version of the firm's rule book. Refuses when there is none. */
export async function newestBook(store: DataSource): Promise<RuleBook> {
  const [row] = await store.getRepository(RuleBookEntity).find({ where: OWN, order: { version: 'DESC' }, take: 1 });
  if (!row) throw new Refusal('no-rule-book', 'ruleBook');
  return RuleBook.parse(row.data);
}

/** Every version there is, newest first, with its title and the shipped version it was made from. */
export async function listBooks(store: DataSource) {
  const rows = await store.getRepository(RuleBookEntity).find({ where: OWN, order: { version: 'DESC' } });
  return rows.map(({ id, version, data }) => ({
    id,
    version,
    title: (data as RuleBook).title,
    shipped: (data as RuleBook).shipped ?? null,
  }));
}

/** A book that is called by its version is called by its new one, in every language. */
function titled(book: RuleBook, version: number): RuleBook {
  const next = (title: string) => title.replace(/ \d+$/, ` ${version}`);
  const texts = Object.fromEntries(
    Object.entries(book.texts).map(([language, table]) => {
      const said = table[book.title];
      return [language, said === undefined ? table : { ...table, [next(book.title)]: next(said) }];
    }),
  );
  return { ...book, version, title: next(book.title), texts };
}

/**
 * Writes a draft as the next version; earlier ones stay as they are. Refuses a draft that is no sound rule book, one of
 * another book, and one that was begun on a version that is not the newest any more.
 */
export async function publishBook(
  store: DataSource,
  draft: unknown,
  basedOn: number,
): Promise<{ before: RuleBook; book: RuleBook }> {
  const read = checkBook(draft);
  if (!read.ok) throw Refusal.of(read.problem);
  const newest = await newestBook(store);
  if (read.value.id !== newest.id)
    throw new Refusal('another-rule-book', 'id', { read: read.value.id, newest: newest.id });
  if (basedOn !== newest.version) throw new Refusal('changed-meanwhile', 'basedOn', { version: newest.version });
  const version = newest.version + 1;
  const book = titled(read.value, version);
  await store
    .getRepository(RuleBookEntity)
    .insert({ origin: '', id: book.id, version: book.version, data: book as object });
  return { before: newest, book };
}
