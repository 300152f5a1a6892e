import type { LimitChange } from '@careful-seam/contract/api/office';
import { type Check, RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { DataSource } from 'typeorm';
import { Refusal } from '../people/refusal';
import { RuleBookEntity } from '../store/entities';

interface Where {
  method: string;
  stage: string;
}

/**
 * Writes a new version of the newest rule book with each check changed: what is inspected by an earlier version keeps
 * it. `before` is called with all changes made and nothing written yet, and may refuse. Gives the version.
 */
async function writeVersion(
  store: DataSource,
  change: (check: Check, where: Where) => Check,
  before: () => void = () => undefined,
): Promise<number> {
  const books = store.getRepository(RuleBookEntity);
  const [row] = await books.find({ order: { version: 'DESC' }, take: 1 });
  if (!row) throw new Refusal('not-found', 'ruleBook', 'The firm has no rule book yet.');
  const old = RuleBook.parse(row.data);
  const methods = old.methods.map((method) => ({
    ...method,
    stages: method.stages.map((stage) => ({
      ...stage,
      checks: stage.checks.map((check) => change(check, { method: method.key, stage: stage.key })),
    })),
  }));
  before();
  const book = RuleBook.parse({ ...old, version: old.version + 1, methods });
  await books.insert({ id: book.id, version: book.version, data: book as object });
  return book.version;
}

/** Sets the smallest leak that a flood test must exclude, for all methods; null: no test can pass. */
export function setSmallestLeak(store: DataSource, smallestLeakMmPerDay: number | null): Promise<number> {
  return writeVersion(store, (check) => (check.kind === 'flood' ? { ...check, smallestLeakMmPerDay } : check));
}

/** Sets limits of measured checks. A check that is not in the book, or is not measured, is refused by its name. */
export function setLimits(store: DataSource, changes: readonly LimitChange[]): Promise<number> {
  const left = new Set(changes);
  return writeVersion(
    store,
    (check, { method, stage }) => {
      const change = changes.find((c) => c.method === method && c.stage === stage && c.check === check.id);
      if (!change) return check;
      if (check.kind !== 'measured')
        throw new Refusal('input-invalid', 'check', `"${check.label}" is not measured, so that it has no limit.`);
      left.delete(change);
      const { atLeastMm, atMostMm } = change;
      const limit = { ...(atLeastMm === null ? {} : { atLeastMm }), ...(atMostMm === null ? {} : { atMostMm }) };
      return { ...check, limit };
    },
    () => {
      const [unknown] = left;
      if (unknown) throw new Refusal('not-found', 'check', `The rule book has no check "${unknown.check}" there.`);
    },
  );
}
