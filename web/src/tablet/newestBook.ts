import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useStore } from './store';

/** The newest version of the rule book that this tablet knows; undefined before the first contact. */
export function useNewestBook(): RuleBook | undefined {
  const books = useStore((s) => s.books);
  return [...books.values()].sort((a, b) => b.version - a.version)[0];
}
