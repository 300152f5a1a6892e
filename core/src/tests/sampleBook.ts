import { RuleBook } from '../rules/ruleBook';
import bondedSheet from './sampleBook/bonded-sheet.json';
import book from './sampleBook/book.json';
import sealantBoard from './sampleBook/sealant-board.json';
import es from './sampleBook/texts.es.json';

/** A rule book of two methods that tests judge by: an older one, so that the shipped one may grow. */
export function sampleBook(): RuleBook {
  return RuleBook.parse({ ...book, methods: [bondedSheet, sealantBoard], texts: { es } });
}
