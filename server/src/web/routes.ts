import { FirmAnswer } from '@careful-seam/contract/api/firm';
import {
  PhotoTaken,
  PullAnswer,
  Push,
  PushAnswer,
  RuleBookAnswer,
  SessionAnswer,
  ShowerList,
  ShowerRow,
  SignIn,
  SignRecord,
} from '@careful-seam/contract/api/messages';
import { FoundShowers } from '@careful-seam/contract/api/office';
import { CALCULATIONS } from '@careful-seam/core/calc/registry';
import { ROLES } from '@careful-seam/core/log/roles';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { statusOf, told } from '@careful-seam/words/errors/errors';
import type { Request } from 'express';
import { z } from 'zod';
import { NOBODY, writeAudit } from '../audit/audit';
import { FOUND_AT_MOST, findShowers, listShowers } from '../jobs/jobs';
import { appendEntries } from '../ledger/appendEntries';
import { handInEntries } from '../ledger/handIn';
import { noticeAssigned } from '../mail/holdNotice';
import { Refusal } from '../people/refusal';
import { checkPassword, closeSession, openSession, personOf } from '../people/sessions';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { newestBook } from '../rules/publishBook';
import { visibleShower } from '../showers/loadShower';
import { showerAnswer } from '../showers/showerRows';
import { signShower } from '../showers/signShower';
import { PhotoEntity, RuleBookEntity } from '../store/entities';
import { runSum } from '../sums/runSum';
import { entriesAfter } from '../sync/entryBatch';
import { firmAnswer } from '../sync/whatMoved';
import { FILE_ROUTES } from './fileRoutes';
import { takeTry, USUAL_LIMITS } from './limits';
import { LINK_ROUTES } from './linkRoutes';
import { OFFICE_ROUTES } from './officeRoutes';
import { PEOPLE_ROUTES } from './peopleRoutes';
import { type Call, COOKIE, languageOf, param, type Route, read, setSessionCookie, skewOf, uuidParam } from './route';
import { SET_UP_ROUTES } from './setUpRoutes';
import { SYNC_ROUTES } from './syncRoutes';

const EVERY = ROLES;
const SIGNING = ['inspector', 'manager'] as const;
const PULL_AT_MOST = 2000;
const THUMB_WIDTHS = new Set([320, 960]);

function hashParam(req: Request): string {
  const hash = param(req, 'hash');
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Refusal('no-such-picture', 'hash');
  return hash;
}

async function signIn({ req, res, services }: Call): Promise<unknown> {
  const { signIn: name, password } = read(SignIn, req.body);
  const now = services.now();
  await takeTry(services.store, `account ${name.toLowerCase()}`, (services.limits ?? USUAL_LIMITS).account, now);
  const user = await checkPassword(services.store, name, password).catch(async (error: unknown) => {
    await writeAudit(services.store, { who: NOBODY, did: 'sign-in-failed', about: name }, now);
    throw error;
  });
  const { token, expiresAt } = await openSession(services.store, user, now);
  setSessionCookie(req, res, token, expiresAt);
  res.locals.who = user;
  res.locals.about = user.signIn;
  return { person: personOf(user), expiresAt: expiresAt.toISOString() };
}

const queryText = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);

async function pageOfShowers({ req, person, services }: Call): Promise<unknown> {
  const asked = { job: queryText(req.query.job), from: queryText(req.query.from) };
  const { rows, next } = await listShowers(services.store, person, asked);
  return { showers: rows.map(showerAnswer), next };
}

async function oneShower({ req, person, services }: Call): Promise<unknown> {
  return showerAnswer(await visibleShower(services.store, person, uuidParam(req)));
}

async function searchShowers({ req, person, services }: Call): Promise<unknown> {
  const rows = await findShowers(services.store, person, String(req.query.q ?? ''));
  return { showers: rows.slice(0, FOUND_AT_MOST).map(showerAnswer), more: rows.length > FOUND_AT_MOST };
}

