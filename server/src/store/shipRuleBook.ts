import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { floodChecksOf, type RuleBook, withSmallestLeak } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { RuleBookEntity } from './entities/firm';

/** Books did not say what they were made from until this one had been shipped. */
const BEFORE_IT_WAS_WRITTEN = 3;

/** The shipped book with what only the firm can know of it: its products, its choices, the smallest leak it wants ruled out. */
function withFirmsOwn(shipped: RuleBook, own: RuleBook | undefined): RuleBook {
  if (!own) return shipped;
  const book = structuredClone(shipped);
  const known = new Set(book.disagreements.map((d) => d.id));
  book.productLines = own.productLines ?? [];
  book.choices = Object.fromEntries(Object.entries(own.choices ?? {}).filter(([id]) => known.has(id)));
  const leak = floodChecksOf(own).find((c) => c.smallestLeakMmPerDay !== null);
  return leak ? withSmallestLeak(book, leak.smallestLeakMmPerDay) : book;
}

/**
 * Adds the rule book that ships with this program when the firm has neither it nor one made from it; never changes one.
 * Where the firm has versions of its own, the shipped book becomes the next one, so that no version is taken twice, and
 * keeps the firm's products, choices and smallest leak.
 */
export async function shipRuleBook(store: DataSource): Promise<void> {
  const shipped = defaultRuleBook();
  await store.transaction(async (tx) => {
    await tx.query('LOCK TABLE rule_book IN EXCLUSIVE MODE');
    const rows = await tx.getRepository(RuleBookEntity).findBy({ origin: '', id: shipped.id });
    if (rows.some((r) => ((r.data as RuleBook).shipped ?? BEFORE_IT_WAS_WRITTEN) >= shipped.version)) return;
    const version = Math.max(shipped.version, ...rows.map((r) => r.version + 1));
    const newest = [...rows].sort((a, b) => b.version - a.version)[0]?.data as RuleBook | undefined;
    const data = { ...withFirmsOwn(shipped, newest), version, shipped: shipped.version };
    await tx.getRepository(RuleBookEntity).insert({ origin: '', id: shipped.id, version, data: data as object });
  });
}
