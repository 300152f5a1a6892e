import { PUSH_AT_MOST, PushAnswer } from '@careful-seam/contract/api/messages';
import { problemWords } from '../ui/words';
import type { Server } from './api';
import type { Database } from './database';
import { acknowledge, type Ports, unsentOf, waiting } from './outbox';

/**
 * Sends what other people wrote on this tablet and can't send themselves any more: they were disabled, or their crew's
 * link has ended. For managers; the server checks each author and writes the hand-in down. Gives the first refusal's
 * sentence, or null.
 */
export async function handInOthers(
  db: Database,
  server: Server,
  managerId: string,
  showerIds: readonly string[],
  ports: Pick<Ports, 'nowMs'>,
): Promise<string | null> {
  for (const id of showerIds) {
    const entries = await unsentOf(db, id);
    const authors = new Set(entries.filter((e) => e.authorId !== managerId).map((e) => e.authorId));
    for (const author of authors) {
      const next = waiting(entries, author).slice(0, PUSH_AT_MOST);
      if (next.length === 0) continue;
      const answer = await server.call(PushAnswer, 'POST', `/api/showers/${id}/hand-in`, {
        clock: new Date(ports.nowMs()).toISOString(),
        entries: next.map((e) => e.text),
      });
      // A refusal here is the manager's to read; the author may still send it.
      await acknowledge(db, id, { ...answer, refused: null }, next);
      if (answer.refused) return problemWords(answer.refused);
    }
  }
  return null;
}
