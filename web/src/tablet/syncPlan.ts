import { BATCH_AT_MOST } from '@careful-seam/contract/api/sync';
import type { StoredEntry, StoredShower } from './stored';

/** What a tablet knows when a round has heard what moved; nothing of it is read for the plan alone. */
export interface Known {
  /** Showers with entries that the server has not acknowledged, each once. */
  waiting: readonly string[];
  /** Showers of which the server has more than is here. */
  behind: readonly StoredShower[];
  /** The server was restored from a backup: what it still has need not be sent. */
  restored: boolean;
  /** The firm's newest rule book and the one that is here, with the epoch that each was heard under. */
  epoch: string | null;
  /** As the server told last; null before it. */
  newestBook: { id: string; version: number } | null;
  /** The mark of the one that is here; null for none. */
  book: string | null;
}

/** What a round does next. Each stands by itself: one that fails holds no other up. */
export type Step =
  /** Sends what waits of a shower. */
  | { do: 'push'; shower: string }
  /** Fetches the newest rule book; `mark` says afterwards that it is here. */
  | { do: 'book'; version: number; mark: string }
  /** Fetches what the server has more of these showers, in one answer. */
  | { do: 'pull'; showers: readonly string[] };

/** What is wanted first: visits that are due by their day, then what this person is to look at, then the newest change. */
function inOrderOfNeed(showers: readonly StoredShower[], personId: string): StoredShower[] {
  const need = ({ row }: StoredShower): string =>
    row === null ? '9' : row.visitOn !== null ? `0 ${row.visitOn}` : row.inspectorId === personId ? '1' : '2';
  return [...showers].sort(
    (a, b) => need(a).localeCompare(need(b)) || (b.row?.updatedAt ?? '').localeCompare(a.row?.updatedAt ?? ''),
  );
}

/**
 * A round from what is known at its beginning: what was typed here goes first, before anything that may take long on a bad
 * network; then the newest rule book, so that the first showers that come can be shown; then what others wrote, what is needed
 * first at the front. After a restore what the server still has is heard first, or all of it would be sent again.
 */
export function planRound(known: Known, personId: string): Step[] {
  const push = known.waiting.map((shower): Step => ({ do: 'push', shower }));
  const { newestBook, epoch, book } = known;
  const mark = newestBook && `${epoch} ${newestBook.id}@${newestBook.version}`;
  const fetchBook: Step[] = mark && book !== mark ? [{ do: 'book', version: newestBook.version, mark }] : [];
  const wanted = inOrderOfNeed(known.behind, personId).map((s) => s.id);
  const pull: Step[] = [];
  for (let from = 0; from < wanted.length; from += BATCH_AT_MOST)
    pull.push({ do: 'pull', showers: wanted.slice(from, from + BATCH_AT_MOST) });
  return known.restored ? [...fetchBook, ...pull, ...push] : [...push, ...fetchBook, ...pull];
}

/** What keeps the entries of a person from being taken, and how a tablet heals it by itself. */
export type Healing = 'clock' | 'name' | 'chain';

/** Refusals that a tablet heals, by their codes. What stands in none of them is for a person to decide. */
const HEALED: Readonly<Record<string, Healing>> = {
  'clock-ahead': 'clock',
  'author-renamed': 'name',
  'chain-broken': 'chain',
  'chain-gap': 'chain',
};

/** How what a person wrote on a shower is healed, after the server refused some of it; null where nothing is to be healed. */
export function healingOf(
  unsent: readonly Pick<StoredEntry, 'authorId' | 'ledgerSeq' | 'refused'>[],
  personId: string,
): Healing | null {
  const refused = unsent.filter((e) => e.authorId === personId && e.ledgerSeq === null && e.refused !== null);
  const found = refused.flatMap((e) => (Object.hasOwn(HEALED, e.refused!.code) ? HEALED[e.refused!.code]! : []));
  // A clock that is off says nothing of the chain: it is healed first, and what is left is asked again.
  return (['clock', 'name', 'chain'] as const).find((healing) => found.includes(healing)) ?? null;
}