async function pullEntries({ req, person, services }: Call): Promise<unknown> {
  const shower = await visibleShower(services.store, person, uuidParam(req));
  const after = Number(req.query.after ?? 0) || 0;
  const entries = await entriesAfter(services.store, shower.id, after, PULL_AT_MOST);
  return { entries, more: entries.length === PULL_AT_MOST };
}

/** An answer to entries, with the sentence of what was refused. */
function inLanguage<A extends { refused: (Problem & { id: string }) | null }>(req: Request, answer: A) {
  const { refused } = answer;
  return { ...answer, refused: refused && { id: refused.id, ...told(refused, languageOf(req)) } };
}

async function pushEntries({ req, person, services }: Call): Promise<unknown> {
  const push = read(Push, req.body);
  const now = services.now();
  const skewMs = skewOf(push.clock, now);
  const answer = await appendEntries(services.store, uuidParam(req), push.entries, { person, now, skewMs });
  const told = new Set(push.again);
  const given = answer.taken.filter(
    (taken, i) => push.entries[i]!.includes('"kind":"defect-assigned"') && !told.has(taken.id),
  );
  await noticeAssigned(
    services.store,
    uuidParam(req),
    given.map((taken) => taken.id),
    now,
  );
  return inLanguage(req, answer);
}

async function handIn({ req, res, services }: Call): Promise<unknown> {
  const push = read(Push, req.body);
  const now = services.now();
  const skewMs = skewOf(push.clock, now);
  const { author, ...answer } = await handInEntries(services.store, uuidParam(req), push.entries, { now, skewMs });
  res.locals.about = `${answer.taken.length} entries of ${author.name}`;
  return inLanguage(req, answer);
}

async function sign({ req, person, services }: Call): Promise<unknown> {
  const { password, clock, entry } = read(SignRecord, req.body);
  const now = services.now();
  return signShower(services.store, {
    person,
    showerId: uuidParam(req),
    password,
    entry,
    now,
    skewMs: skewOf(clock, now),
  });
}

async function putPhoto({ req, services }: Call): Promise<unknown> {
  const bytes: unknown = req.body;
  if (!Buffer.isBuffer(bytes) || bytes.length === 0) throw new Refusal('picture-empty', 'picture');
  const { hash, widthPx, heightPx } = await keepPhoto(
    services.store,
    services.picturePlace,
    hashParam(req),
    bytes,
    services.now(),
  );
  return { hash, widthPx, heightPx };
}

async function getPhoto({ req, res, services }: Call): Promise<unknown> {
  const hash = hashParam(req);
  const photo = await services.store.getRepository(PhotoEntity).findOneBy({ hash });
  if (!photo) throw new Refusal('picture-not-arrived', 'hash');
  const width = Number(req.query.width);
  const small = THUMB_WIDTHS.has(width) ? width : undefined;
  const bytes = await readPhoto(services.picturePlace, hash, small);
  res
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .type(small ? 'image/webp' : photo.mime)
    .send(bytes);
  return undefined;
}

async function ruleBook({ req, services }: Call): Promise<unknown> {
  const row = await services.store.getRepository(RuleBookEntity).findOneBy({
    origin: String(req.query.origin ?? ''),
    id: param(req, 'book'),
    version: Number(param(req, 'version')) || 0,
  });
  if (!row) throw new Refusal('no-such-version', 'version');
  return { book: row.data };
}

async function newestRuleBook({ services }: Call): Promise<unknown> {
  return { book: await newestBook(services.store) };
}

async function calculate({ req, res }: Call): Promise<unknown> {
  const outcome = await runSum(param(req, 'name'), req.body);
  if (outcome.ok) return outcome.value;
  res.status(statusOf(outcome.problem.code));
  return { error: told(outcome.problem, languageOf(req)) };
}

const usual = { roles: EVERY, limit: 'usual' as const };
const Calculations = z.object({
  calculations: z.array(z.object({ name: z.string(), title: z.string(), source: z.string() })),
});

