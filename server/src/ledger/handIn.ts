import type { Person } from '@careful-seam/contract/api/messages';
import type { DataSource } from 'typeorm';
import { personOf, personOfLink } from '../people/sessions';
import { Refusal } from '../refusals/refusal';
import { LinkEntity, UserEntity } from '../store/entities/people';
import { type Appended, appendEntries, readText } from './appendEntries';

/** An id. */
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** The author of an entry with the rights they had, when they can't send it themselves any more. */
async function silenced(store: DataSource, authorId: string, now: Date): Promise<Person | null> {
  if (!UUID.test(authorId)) return null;
  const user = await store.getRepository(UserEntity).findOneBy({ id: authorId });
  if (user) return user.disabled ? personOf(user) : null;
  const link = await store.getRepository(LinkEntity).findOneBy({ id: authorId });
  const ended = link !== null && (link.revokedAt !== null || link.expiresAt < now);
  return ended ? personOfLink(link) : null;
}

/**
 * Takes in entries of one author whom the firm disabled, or who came by a link that has ended, handed in by a manager
 * from the tablet they stand on. Each entry keeps its author and is judged by that author's rights.
 */
export async function handInEntries(
  store: DataSource,
  showerId: string,
  texts: readonly string[],
  { now, skewMs }: { now: Date; skewMs: number },
): Promise<Appended & { author: Person }> {
  const authors = new Set(texts.map((text) => readText(text).author.id));
  const [authorId] = authors;
  if (authors.size !== 1) throw new Refusal('entries-of-several', 'entries');
  const author = await silenced(store, authorId!, now);
  if (!author) throw new Refusal('person-can-sign-in', 'author');
  const answer = await appendEntries(store, showerId, texts, { person: author, now, skewMs, handingIn: true });
  return { ...answer, author };
}
