import { withSmallestLeak } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { newestBook, publishBook } from './publishBook';

/** Sets the smallest leak that a flood test must exclude, for all methods; null: no test can pass. Gives the new version. */
export async function setSmallestLeak(store: DataSource, smallestLeakMmPerDay: number | null): Promise<number> {
  const book = withSmallestLeak(await newestBook(store), smallestLeakMmPerDay);
  return (await publishBook(store, book, book.version)).book.version;
}
