import { createTransport } from 'nodemailer';
import { type DataSource, IsNull, LessThan } from 'typeorm';
import { v4 } from 'uuid';
import type { Environment } from '../environment';
import { MailEntity } from '../store/entities';

const TRIES_AT_MOST = 5;
const A_ROUND = 20;

export interface MailServer {
  /** smtp:// or smtps:// address. */
  url: string;
  from: string;
}

/** The mail server that the firm set, or null: then mail stays in the outbox, where it can be read. */
export function mailServer({ SMTP_URL, MAIL_FROM }: Pick<Environment, 'SMTP_URL' | 'MAIL_FROM'>): MailServer | null {
  return SMTP_URL ? { url: SMTP_URL, from: MAIL_FROM } : null;
}

/** Puts a mail into the outbox. About the same thing a recipient gets one, however often it is asked for. */
export async function queueMail(
  store: DataSource,
  mail: { recipient: string; subject: string; words: string; about?: string },
  now: Date,
): Promise<void> {
  await store
    .getRepository(MailEntity)
    .createQueryBuilder()
    .insert()
    .values({ id: v4(), about: null, ...mail, madeAt: now, sentAt: null, problem: null, tries: 0 })
    .orIgnore()
    .execute();
}

/** Sends what waits; a failure is written beside the mail and tried again, five times at most. Gives the number sent. */
export async function sendMail(store: DataSource, server: MailServer, now: Date): Promise<number> {
  const mails = store.getRepository(MailEntity);
  const waiting = await mails.find({
    where: { sentAt: IsNull(), tries: LessThan(TRIES_AT_MOST) },
    order: { madeAt: 'ASC' },
    take: A_ROUND,
  });
  if (waiting.length === 0) return 0;
  const transport = createTransport(server.url);
  let sent = 0;
  for (const mail of waiting) {
    try {
      await transport.sendMail({ from: server.from, to: mail.recipient, subject: mail.subject, text: mail.words });
      await mails.update({ id: mail.id }, { sentAt: now, problem: null });
      sent += 1;
    } catch (error) {
      const problem = error instanceof Error ? error.message : String(error);
      await mails.update({ id: mail.id }, { tries: mail.tries + 1, problem: problem.slice(0, 400) });
    }
  }
  transport.close();
  return sent;
}
