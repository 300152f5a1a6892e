import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { DEMO_PRODUCTS } from './demoProducts';

/** mm a day: what the demo firm wants a flood test to rule out. Invented, as all of its data. */
const SMALLEST_LEAK_MM_PER_DAY = 1;

/** Film of the demo firm's liquid membrane, µm, as from a label. Invented. */
const FILM_FROM_LABEL_UM = { 'wet-film': { atLeast: 500 }, 'dry-film': { atLeast: 560, atMost: 1100 } };

/** The rule book as the demo firm has set it up: the smallest leak that a pass must exclude is its own choice. */
export function demoRuleBook(): RuleBook {
  const book = structuredClone(defaultRuleBook());
  const filmUm: Record<string, { atLeast: number; atMost?: number }> = FILM_FROM_LABEL_UM;
  for (const check of book.methods.flatMap((m) => m.stages.flatMap((s) => s.checks)))
    if (check.kind === 'flood') check.smallestLeakMmPerDay = SMALLEST_LEAK_MM_PER_DAY;
    else if (check.kind === 'number') check.limit ??= filmUm[check.id] ?? null;
  book.productLines = [...DEMO_PRODUCTS];
  return book;
}
