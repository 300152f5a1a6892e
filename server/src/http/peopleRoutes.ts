import { Crew } from '@careful-seam/contract/api/messages';
import {
  ChangePerson,
  CrewInto,
  CrewName,
  Inspectors,
  NewPerson,
  OwnLanguage,
  OwnPassword,
  PeopleAnswer,
  PersonRow,
  SetPassword,
} from '@careful-seam/contract/api/office';
import { ROLES } from '@careful-seam/core/log/roles';
import { In } from 'typeorm';
import { v4 } from 'uuid';
import { z } from 'zod';
import { useLink } from '../people/links';
import { mergeCrew } from '../people/mergeCrew';
import { changePerson, makePerson, rowOf, setPassword } from '../people/people';
import { checkPassword, openSession } from '../people/sessions';
import { Refusal } from '../refusals/refusal';
import { CrewEntity, UserEntity } from '../store/entities/people';
import { takeTry, USUAL_LIMITS } from './limits';
import { type Call, param, type Route, read, setSessionCookie, uuidParam } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** Everybody. */
async function people({ services }: Call): Promise<unknown> {
  const rows = await services.store.getRepository(UserEntity).find({ order: { name: 'ASC' } });
  return { people: rows.map(rowOf) };
}

/** Adds one. */
async function addPerson({ req, res, services }: Call): Promise<unknown> {
  const row = await makePerson(services.store, read(NewPerson, req.body));
  res.locals.about = `${row.name} (${row.signIn}, ${row.role})`;
  return rowOf(row);
}

/** Changes one, disables one, lets one in again. */
async function alterPerson({ req, res, services }: Call): Promise<unknown> {
  const change = read(ChangePerson, req.body);
  const row = await changePerson(services.store, uuidParam(req, 'person'), change);
  res.locals.about = `${row.name}: ${Object.entries(change)
    .map(([field, value]) => `${field} ${value}`)
    .join(', ')}`;
  return rowOf(row);
}

/** Sets a password, by the code of a link. */
async function setOwnPassword({ req, res, services }: Call): Promise<unknown> {
  const { code, password } = read(SetPassword, req.body);
  const { store } = services;
  const now = services.now();
  const link = await useLink(store, 'password', code, now);
  await setPassword(store, link.userId!, password);
  const user = await store.getRepository(UserEntity).findOneByOrFail({ id: link.userId! });
  res.locals.who = user;
  res.locals.about = user.signIn;
  return { signIn: user.signIn };
}

/** Changes one's own password. Every other tablet of this person is signed out; this one goes on. */
async function changeOwnPassword({ req, res, person, services }: Call): Promise<unknown> {
  const { old, password } = read(OwnPassword, req.body);
  const { store, now } = services;
  const user = await store.getRepository(UserEntity).findOneBy({ id: person.id });
  if (!user) throw new Refusal('link-has-no-password', 'person');
  await takeTry(store, `account ${user.signIn}`, (services.limits ?? USUAL_LIMITS).account, now());
  await checkPassword(store, user.signIn, old).catch(() => {
    throw new Refusal('password-not-in-force', 'old');
  });
  await setPassword(store, user.id, password);
  const { token, expiresAt } = await openSession(store, user, now());
  setSessionCookie(req, res, token, expiresAt);
  res.locals.about = user.signIn;
  return {};
}

/** Keeps the language that a person chose on a tablet. Who came by a link has no account to keep it with. */
async function setOwnLanguage({ req, person, services }: Call): Promise<unknown> {
  const { language } = read(OwnLanguage, req.body);
  await services.store.getRepository(UserEntity).update({ id: person.id }, { language });
  return {};
}

/** Adds a crew, or names one anew. */
async function nameCrew({ req, res, services }: Call): Promise<unknown> {
  const { name } = read(CrewName, req.body);
  const id = param(req, 'crew') || `crew-${v4().slice(0, 8)}`;
  const crews = services.store.getRepository(CrewEntity);
  await crews.upsert({ id, name }, ['id']);
  res.locals.about = name;
  return crews.findOneByOrFail({ id });
}

/** Makes a crew part of another. */
async function merge({ req, res, services }: Call): Promise<unknown> {
  const { into } = read(CrewInto, req.body);
  const crew = await mergeCrew(services.store, param(req, 'crew'), into, services.now());
  res.locals.about = `${crew.name}: ${into}`;
  return crew;
}

/** Who may look at a shower. */
async function inspectors({ services }: Call): Promise<unknown> {
  const rows = await services.store
    .getRepository(UserEntity)
    .find({ where: { role: In(['inspector', 'manager']), disabled: false }, order: { name: 'ASC' } });
  return { inspectors: rows.map(({ id, name }) => ({ id, name })) };
}

/** People of the firm, their crews and passwords. */
export const PEOPLE_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'get',
    path: '/api/people',
    summary: 'Everybody who may sign in',
    gives: PeopleAnswer,
    answer: people,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/people',
    summary: 'Adds a person, who sets a password through a link',
    body: 'json',
    takes: NewPerson,
    gives: PersonRow,
    did: 'person-made',
    answer: addPerson,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/people/:id',
    summary: 'Changes a person: name, role, crew, address, disabled',
    body: 'json',
    takes: ChangePerson,
    gives: PersonRow,
    did: 'person-changed',
    answer: alterPerson,
  },
  {
    method: 'post',
    path: '/api/password',
    summary: 'Sets a password with the code of a link',
    roles: 'anyone',
    limit: 'sign-in',
    body: 'json',
    takes: SetPassword,
    gives: z.object({ signIn: z.string() }),
    did: 'password-set',
    answer: setOwnPassword,
  },
  {
    method: 'put',
    path: '/api/session/language',
    summary: 'Keeps the language that mail to this person is written in',
    roles: ROLES,
    limit: 'usual',
    body: 'json',
    takes: OwnLanguage,
    gives: z.object({}),
    answer: setOwnLanguage,
  },
  {
    roles: ROLES,
    limit: 'usual',
    method: 'put',
    path: '/api/password/own',
    summary: "Changes one's own password; other tablets of the person are signed out",
    body: 'json',
    takes: OwnPassword,
    gives: z.object({}),
    did: 'password-set',
    answer: changeOwnPassword,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/crews',
    summary: 'Adds a crew',
    body: 'json',
    takes: CrewName,
    gives: Crew,
    did: 'crew-named',
    answer: nameCrew,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/crews/:crew',
    summary: 'Names a crew',
    body: 'json',
    takes: CrewName,
    gives: Crew,
    did: 'crew-named',
    answer: nameCrew,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/crews/:crew/merge',
    summary: 'Makes a crew part of another: its people go over, and its past counts as the other’s',
    body: 'json',
    takes: CrewInto,
    gives: Crew,
    did: 'crew-merged',
    answer: merge,
  },
  {
    roles: ['inspector', 'manager'],
    limit: 'usual',
    method: 'get',
    path: '/api/inspectors',
    summary: 'Who can be given a visit',
    gives: Inspectors,
    answer: inspectors,
  },
];
