import { randomBytes } from 'node:crypto';
import type { Person } from '@careful-seam/contract/api/messages';
import { sha256Hex } from '@careful-seam/core/entries/chain';
import { hash, verify } from '@node-rs/argon2';
import type { DataSource } from 'typeorm';
import { SessionEntity, UserEntity, type UserRow } from '../store/entities';
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

export async function openSession(
  store: DataSource,
  user: UserRow,
  now: Date,
): Promise<{ token: string; expiresAt: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expiresAt = new Date(now.getTime() + SESSION_MS);
  await store.getRepository(SessionEntity).insert({ tokenHash: sha256Hex(token), userId: user.id, expiresAt });
  return { token, expiresAt };
}

/** The signed-in user behind a token, or null. Each contact moves the end of the session on. */
export async function findSession(
  store: DataSource,
  token: string,
  now: Date,
): Promise<{ user: UserRow; expiresAt: Date } | null> {
  const sessions = store.getRepository(SessionEntity);
  const session = await sessions.findOneBy({ tokenHash: sha256Hex(token) });
  if (!session || session.expiresAt < now) return null;
  const user = await store.getRepository(UserEntity).findOneBy({ id: session.userId });
  if (!user || user.disabled) return null;
  const expiresAt = new Date(now.getTime() + SESSION_MS);
  if (expiresAt.getTime() - session.expiresAt.getTime() > 60_000)
    await sessions.update({ tokenHash: session.tokenHash }, { expiresAt });
  return { user, expiresAt };
}

export async function closeSession(store: DataSource, token: string): Promise<void> {
  await store.getRepository(SessionEntity).delete({ tokenHash: sha256Hex(token) });
}
