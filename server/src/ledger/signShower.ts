import type { Person } from '@careful-seam/contract/api/messages';
import { photosNeeded } from '@careful-seam/core/log/photosNeeded';
import { type DataSource, In } from 'typeorm';
import { checkPassword } from '../people/sessions';
import { Refusal } from '../refusals/refusal';
import { loadShower, visibleShower } from '../showers/loadShower';
import { UserEntity } from '../store/entities/people';
import { PhotoEntity } from '../store/entities/pictures';
import { type Appended, appendEntries, readText } from './appendEntries';

/** A signature with its password. */
export interface Signing {
  /** Who asks. */
  person: Person;
  /** Whose record is signed. */
  showerId: string;
  /** Once more. */
  password: string;
  /** As it was sealed. */
  entry: string;
  /** The moment it is asked at. */
  now: Date;
  /** What the clock of the device is off by, ms. */
  skewMs: number;
}

/**
 * Signs a record: the password once more, every picture arrived, and the ledger head that the person saw still the
 * newest.
 */
export async function signShower(
  store: DataSource,
  { person, showerId, password, entry, now, skewMs }: Signing,
): Promise<Appended & { refused: null }> {
  const user = await store.getRepository(UserEntity).findOneByOrFail({ id: person.id });
  await checkPassword(store, user.signIn, password).catch(() => {
    throw new Refusal('password-wrong', 'password');
  });
  const loaded = await loadShower(store, await visibleShower(store, person, showerId));
  const needed = photosNeeded(loaded.entries);
  const arrived = needed.length === 0 ? 0 : await store.getRepository(PhotoEntity).countBy({ hash: In(needed) });
  if (arrived < needed.length) throw new Refusal('pictures-pending', 'pictures', { count: needed.length - arrived });
  const read = readText(entry);
  if (read.kind !== 'record-signed') throw new Refusal('not-a-signature', 'entry.kind');
  const answer = await appendEntries(store, showerId, [entry], { person, now, skewMs, signing: true });
  if (answer.refused) throw Refusal.of(answer.refused);
  return { ...answer, refused: null };
}
