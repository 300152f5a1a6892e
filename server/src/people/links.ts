import { randomBytes } from 'node:crypto';
import type { LinkLine, MadeLink, NewLink } from '@careful-seam/contract/api/office';
import { sha256Hex } from '@careful-seam/core/log/chain';
import type { Language } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { readSettings } from '../firm/settings';
import { queueMail, SECRET } from '../mail/outbox';
import { Refusal } from '../refusals/refusal';
import { CrewEntity, LinkEntity, type LinkRow, UserEntity } from '../store/entities/people';
import { ShowerEntity } from '../store/entities/showers';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A link to a new password lives as long, h. */
const PASSWORD_LINK_HOURS = 72;
/** Links that are listed. */
const LIST_AT_MOST = 200;

/** The page that a link of each kind opens. */
const PAGES = {
  crew: '/crew-link',
  record: '/r',
  password: '/set-password',
  calendar: '/api/calendar',
  device: '/api/device',
} as const;

/** What a link opens. */
type Target = Pick<LinkRow, 'label' | 'crewId' | 'showerId' | 'userId' | 'job'> & {
  hours: number;
  email: string | null;
  /** The language of who gets it, where that is known. */
  language: Language | null;
};

/** What it is to open, refused where that is not there. */
async function targetOf(store: DataSource, wanted: NewLink): Promise<Target> {
  const none = { crewId: null, showerId: null, userId: null, job: null, language: null };
  if (wanted.kind === 'crew') {
    const crew = await store.getRepository(CrewEntity).findOneBy({ id: wanted.crewId });
    if (!crew) throw new Refusal('no-such-crew', 'crewId');
    return { ...none, crewId: crew.id, label: wanted.label, hours: wanted.hours, email: wanted.email };
  }
  if (wanted.kind === 'record') {
    const shower = await store.getRepository(ShowerEntity).findOneBy({ id: wanted.showerId });
    if (!shower) throw new Refusal('no-such-shower', 'showerId');
    return { ...none, showerId: shower.id, label: wanted.label, hours: wanted.days * 24, email: wanted.email };
  }
  if (wanted.kind === 'device') return { ...none, label: wanted.label, hours: wanted.days * 24, email: null };
  if (wanted.kind === 'calendar' && wanted.of.what === 'job') {
    const { job } = wanted.of;
    if (!(await store.getRepository(ShowerEntity).findOneBy({ job }))) throw new Refusal('no-such-job', 'of.job');
    return { ...none, job, label: job, hours: wanted.days * 24, email: null };
  }
  const id = wanted.kind === 'calendar' ? (wanted.of.what === 'person' ? wanted.of.userId : '') : wanted.userId;
  const user = await store.getRepository(UserEntity).findOneBy({ id });
  if (!user) throw new Refusal('no-such-person', 'userId');
  if (wanted.kind === 'calendar')
    return { ...none, userId: user.id, label: user.name, hours: wanted.days * 24, email: null };
  const { id: userId, name: label, email, language } = user;
  return { ...none, userId, label, hours: PASSWORD_LINK_HOURS, email, language };
}

/** Makes a link with a random code, told once. With an address it also goes into the outbox. */
export async function makeLink(
  store: DataSource,
  wanted: NewLink,
  { by, now, origin }: { by: string; now: Date; origin: string },
): Promise<MadeLink> {
  const { hours, email, language, ...target } = await targetOf(store, wanted);
  const code = randomBytes(24).toString('base64url');
  const expiresAt = new Date(now.getTime() + hours * HOUR_MS);
  const row = {
    id: v4(),
    kind: wanted.kind,
    codeHash: sha256Hex(code),
    ...target,
    createdBy: by,
    createdAt: now,
    expiresAt,
  };
  await store.getRepository(LinkEntity).insert({ ...row, revokedAt: null, lastUsedAt: null, uses: 0 });
  const path = `${PAGES[wanted.kind]}/${code}${wanted.kind === 'device' ? '/readings' : ''}`;
  if (email) {
    const spoken = language ?? (await readSettings(store)).language;
    const { t } = makeWords(spoken);
    const until = expiresAt.toISOString().slice(0, 16).replace('T', ' ');
    const subject = t(`mail.${wanted.kind}Subject`, { label: target.label });
    await queueMail(
      store,
      {
        recipient: email,
        language: spoken,
        subject,
        words: t(`mail.${wanted.kind}Words`, { link: SECRET, until }),
        secret: `${origin}${path}`,
      },
      now,
    );
  }
  return { id: row.id, path, expiresAt: expiresAt.toISOString(), mailed: email !== null };
}

/**
 * The link behind a code, counted as used in the same breath, so that a code that works once works once, whoever tries it
 * beside. Guessed, revoked and expired ones are one and the same to the caller.
 */
export async function useLink(store: DataSource, kind: LinkRow['kind'], code: string, now: Date): Promise<LinkRow> {
  const [used]: [{ id: string }[], number] = await store.query(
    `UPDATE access_link SET uses = uses + 1, last_used_at = $3, revoked_at = CASE WHEN kind = 'password' THEN $3 ELSE revoked_at END
    WHERE code_hash = $1 AND kind = $2 AND revoked_at IS NULL AND expires_at >= $3 RETURNING id`,
    [sha256Hex(code), kind, now],
  );
  if (!used[0]) throw new Refusal('link-ended', 'code');
  return store.getRepository(LinkEntity).findOneByOrFail({ id: used[0].id });
}

/** Ends a link at once: sessions that came by it are refused from now on. */
export async function revokeLink(store: DataSource, id: string, now: Date): Promise<LinkRow> {
  const links = store.getRepository(LinkEntity);
  const row = await links.findOneBy({ id });
  if (!row) throw new Refusal('no-such-link', 'link');
  if (!row.revokedAt) await links.update({ id }, { revokedAt: now });
  return row;
}

/** The newest links, with what each opens and who made it. */
export async function listLinks(store: DataSource): Promise<LinkLine[]> {
  const rows: (Omit<LinkLine, 'createdAt' | 'expiresAt' | 'revokedAt' | 'lastUsedAt'> & Record<string, Date | null>)[] =
    await store.query(
      `SELECT l.id, l.kind, l.label, coalesce(c.name, s.name || ', ' || s.job, p.name, l.job, '') AS about, coalesce(u.name, '') AS "madeBy",
        l.created_at AS "createdAt", l.expires_at AS "expiresAt", l.revoked_at AS "revokedAt", l.last_used_at AS "lastUsedAt", l.uses
      FROM access_link l LEFT JOIN crew c ON c.id = l.crew_id LEFT JOIN shower s ON s.id = l.shower_id
        LEFT JOIN firm_user p ON p.id = l.user_id LEFT JOIN firm_user u ON u.id = l.created_by
      ORDER BY l.created_at DESC LIMIT $1`,
      [LIST_AT_MOST],
    );
  const iso = (at: Date | null | undefined) => at?.toISOString() ?? null;
  return rows.map((r) => ({
    ...r,
    createdAt: iso(r.createdAt)!,
    expiresAt: iso(r.expiresAt)!,
    revokedAt: iso(r.revokedAt),
    lastUsedAt: iso(r.lastUsedAt),
  }));
}
