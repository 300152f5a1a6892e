import { RuleBookAnswer } from '@careful-seam/contract/api/messages';
import { BookList, PublishBook } from '@careful-seam/contract/api/office';
import { compareBooks } from '@careful-seam/core/proof/shown/compareBooks';
import { listBooks, publishBook } from '../rules/publishBook';
import { type Call, type Route, read } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** The next version of the rule book. */
async function publish({ req, res, services }: Call): Promise<unknown> {
  const { book: draft, basedOn } = read(PublishBook, req.body);
  const { before, book } = await publishBook(services.store, draft, basedOn);
  const { checks, choices } = compareBooks(before, book);
  const named = [
    ...checks.map((d) => `${(d.after ?? d.before)!.id} (${d.method})`),
    ...choices.map((c) => `${c.question}: ${c.after ?? 'as shipped'}`),
  ];
  res.locals.about = `rule book version ${book.version}: ${named.slice(0, 20).join('; ')}`;
  return { book };
}

/** Publishing a version of the rule book. */
export const PUBLISH_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'get',
    path: '/api/rule-books',
    summary: 'The versions of the rule book, newest first',
    gives: BookList,
    answer: async ({ services }) => ({ books: await listBooks(services.store) }),
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/rule-books',
    summary: 'Publishes a draft as the next version of the rule book',
    body: 'json',
    takes: PublishBook,
    gives: RuleBookAnswer,
    did: 'rule-book-published',
    answer: publish,
  },
];
