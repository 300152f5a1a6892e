import { SessionAnswer, SignIn } from '@careful-seam/contract/api/messages';
import { ROLES } from '@careful-seam/core/log/roles';
import { z } from 'zod';
import { NOBODY, writeAudit } from '../audit/audit';
import { checkPassword, closeSession, openSession, personOf } from '../people/sessions';
import { takeTry, USUAL_LIMITS } from './limits';
import { type Call, COOKIE, type Route, read, setSessionCookie } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** Opens a session. */
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

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** Signing in and out. */
export const SESSION_ROUTES: readonly Route[] = [
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
];
