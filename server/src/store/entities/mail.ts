import { EntitySchema } from 'typeorm';

export interface MailRow {
  id: string;
  recipient: string;
  subject: string;
  words: string;
  /** The language it is written in; null in mail that older versions made. */
  language: string | null;
  /** When it was made. */
  madeAt: Date;
  /** When it left by SMTP; null while it waits, and always in the simulated outbox. */
  sentAt: Date | null;
  problem: string | null;
  tries: number;
  /** What it tells of: for that a recipient gets one. */
  about: string | null;
  /** What stands for "{secret}" in its words, a link for one person; gone once it was sent. */
  secret: string | null;
  /** When it is tried next; null while it was not tried, and when it is given up. */
  nextAt: Date | null;
}
export const MailEntity = new EntitySchema<MailRow>({
  name: 'mail',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'mail_pk' },
    recipient: { type: 'text' },
    subject: { type: 'text' },
    words: { type: 'text' },
    language: { type: 'text', nullable: true },
    madeAt: { type: 'timestamptz', name: 'made_at' },
    sentAt: { type: 'timestamptz', name: 'sent_at', nullable: true },
    problem: { type: 'text', nullable: true },
    tries: { type: 'integer', default: 0 },
    about: { type: 'text', nullable: true, default: null },
    secret: { type: 'text', nullable: true },
    nextAt: { type: 'timestamptz', name: 'next_at', nullable: true },
  },
  uniques: [{ name: 'mail_once', columns: ['about', 'recipient'] }],
  indices: [
    { name: 'mail_by_time', columns: ['madeAt'] },
    { name: 'mail_waiting', columns: ['nextAt'], where: 'sent_at IS NULL' },
  ],
});
