import { SetUp, SetUpAnswer, SetUpState } from '@careful-seam/contract/api/setUp';
import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import { needsSetUp, setUp } from '../setUp/setUp';
import { type Call, type Route, read } from './route';

/** Whether the set-up page is open. */
function setUpState(needed: boolean): SetUpState {
  if (!needed) return { needed, methods: [] };
  const book = defaultRuleBook();
  const spanish = new Map(translateBook(book, 'es').methods.map((m) => [m.key, m.label]));
  return { needed, methods: book.methods.map((m) => ({ key: m.key, en: m.label, es: spanish.get(m.key) ?? m.label })) };
}

/** Sets the firm up, with the code of the log. */
async function setUpFirm({ req, res, services }: Call): Promise<unknown> {
  const input = read(SetUp, req.body);
  const { store, picturePlace, publicUrl: origin, now } = services;
  const answer = await setUp(store, input, { now: now(), origin, picturePlace });
  res.locals.who = { id: '', name: input.manager.name };
  res.locals.about = input.firm.name;
  return answer;
}

/** The first day of an empty installation. */
export const SET_UP_ROUTES: readonly Route[] = [
  {
    method: 'get',
    path: '/api/set-up',
    summary: 'Whether this installation is empty and wants to be set up',
    roles: 'anyone',
    limit: 'usual',
    gives: SetUpState,
    answer: async ({ services }) => setUpState(await needsSetUp(services.store)),
  },
  {
    method: 'post',
    path: '/api/set-up',
    summary: 'Sets an empty installation up, with the code that its log shows',
    roles: 'anyone',
    limit: 'sign-in',
    body: 'json',
    takes: SetUp,
    gives: SetUpAnswer,
    did: 'set-up',
    answer: setUpFirm,
  },
];
