import { type Person, PHOTO_BYTES_AT_MOST, Push, SignIn, SignRecord } from '@careful-seam/contract/api/messages';
import { ROLES, type Role } from '@careful-seam/contract/api/roles';
import { asAnswer, CALCULATIONS, runCalculation } from '@careful-seam/core/calc/registry';
import express, { type Request, type Response } from 'express';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { appendEntries } from '../ledger/appendEntries';
import { Refusal } from '../people/refusal';
import { checkPassword, closeSession, openSession, personOf } from '../people/sessions';
import { keepPhoto, readPhoto } from '../photos/photoStore';
import { buildRecord } from '../record/buildRecord';
import { loadShower, visibleShower } from '../showers/loadShower';
import { signShower } from '../showers/signShower';
import { CrewEntity, EntryEntity, PhotoEntity, RuleBookEntity, ShowerEntity } from '../store/entities';

export interface Services {
  store: DataSource;
  photoFolder: string;
  now: () => Date;
}

export interface Call {
  req: Request;
  res: Response;
  /** Always set on routes that ask for a role. */
  person: Person;
  services: Services;
}

/** One row of the route table: who may call it and what answers. The role test walks this list. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  roles: readonly Role[] | 'anyone';
  limit: 'sign-in' | 'usual';
  body?: 'json' | 'bytes';
  answer: (call: Call) => Promise<unknown>;
}

const EVERY = ROLES;
const SIGNING = ['inspector', 'manager'] as const;
export const COOKIE = 'careful_seam';
const PULL_AT_MOST = 2000;
const THUMB_WIDTHS = new Set([320, 960]);

function read<T extends z.ZodType>(schema: T, input: unknown): z.infer<T> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const field = issue.path.join('.');
  throw new Refusal('input-invalid', field, `The field "${field}" is not valid: ${issue.message}`);
}

const param = (req: Request, name: string): string => String(req.params[name] ?? '');

function uuidParam(req: Request): string {
  const id = param(req, 'id');
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id))
    throw new Refusal('not-found', 'id', 'There is no such shower.');
  return id;
}

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

async function recordJson({ req, res, person, services }: Call): Promise<unknown> {
  const loaded = await loadShower(services.store, await visibleShower(services.store, person, uuidParam(req)));
  res.attachment(`record-${loaded.row.id}.json`);
  return buildRecord(loaded, services.now());
}

async function recordPdf({ req, res, person, services }: Call): Promise<unknown> {
  const loaded = await loadShower(services.store, await visibleShower(services.store, person, uuidParam(req)));
  const { paintRecord } = await import('../record/paintRecord');
  const unit = req.query.unit === 'mm' ? 'mm' : 'in';
  const pdf = await paintRecord(buildRecord(loaded, services.now()), loaded.state, {
    unit,
    picture: (hash) => readPhoto(services.photoFolder, hash).catch(() => null),
  });
  res.attachment(`record-${loaded.row.id}.pdf`).type('application/pdf').send(pdf);
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

/** Every route of the server's API, with the roles that may call it. */
export const ROUTES: readonly Route[] = [
  { method: 'post', path: '/api/session', roles: 'anyone', limit: 'sign-in', body: 'json', answer: signIn },
  {
    method: 'get',
    path: '/api/session',
    roles: EVERY,
    limit: 'usual',
    answer: async ({ person, res }) => ({ person, expiresAt: res.locals.expiresAt }),
  },
  {
    method: 'delete',
    path: '/api/session',
    roles: EVERY,
    limit: 'usual',
    answer: async ({ req, res, services }) => {
      await closeSession(services.store, String(req.cookies[COOKIE]));
      res.clearCookie(COOKIE, { path: '/' });
      return {};
    },
  },
  {
    method: 'get',
    path: '/api/crews',
    roles: EVERY,
    limit: 'usual',
    answer: async ({ services }) => ({
      crews: await services.store.getRepository(CrewEntity).find({ order: { name: 'ASC' } }),
    }),
  },
  { method: 'get', path: '/api/showers', roles: EVERY, limit: 'usual', answer: listShowers },
  { method: 'get', path: '/api/showers/:id/entries', roles: EVERY, limit: 'usual', answer: pullEntries },
  { method: 'post', path: '/api/showers/:id/entries', roles: EVERY, limit: 'usual', body: 'json', answer: pushEntries },
  { method: 'post', path: '/api/showers/:id/sign', roles: SIGNING, limit: 'sign-in', body: 'json', answer: sign },
  { method: 'get', path: '/api/showers/:id/record.json', roles: EVERY, limit: 'usual', answer: recordJson },
  { method: 'get', path: '/api/showers/:id/record.pdf', roles: EVERY, limit: 'usual', answer: recordPdf },
  { method: 'put', path: '/api/photos/:hash', roles: EVERY, limit: 'usual', body: 'bytes', answer: putPhoto },
  { method: 'get', path: '/api/photos/:hash', roles: EVERY, limit: 'usual', answer: getPhoto },
  { method: 'get', path: '/api/rule-books/newest', roles: EVERY, limit: 'usual', answer: newestRuleBook },
  { method: 'get', path: '/api/rule-books/:book/:version', roles: EVERY, limit: 'usual', answer: ruleBook },
  {
    method: 'get',
    path: '/api/calc',
    roles: EVERY,
    limit: 'usual',
    answer: async () => ({ calculations: CALCULATIONS.map(({ name, title, source }) => ({ name, title, source })) }),
  },
  { method: 'post', path: '/api/calc/:name', roles: EVERY, limit: 'usual', body: 'json', answer: calculate },
];

/** Body parsers, set per route so that nothing else is read into memory. */
export const PARSERS = {
  json: express.json({ limit: '8mb' }),
  bytes: express.raw({ type: () => true, limit: PHOTO_BYTES_AT_MOST }),
};
