import { linesOf, methodsInUse, type Pinned } from './combineMethods';
import { type MixedParts, mixedParts } from './mixedParts';
import type { RuleBook } from './ruleBook';

/** The products of a shower and how they stand to each other, as its rules name them. */
export function productsOf({ book, pinned }: { book: RuleBook; pinned: Pinned }): MixedParts {
  return mixedParts(linesOf(book, pinned), methodsInUse(pinned));
}
