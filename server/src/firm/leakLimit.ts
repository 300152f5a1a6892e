import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { Refusal } from '../people/refusal';
import { RuleBookEntity } from '../store/entities';

const withLeak = (book: RuleBook, smallestLeakMmPerDay: number | null): RuleBook => ({
  ...book,
  version: book.version + 1,
  methods: book.methods.map((method) => ({
    ...method,
    stages: method.stages.map((stage) => ({
      ...stage,
      checks: stage.checks.map((check) => (check.kind === 'flood' ? { ...check, smallestLeakMmPerDay } : check)),
    })),
  })),
});

/**
 * Sets the smallest leak that a flood test must exclude, for all methods, as a new version of the rule book: what is
 * inspected by an earlier version keeps it. Gives the version.
 */
export async function setSmallestLeak(store: DataSource, smallestLeakMmPerDay: number | null): Promise<number> {
  const books = store.getRepository(RuleBookEntity);
  const [row] = await books.find({ order: { version: 'DESC' }, take: 1 });
  if (!row) throw new Refusal('not-found', 'ruleBook', 'The firm has no rule book yet.');
  const book = RuleBook.parse(withLeak(RuleBook.parse(row.data), smallestLeakMmPerDay));
  await books.insert({ id: book.id, version: book.version, data: book as object });
  return book.version;
}
