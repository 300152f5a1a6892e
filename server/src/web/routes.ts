import {
  CrewList,
  PhotoTaken,
  PullAnswer,
  Push,
  PushAnswer,
  RuleBookAnswer,
  SessionAnswer,
  ShowerList,
  SignIn,
  SignRecord,
} from '@careful-seam/contract/api/messages';
import { ROLES } from '@careful-seam/contract/api/roles';
import { asAnswer, CALCULATIONS, runCalculation } from '@careful-seam/core/calc/registry';
import type { Request } from 'express';
import { z } from 'zod';
import { appendEntries } from '../ledger/appendEntries';
import { Refusal } from '../people/refusal';
import { checkPassword, closeSession, openSession, personOf } from '../people/sessions';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { visibleShower } from '../showers/loadShower';
import { signShower } from '../showers/signShower';
import { CrewEntity, EntryEntity, PhotoEntity, RuleBookEntity, ShowerEntity } from '../store/entities';
import { FILE_ROUTES } from './fileRoutes';
import { type Call, COOKIE, param, type Route, read, uuidParam } from './route';

const EVERY = ROLES;
const SIGNING = ['inspector', 'manager'] as const;
const PULL_AT_MOST = 2000;
const THUMB_WIDTHS = new Set([320, 960]);

function hashParam(req: Request): string {
  const hash = param(req, 'hash');
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new Refusal('not-found', 'hash', 'There is no such picture.');
  return hash;
}

const skewOf = (clock: string, now: Date): number => now.getTime() - Date.parse(clock);

async function signIn({ req, res, services }: Call): Promise<unknown> {
  const { signIn: name, password } = read(SignIn, req.body);
  const user = await checkPassword(services.store, name, password);
  const { token, expiresAt } = await openSession(services.store, user, services.now());
  res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', expires: expiresAt });
  return { person: personOf(user), expiresAt: expiresAt.toISOString() };
}

async function listShowers({ person, services }: Call): Promise<unknown> {
  const where = person.role === 'crew-lead' ? { crewId: person.crewId ?? '' } : {};
  const rows = await services.store
    .getRepository(ShowerEntity)
    .find({ where, order: { updatedAt: 'DESC' }, take: 200 });
  return { showers: rows.map((r) => ({ ...r, updatedAt: r.updatedAt.toISOString() })) };
}

async function pullEntries({ req, person, services }: Call): Promise<unknown> {
  const shower = await visibleShower(services.store, person, uuidParam(req));
  const after = Number(req.query.after ?? 0) || 0;
  const rows = await services.store
    .getRepository(EntryEntity)
    .createQueryBuilder('e')
    .where('e.showerId = :id AND e.ledgerSeq > :after', { id: shower.id, after })
    .orderBy('e.ledgerSeq')
    .take(PULL_AT_MOST)
    .getMany();
  const entries = rows.map((r) => ({
    text: r.text,
    hash: r.hash,
    ledgerSeq: r.ledgerSeq,
    ledgerHash: r.ledgerHash,
    receivedAt: r.receivedAt.toISOString(),
  }));
  return { entries, more: rows.length === PULL_AT_MOST };
}

async function pushEntries({ req, person, services }: Call): Promise<unknown> {
  const push = read(Push, req.body);
  const now = services.now();
  return appendEntries(services.store, uuidParam(req), push.entries, { person, now, skewMs: skewOf(push.clock, now) });
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
  if (!Buffer.isBuffer(bytes) || bytes.length === 0)
    throw new Refusal('not-a-picture', 'picture', 'The picture is empty. Take it again.');
  const { hash, widthPx, heightPx } = await keepPhoto(
    services.store,
    services.photoFolder,
    hashParam(req),
    bytes,
    services.now(),
  );
  return { hash, widthPx, heightPx };
}

async function getPhoto({ req, res, services }: Call): Promise<unknown> {
  const hash = hashParam(req);
  const photo = await services.store.getRepository(PhotoEntity).findOneBy({ hash });
  if (!photo) throw new Refusal('not-found', 'hash', 'This picture has not arrived yet.');
  const width = Number(req.query.width);
  const small = THUMB_WIDTHS.has(width) ? width : undefined;
  const bytes = await readPhoto(services.photoFolder, hash, small);
  res
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .type(small ? 'image/webp' : photo.mime)
    .send(bytes);
  return undefined;
}

async function ruleBook({ req, services }: Call): Promise<unknown> {
  const row = await services.store
    .getRepository(RuleBookEntity)
    .findOneBy({ id: param(req, 'book'), version: Number(param(req, 'version')) || 0 });
  if (!row) throw new Refusal('not-found', 'version', 'There is no such version of the rule book.');
  return { book: row.data };
}

async function newestRuleBook({ services }: Call): Promise<unknown> {
  const [row] = await services.store.getRepository(RuleBookEntity).find({ order: { version: 'DESC' }, take: 1 });
  if (!row) throw new Refusal('not-found', 'ruleBook', 'The firm has no rule book yet.');
  return { book: row.data };
}

async function calculate({ req, res }: Call): Promise<unknown> {
  const { ok, json } = asAnswer(runCalculation(param(req, 'name'), req.body));
  if (!ok) res.status(422);
  return json;
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
    path: '/api/crews',
    summary: 'The crews of the firm',
    gives: CrewList,
    answer: async ({ services }) => ({
      crews: await services.store.getRepository(CrewEntity).find({ order: { name: 'ASC' } }),
    }),
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers',
    summary: 'Showers, newest change first',
    gives: ShowerList,
    answer: listShowers,
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
    method: 'post',
    path: '/api/showers/:id/sign',
    summary: 'Signs the record',
    roles: SIGNING,
    limit: 'sign-in',
    body: 'json',
    takes: SignRecord,
    gives: PushAnswer,
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
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Runs a calculation',
    body: 'json',
    takes: z.looseObject({}),
    gives: z.looseObject({}),
    answer: calculate,
  },
];

const DESCRIPTION: Route = {
  method: 'get',
  path: '/api/openapi.json',
  summary: 'This description',
  roles: 'anyone',
  limit: 'usual',
  gives: z.looseObject({}),
  answer: async () => (await import('./openApi')).openApi(ROUTES),
};

/** Every route of the server's API, with the roles that may call it. */
export const ROUTES: readonly Route[] = [...API_ROUTES, ...FILE_ROUTES, DESCRIPTION];