const API_ROUTES: readonly Route[] = [
  {
    method: 'post',
    path: '/api/session',
    summary: 'Signs in',
    roles: 'anyone',
    limit: 'sign-in',
    body: 'json',
    takes: SignIn,
    gives: SessionAnswer,
    did: 'signed-in',
    answer: signIn,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    gives: SessionAnswer,
    answer: async ({ person, res }) => ({ person, expiresAt: res.locals.expiresAt }),
  },
  {
    ...usual,
    method: 'delete',
    path: '/api/session',
    summary: 'Signs out',
    gives: z.object({}),
    answer: async ({ req, res, services }) => {
      await closeSession(services.store, String(req.cookies[COOKIE]));
      res.clearCookie(COOKIE, { path: '/' });
      return {};
    },
  },
  {
    ...usual,
    method: 'get',
    path: '/api/firm',
    summary: 'The firm: its settings and crews, and the epoch of this server',
    gives: FirmAnswer,
    answer: ({ services }) => firmAnswer(services.store, services.now()),
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers',
    summary: 'A page of showers, newest change first (query: job, from)',
    gives: ShowerList,
    answer: pageOfShowers,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers/search',
    summary: 'Showers whose name or job has words that begin like those typed (query: q)',
    gives: FoundShowers,
    answer: searchShowers,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers/:id',
    summary: 'One shower: its row',
    gives: ShowerRow,
    answer: oneShower,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers/:id/entries',
    summary: 'Entries after a place in the ledger (query: after)',
    gives: PullAnswer,
    answer: pullEntries,
  },
  {
    ...usual,
    method: 'post',
    path: '/api/showers/:id/entries',
    summary: 'Appends entries',
    body: 'json',
    takes: Push,
    gives: PushAnswer,
    answer: pushEntries,
  },
  {
    ...usual,
    method: 'post',
    roles: ['manager'],
    path: '/api/showers/:id/hand-in',
    summary: 'Hands in entries of one person who can not send them any more',
    body: 'json',
    takes: Push,
    gives: PushAnswer,
    did: 'handed-in',
    answer: handIn,
  },
  {
    method: 'post',
    path: '/api/showers/:id/sign',
    summary: 'Signs the record',
    roles: SIGNING,
    limit: 'sign-in',
    body: 'json',
    takes: SignRecord,
    gives: PushAnswer,
    did: 'record-signed',
    answer: sign,
  },
  {
    ...usual,
    method: 'put',
    path: '/api/photos/:hash',
    summary: 'Sends a picture',
    body: 'bytes',
    gives: PhotoTaken,
    answer: putPhoto,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/photos/:hash',
    summary: 'A picture (query: width)',
    gives: 'image/*',
    answer: getPhoto,
  },
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
    summary: 'A version of a rule book',
    gives: RuleBookAnswer,
    answer: ruleBook,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/calc',
    summary: 'The calculations',
    gives: Calculations,
    answer: async () => ({ calculations: CALCULATIONS.map(({ name, title, source }) => ({ name, title, source })) }),
  },
  {
    ...usual,
    // Sums are for who inspects: a guest's link needs none.
    roles: SIGNING,
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Runs a calculation',
    body: 'json',
    takes: z.looseObject({}),
    gives: z.looseObject({}),
    answer: calculate,
  },
];

let description: Promise<unknown> | null = null;

const DESCRIPTION: Route = {
  method: 'get',
  path: '/api/openapi.json',
  summary: 'This description',
  roles: 'anyone',
  limit: 'usual',
  gives: z.looseObject({}),
  // Worked out once: it is long, and whoever asks for it is not signed in.
  answer: async () => {
    description ??= import('./openApi').then(({ openApi }) => openApi(ROUTES));
    return description;
  },
};

/** Every route of the server's API, with the roles that may call it. */
export const ROUTES: readonly Route[] = [
  ...API_ROUTES,
  ...SYNC_ROUTES,
  ...SET_UP_ROUTES,
  ...PEOPLE_ROUTES,
  ...LINK_ROUTES,
  ...OFFICE_ROUTES,
  ...FILE_ROUTES,
  DESCRIPTION,
];
