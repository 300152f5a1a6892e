import { RuleBookAnswer } from '@careful-seam/contract/api/messages';
import { ROLES } from '@careful-seam/core/log/roles';
import { Refusal } from '../refusals/refusal';
import { newestBook } from '../rules/publishBook';
import { RuleBookEntity } from '../store/entities/firm';
import { RuleBookAsk } from './asks';
import { type Call, param, type Route, readQuery } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** One version. */
async function ruleBook({ req, services }: Call): Promise<unknown> {
  const row = await services.store.getRepository(RuleBookEntity).findOneBy({
    origin: readQuery(RuleBookAsk, req.query).origin,
    id: param(req, 'book'),
    version: Number(param(req, 'version')) || 0,
  });
  if (!row) throw new Refusal('no-such-version', 'version');
  return { book: row.data };
}

/** The newest one. */
async function newestRuleBook({ services }: Call): Promise<unknown> {
  return { book: await newestBook(services.store) };
}

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** Versions of the rule book. */
export const RULE_BOOK_ROUTES: readonly Route[] = [
  {
    ...usual,
    method: 'get',
    path: '/api/rule-books/newest',
    summary: 'The newest rule book',
    gives: RuleBookAnswer,
    answer: newestRuleBook,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/rule-books/:book/:version',
    asks: RuleBookAsk,
    summary: 'A version of a rule book',
    gives: RuleBookAnswer,
    answer: ruleBook,
  },
];
