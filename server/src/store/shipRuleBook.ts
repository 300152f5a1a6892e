import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import type { DataSource } from 'typeorm';
import { RuleBookEntity } from './entities';

/** Adds the rule book that ships with this program when the firm does not have that version yet; never changes one. */
export async function shipRuleBook(store: DataSource): Promise<void> {
  const book = defaultRuleBook();
  await store
    .createQueryBuilder()
    .insert()
    .into(RuleBookEntity)
    .values({ id: book.id, version: book.version, data: book as object })
    .orIgnore()
    .execute();
}
