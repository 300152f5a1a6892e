import { monthWords } from '@careful-seam/words/sentences/moments';
import { makeWords } from '@careful-seam/words/texts/words';
import { DateTime } from 'luxon';
import type { DataSource } from 'typeorm';
import { monthBefore, monthReport } from '../crews/monthReport';
import { countBehind } from '../facts/behind';
import { readSettings } from '../firm/settings';
import { UserEntity } from '../store/entities/people';
import { queueMail } from './outbox';

/** Mails of one month are told apart by this. */
const aboutMonth = (month: string): string => `month ${month}`;

/**
 * On the first of a month, by the firm's own clock, tells each manager by mail how the month before it was, in the language of that
 * manager. Once, however often it is asked; not before everything is counted. Gives how many mails were made.
 */
export async function mailMonth(store: DataSource, publicUrl: string, now: Date): Promise<number> {
  const { timeZone, language: usual } = await readSettings(store);
  if (DateTime.fromJSDate(now, { zone: timeZone }).day !== 1) return 0;
  const month = monthBefore(now, timeZone);
  const about = aboutMonth(month);
  const managers = (await store.getRepository(UserEntity).findBy({ role: 'manager', disabled: false })).filter(
    (m) => m.email,
  );
  const [{ made }] = await store.query('SELECT count(*)::int AS made FROM mail WHERE about = $1', [about]);
  if (made >= managers.length || (await countBehind(store)) > 0) return 0;
  const [{ showers }] = await store.query('SELECT count(DISTINCT shower_id)::int AS showers FROM projection');
  // A firm that has built nothing yet has no month to be told of.
  if (showers === 0) return 0;
  for (const { email, name, language } of managers) {
    const spoken = language ?? usual;
    const { t } = makeWords(spoken);
    const report = await monthReport(store, month, spoken, now);
    await queueMail(
      store,
      {
        recipient: email!,
        language: spoken,
        subject: t('mail.monthSubject', { month: monthWords(month, spoken) }),
        words: t('mail.monthWords', {
          name,
          says: report.sections.map((s) => `${s.question}\n${s.says.join('\n')}`).join('\n\n'),
          link: `${publicUrl}/across/report?month=${month}`,
          fair: report.fair,
        }),
        about,
      },
      now,
    );
  }
  return managers.length;
}
