import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { RuleBookEntity } from './entities';

/** Books did not say what they were made from until this one had been shipped. */
const BEFORE_IT_WAS_WRITTEN = 3;

/**
 * Adds the rule book that ships with this program when the firm has neither it nor one made from it; never changes one.
 * Where the firm has versions of its own, the shipped book becomes the next one, so that no version is taken twice.
 */
export async function shipRuleBook(store: DataSource): Promise<void> {
  const shipped = defaultRuleBook();
  await store.transaction(async (tx) => {
    await tx.query('LOCK TABLE rule_book IN EXCLUSIVE MODE');
    const rows = await tx.getRepository(RuleBookEntity).findBy({ id: shipped.id });
    if (rows.some((r) => ((r.data as RuleBook).shipped ?? BEFORE_IT_WAS_WRITTEN) >= shipped.version)) return;
    const version = Math.max(shipped.version, ...rows.map((r) => r.version + 1));
    await tx.getRepository(RuleBookEntity).insert({ id: shipped.id, version, data: { ...shipped, version } as object });
  });
}
