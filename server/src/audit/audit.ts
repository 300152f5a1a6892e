import type { Person } from '@careful-seam/contract/api/messages';
import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { AuditEntity, type AuditRow } from '../store/entities/trust';

/** What is written down beside the entries: who saw a record, and what the office did. */
export const DEEDS = [
  'set-up',
  'signed-in',
  'sign-in-failed',
  'refused',
  'password-set',
  'record-read',
  'record-read-by-link',
  'file-out',
  'file-in',
  'record-signed',
  'person-made',
  'person-changed',
  'crew-named',
  'crew-merged',
  'link-made',
  'link-opened',
  'link-revoked',
  'settings-changed',
  'leak-limit-changed',
  'rule-book-published',
  'job-changed',
  'plan-changed',
  'leak-rates-changed',
  'looks-assigned',
  'visit-set',
  'handed-in',
  'mark-made',
  'mark-removed',
  'look-plan-accepted',
  'old-defects-taken',
  'old-defects-removed',
  'blind-look-asked',
  'blind-look-answered',
  'blind-look-ended',
  'backup-made',
  'restored',
] as const;
/** One of them. */
export type Deed = (typeof DEEDS)[number];

/** Who did what. */
export interface AuditNote {
  /** Who did it; nobody for whoever has not signed in. */
  who: Pick<Person, 'id' | 'name'>;
  /** What was done. */
  did: Deed;
  /** Names what it was about, in words or by id. */
  about: string;
  /** More of it, for whoever looks into it. */
  detail?: object;
}

/** Somebody without a sign-in: a guess at the door, a homeowner with a link. */
export const NOBODY = { id: '', name: '' };

/** Notes a deed; it can not be changed afterwards. */
export async function writeAudit(
  store: DataSource,
  { who, did, about, detail = {} }: AuditNote,
  now: Date,
): Promise<void> {
  await store
    .getRepository(AuditEntity)
    .insert({ id: v4(), at: now, whoId: who.id, who: who.name, did, about: about.slice(0, 400), detail });
}

/** Lines of a page. */
const PAGE = 100;

/** One page of the audit, newest first; `before` is the time of the last line seen. */
export async function readAudit(store: DataSource, before: Date | null): Promise<{ rows: AuditRow[]; more: boolean }> {
  const query = store
    .getRepository(AuditEntity)
    .createQueryBuilder('a')
    .orderBy('a.at', 'DESC')
    .take(PAGE + 1);
  const rows = await (before ? query.where('a.at < :before', { before }) : query).getMany();
  return { rows: rows.slice(0, PAGE), more: rows.length > PAGE };
}
