import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { type RuleBook, withSmallestLeak } from '@careful-seam/core/rules/ruleBook';
import { DEMO_PRODUCTS } from './demoProducts';

/** mm a day: what the demo firm wants a flood test to rule out. Invented, as all of its data. */
const SMALLEST_LEAK_MM_PER_DAY = 1;

/** The rule book as the demo firm has set it up: the smallest leak that a pass must exclude is its own choice. */
export function demoRuleBook(): RuleBook {
  const book = withSmallestLeak(defaultRuleBook(), SMALLEST_LEAK_MM_PER_DAY);
  book.productLines = [...DEMO_PRODUCTS];
  book.shipped = book.version;
  return book;
}
