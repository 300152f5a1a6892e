import { randomBytes } from 'node:crypto';
import type { Person } from '@careful-seam/contract/api/messages';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { hash, verify } from '@node-rs/argon2';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { type LinkRow, SessionEntity, UserEntity, type UserRow } from '../store/entities/people';

/** A session works for 7 days from the last contact. */
export const SESSION_MS = 7 * 24 * 3_600_000;

/** Who it is. */
export const personOf = (user: UserRow): Person => ({
  id: user.id,
  name: user.name,
  role: user.role,
  crewId: user.crewId,
});

/** Argon2id, slow on purpose. */
export function hashPassword(password: string): Promise<string> {
  return hash(password);
}

/** Verified against even when there is no such person, so that time tells nothing. */
const NOBODY = hash('no such person');

/** The person, if the password is right; as slow where there is nobody of that name. */
export async function checkPassword(store: DataSource, signIn: string, password: string): Promise<UserRow> {
  const user = await store.getRepository(UserEntity).findOneBy({ signIn: signIn.toLowerCase() });
  const right = await verify(user?.passwordHash ?? (await NOBODY), password);
  if (!user || user.disabled || !right) throw new Refusal('sign-in-failed', 'password');
  return user;
}

/** Opens a session for a person or a link. */
async function insertSession(
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
  return { token: await insertSession(store, { userId: user.id }, expiresAt), expiresAt };
}

/** Opens the session of somebody who came by a crew's link: it ends with the link. */
export async function openLinkSession(store: DataSource, link: LinkRow): Promise<{ token: string; expiresAt: Date }> {
  return { token: await insertSession(store, { linkId: link.id }, link.expiresAt), expiresAt: link.expiresAt };
}

/** Whoever came by a crew's link: crew-lead rights on one crew, written down as the link. */
export const personOfLink = (link: Pick<LinkRow, 'id' | 'label' | 'crewId'>): Person => ({
  id: link.id,
  name: `${link.label} (link)`,
  role: 'crew-lead',
  crewId: link.crewId,
});

/** Who is behind a session, and when it ends. */
export interface Signed {
  /** Who asks. */
  person: Person;
  /** When it ends by itself. */
  expiresAt: Date;
}

/** A session with whoever is behind it, in one question: every request asks it. */
const SESSION = `SELECT s.expires_at AS "expiresAt", row_to_json(u) AS "user",
    l.id AS "linkId", l.label, l.crew_id AS "linkCrew", l.expires_at AS "linkEnds"
  FROM session s
  LEFT JOIN (SELECT id, name, role, crew_id AS "crewId" FROM firm_user WHERE NOT disabled) u ON u.id = s.user_id
  LEFT JOIN access_link l ON l.id = s.link_id AND l.kind = 'crew' AND l.revoked_at IS NULL
  WHERE s.token_hash = $1`;

/** A session as it is stored. */
interface SessionFound {
  /** When it ends by itself. */
  expiresAt: Date;
  /** Null for a link. */
  user: Person | null;
  /** Null for a person. */
  linkId: string | null;
  /** For whom the link was made. */
  label: string;
  /** The crew whose holds it opens. */
  linkCrew: string | null;
  /** When it ends. */
  linkEnds: Date;
}

/** Who is behind a token, or null. Each contact moves the end of a person's session on; a link's end stands. */
export async function findSession(store: DataSource, token: string, now: Date): Promise<Signed | null> {
  const tokenHash = sha256Hex(token);
  const [found]: SessionFound[] = await store.query(SESSION, [tokenHash]);
  if (!found || found.expiresAt < now) return null;
  if (found.linkId !== null) {
    const { linkId: id, label, linkCrew: crewId, linkEnds: expiresAt } = found;
    return expiresAt < now ? null : { person: personOfLink({ id, label, crewId }), expiresAt };
  }
  if (!found.user) return null;
  const expiresAt = new Date(now.getTime() + SESSION_MS);
  if (expiresAt.getTime() - found.expiresAt.getTime() > 60_000)
    await store.getRepository(SessionEntity).update({ tokenHash }, { expiresAt });
  return { person: found.user, expiresAt };
}

/** Ends every session of a person, on all their tablets. */
export async function closeSessionsOf(store: DataSource, userId: string): Promise<void> {
  await store.getRepository(SessionEntity).delete({ userId });
}

/** Ends a session. */
export async function closeSession(store: DataSource, token: string): Promise<void> {
  await store.getRepository(SessionEntity).delete({ tokenHash: sha256Hex(token) });
}
