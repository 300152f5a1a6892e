import { AuditPage, Outbox } from '@careful-seam/contract/api/office';
import { readAudit } from '../audit/audit';
import { SECRET } from '../mail/outbox';
import { MailEntity, type MailRow } from '../store/entities/mail';
import { AuditAsk } from './asks';
import type { Call, Route } from './route';
import { readQuery } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** Mails that are listed. */
const MAIL_AT_MOST = 200;

/** Mail that went out, or would have. */
async function outbox({ services }: Call): Promise<unknown> {
  const rows = await services.store.getRepository(MailEntity).find({ order: { madeAt: 'DESC' }, take: MAIL_AT_MOST });
  // Without a mail server the manager hands a link on by hand; with one it is for its recipient alone.
  const shown = (m: MailRow) => m.words.replaceAll(SECRET, (services.mail === null ? m.secret : null) ?? '…');
  const mail = rows.map((m) => ({
    id: m.id,
    recipient: m.recipient,
    subject: m.subject,
    words: shown(m),
    language: m.language,
    problem: m.problem,
    madeAt: m.madeAt.toISOString(),
    sentAt: m.sentAt?.toISOString() ?? null,
  }));
  return { real: services.mail !== null, mail };
}

/** Deeds, the newest first, page by page. */
async function audit({ req, services }: Call): Promise<unknown> {
  const { before } = readQuery(AuditAsk, req.query);
  const { rows, more } = await readAudit(services.store, before === undefined ? null : new Date(before));
  return { lines: rows.map(({ id, at, who, did, about }) => ({ id, at: at.toISOString(), who, did, about })), more };
}

/** What was mailed, and what the audit holds. */
export const MAIL_ROUTES: readonly Route[] = [
  { ...MANAGING, method: 'get', path: '/api/outbox', summary: 'Mail, newest first', gives: Outbox, answer: outbox },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/audit',
    asks: AuditAsk,
    summary: 'Who saw and did what, newest first (query: before)',
    gives: AuditPage,
    answer: audit,
  },
];
