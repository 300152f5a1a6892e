import { RuleBook } from './ruleBook';
import book from './ruleBook1.json';

/** The rule book that ships. Throws when the data is malformed. */
export function defaultRuleBook(): RuleBook {
  return RuleBook.parse(book);
}
