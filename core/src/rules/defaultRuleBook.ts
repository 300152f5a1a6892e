import { RuleBook } from './ruleBook';
import bondedSheet from './ruleBook3/bonded-sheet.json';
import book from './ruleBook3/book.json';
import sealantBoard from './ruleBook3/sealant-board.json';
import es from './ruleBook3/texts.es.json';

/** The rule book that ships: one file for each method, and one for what they share. Throws when the data is malformed. */
export function defaultRuleBook(): RuleBook {
  return RuleBook.parse({ ...book, methods: [bondedSheet, sealantBoard], texts: { es } });
}
