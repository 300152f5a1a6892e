import { randomBytes } from 'node:crypto';
import type { Person } from '@careful-seam/contract/api/messages';
import { sha256Hex } from '@careful-seam/core/entries/chain';
import { hash, verify } from '@node-rs/argon2';
import type { DataSource } from 'typeorm';
import { LinkEntity, type LinkRow, SessionEntity, type SessionRow, UserEntity, type UserRow } from '../store/entities';
import { Refusal } from './refusal';

/** A session works for 7 days from the last contact. */
export const SESSION_MS = 7 * 24 * 3_600_000;

export const personOf = (user: UserRow): Person => ({
  id: user.id,
  name: user.name,
  role: user.role,
  crewId: user.crewId,
});

export function hashPassword(password: string): Promise<string> {
  return hash(password);
}

/** Verified against even when there is no such person, so that time tells nothing. */
const NOBODY = hash('no such person');

export async function checkPassword(store: DataSource, signIn: string, password: string): Promise<UserRow> {
  const user = await store.getRepository(UserEntity).findOneBy({ signIn: signIn.toLowerCase() });
  const right = await verify(user?.passwordHash ?? (await NOBODY), password);
  if (!user || user.disabled || !right)
    throw new Refusal('sign-in-failed', 'password', 'Name and password do not match. Check both and try again.');
  return user;
}

async function begin(
  store: DataSource,
  who: { userId: string } | { linkId: string },
  expiresAt: Date,
): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await store
    .getRepository(SessionEntity)
    .insert({ tokenHash: sha256Hex(token), userId: null, linkId: null, ...who, expiresAt });
  return token;
}

/** Opens a person's session: it ends 7 days after the last contact. */
export async function openSession(
  store: DataSource,
  user: UserRow,
  now: Date,
): Promise<{ token: string; expiresAt: Date }> {
  const expiresAt = new Date(now.getTime() + SESSION_MS);
  return { token: await begin(store, { userId: user.id }, expiresAt), expiresAt };
}

/** Opens the session of somebody who came by a crew's link: it ends with the link. */
export async function openLinkSession(store: DataSource, link: LinkRow): Promise<{ token: string; expiresAt: Date }> {
  return { token: await begin(store, { linkId: link.id }, link.expiresAt), expiresAt: link.expiresAt };
}

/** Whoever came by a crew's link: crew-lead rights on one crew, written down as the link. */
export const personOfLink = (link: LinkRow): Person => ({
  id: link.id,
  name: `${link.label} (link)`,
  role: 'crew-lead',
  crewId: link.crewId,
});

async function linkBehind(store: DataSource, session: SessionRow, now: Date): Promise<Signed | null> {
  const link = await store.getRepository(LinkEntity).findOneBy({ id: session.linkId! });
  if (link?.kind !== 'crew' || link.revokedAt || link.expiresAt < now) return null;
  return { person: personOfLink(link), expiresAt: link.expiresAt };
}

/** Who is behind a session, and when it ends. */
export interface Signed {
  person: Person;
  expiresAt: Date;
}

/** Who is behind a token, or null. Each contact moves the end of a person's session on; a link's end stands. */
export async function findSession(store: DataSource, token: string, now: Date): Promise<Signed | null> {
  const sessions = store.getRepository(SessionEntity);
  const session = await sessions.findOneBy({ tokenHash: sha256Hex(token) });
  if (!session || session.expiresAt < now) return null;
  if (session.linkId) return linkBehind(store, session, now);
  const user = await store.getRepository(UserEntity).findOneBy({ id: session.userId! });
  if (!user || user.disabled) return null;
  const expiresAt = new Date(now.getTime() + SESSION_MS);
  if (expiresAt.getTime() - session.expiresAt.getTime() > 60_000)
    await sessions.update({ tokenHash: session.tokenHash }, { expiresAt });
  return { person: personOf(user), expiresAt };
}

/** Ends every session of a person, on all their tablets. */
export async function closeSessionsOf(store: DataSource, userId: string): Promise<void> {
  await store.getRepository(SessionEntity).delete({ userId });
}

export async function closeSession(store: DataSource, token: string): Promise<void> {
  await store.getRepository(SessionEntity).delete({ tokenHash: sha256Hex(token) });
}
