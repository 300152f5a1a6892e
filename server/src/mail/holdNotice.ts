import type { Entry } from '@careful-seam/core/log/entry';
import { makeWords } from '@careful-seam/words/texts/words';
import type { DataSource } from 'typeorm';
import { readSettings } from '../firm/settings';
import { UserEntity } from '../store/entities/people';
import { EntryEntity, ShowerEntity } from '../store/entities/showers';
import { queueMail } from './outbox';

/** Tells the leads of a crew by mail that a defect was given to them. Those without an address see it on their phone. */
export async function noticeAssigned(
  store: DataSource,
  showerId: string,
  entryIds: readonly string[],
  now: Date,
): Promise<void> {
  for (const id of entryIds) {
    const row = await store.getRepository(EntryEntity).findOneBy({ showerId, id, kind: 'defect-assigned' });
    if (!row) continue;
    const { body, author } = JSON.parse(row.text) as Extract<Entry, { kind: 'defect-assigned' }>;
    const shower = await store.getRepository(ShowerEntity).findOneByOrFail({ id: showerId });
    const leads = await store.getRepository(UserEntity).findBy({ crewId: body.crewId, disabled: false });
    const firm = (await readSettings(store)).language;
    for (const { email, name, language } of leads) {
      if (!email) continue;
      const spoken = language ?? firm;
      const { t } = makeWords(spoken);
      await queueMail(
        store,
        {
          recipient: email,
          language: spoken,
          subject: t('mail.holdSubject', { shower: shower.name, job: shower.job }),
          words: t('mail.holdWords', {
            name,
            shower: shower.name,
            job: shower.job,
            author: author.name,
            words: body.words ?? '',
            due: body.due ? t('mail.due', { day: body.due }) : '',
          }),
          about: id,
        },
        now,
      );
    }
  }
}
