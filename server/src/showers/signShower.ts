import type { Person, PushAnswer } from '@careful-seam/contract/api/messages';
import { photosNeeded } from '@careful-seam/core/log/photosNeeded';
import { type DataSource, In } from 'typeorm';
import { appendEntries, readText } from '../ledger/appendEntries';
import { Refusal } from '../people/refusal';
import { checkPassword } from '../people/sessions';
import { PhotoEntity, UserEntity } from '../store/entities';
import { loadShower, visibleShower } from './loadShower';

export interface Signing {
  person: Person;
  showerId: string;
  password: string;
  entry: string;
  now: Date;
  skewMs: number;
}

/**
 * Signs a record: the password once more, every picture arrived, and the ledger head that the person saw still the
 * newest.
 */
export async function signShower(
  store: DataSource,
  { person, showerId, password, entry, now, skewMs }: Signing,
): Promise<PushAnswer> {
  const user = await store.getRepository(UserEntity).findOneByOrFail({ id: person.id });
  await checkPassword(store, user.signIn, password).catch(() => {
    throw new Refusal('password-wrong', 'password', 'That is not your password. Type it again to sign.');
  });
  const loaded = await loadShower(store, await visibleShower(store, person, showerId));
  const needed = photosNeeded(loaded.entries);
  const arrived = needed.length === 0 ? 0 : await store.getRepository(PhotoEntity).countBy({ hash: In(needed) });
  if (arrived < needed.length)
    throw new Refusal(
      'pictures-pending',
      'pictures',
      `${needed.length - arrived} pictures have not arrived yet. Let the tablet send them, then sign.`,
    );
  const read = readText(entry);
  if (read.kind !== 'record-signed')
    throw new Refusal('entry-invalid', 'entry.kind', 'Only a signature can be sent here.');
  const answer = await appendEntries(store, showerId, [entry], { person, now, skewMs, signing: true });
  if (answer.refused) throw new Refusal(answer.refused.code, answer.refused.field, answer.refused.message);
  return answer;
}
