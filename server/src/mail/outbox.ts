import { LINK_NOT_KEPT } from '@careful-seam/contract/api/office';
import type { Language } from '@careful-seam/words/texts/language';
import { createTransport, type Transporter } from 'nodemailer';
import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import type { Environment } from '../environment/environment';
import { MailEntity } from '../store/entities/mail';

/** Mails that are sent in one go. */
const A_ROUND = 20;

/** How mail goes out. */
export interface MailServer {
  /** smtp:// or smtps:// address. */
  url: string;
  /** Who it is from. */
  from: string;
}

/** The mail server that the firm set, or null: then mail stays in the outbox, where it can be read. */
export function mailServer({ SMTP_URL, MAIL_FROM }: Pick<Environment, 'SMTP_URL' | 'MAIL_FROM'>): MailServer | null {
  return SMTP_URL ? { url: SMTP_URL, from: MAIL_FROM } : null;
}

/** Where the secret of a mail stands in its words. */
export const SECRET = '{secret}';

/** What is written to somebody. */
export interface Letter {
  recipient: string;
  subject: string;
  words: string;
  /** The language of its subject and words: the reader's. */
  language: Language;
  /** What it tells of: about it a recipient gets one. */
  about?: string;
  /** What stands for "{secret}" in its words when it is sent. */
  secret?: string;
}

/** Puts a mail into the outbox. About the same thing a recipient gets one, however often it is asked for. */
export async function queueMail(store: DataSource, mail: Letter, now: Date): Promise<void> {
  await store
    .getRepository(MailEntity)
    .createQueryBuilder()
    .insert()
    .values({
      id: v4(),
      about: null,
      secret: null,
      ...mail,
      madeAt: now,
      nextAt: now,
      sentAt: null,
      problem: null,
      tries: 0,
    })
    .orIgnore()
    .execute();
}

/** A minute, ms. */
const MINUTE_MS = 60_000;
/** Minutes until the next try, after the first, the second, …; then as the last of them. */
const AGAIN_AFTER = [1, 5, 15, 60, 180, 360, 720];
/** A mail server that is down over a weekend is no reason to lose a mail: this long it is tried. */
const TRIED_FOR_MS = 5 * 24 * 60 * MINUTE_MS;

/** When a mail is tried again after so many failures; null: it is given up, and stands on the outbox page. */
export function nextTry(tries: number, madeAt: Date, now: Date): Date | null {
  const minutes = AGAIN_AFTER[Math.min(tries, AGAIN_AFTER.length) - 1] ?? AGAIN_AFTER[0]!;
  const next = new Date(now.getTime() + minutes * MINUTE_MS);
  return next.getTime() - madeAt.getTime() > TRIED_FOR_MS ? null : next;
}

/** One mail that is due and that no other server holds, under its lock until it was sent or put off. */
async function sendNext(store: DataSource, transport: Transporter, from: string, now: Date): Promise<boolean | null> {
  return store.transaction(async (tx) => {
    const [row]: { id: string }[] = await tx.query(
      `SELECT id FROM mail WHERE sent_at IS NULL AND coalesce(next_at, made_at) <= $1 AND (next_at IS NOT NULL OR tries = 0)
      ORDER BY made_at LIMIT 1 FOR UPDATE SKIP LOCKED`,
      [now],
    );
    if (!row) return null;
    const mails = tx.getRepository(MailEntity);
    const mail = await mails.findOneByOrFail({ id: row.id });
    if (mail.words.includes(SECRET) && mail.secret === null) {
      const problem = LINK_NOT_KEPT;
      await mails.update({ id: mail.id }, { tries: mail.tries + 1, nextAt: null, problem });
      return false;
    }
    try {
      const text = mail.words.replaceAll(SECRET, mail.secret ?? '');
      await transport.sendMail({ from, to: mail.recipient, subject: mail.subject, text });
      await mails.update({ id: mail.id }, { sentAt: now, problem: null, secret: null, nextAt: null });
      return true;
    } catch (error) {
      const problem = (error instanceof Error ? error.message : String(error)).slice(0, 400);
      const tries = mail.tries + 1;
      await mails.update({ id: mail.id }, { tries, problem, nextAt: nextTry(tries, mail.madeAt, now) });
      return false;
    }
  });
}

/**
 * Sends what is due; a failure is written beside the mail and tried again, after minutes first and hours then, for five days.
 * Two servers never send the same one. Gives the number sent.
 */
export async function sendMail(store: DataSource, server: MailServer, now: Date): Promise<number> {
  const transport = createTransport({ url: server.url, connectionTimeout: 10_000, socketTimeout: 20_000 } as never);
  let sent = 0;
  try {
    for (let k = 0; k < A_ROUND; k += 1) {
      const done = await sendNext(store, transport, server.from, now);
      if (done === null) break;
      if (done) sent += 1;
    }
  } finally {
    transport.close();
  }
  return sent;
}
