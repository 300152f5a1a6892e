import type { Entry } from '@careful-seam/core/log/entry';
import type { ShowerState } from '@careful-seam/core/log/state';
import { atMoment, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import type { Language } from '@careful-seam/words/texts/language';
import { bookKey } from './bookKey';
import { type Database, readKept } from './database';
import { arrivalsOf, entriesOf } from './outbox';
import { readStored } from './readStored';
import type { StoredEntry, StoredShower } from './stored';

/** One shower as the screens read it: the local fold, whatever the network does. */
export interface LocalShower {
  /** Its id. */
  id: string;
  /** Its row in the store: how far it has heard, its chains. */
  stored: StoredShower;
  /** All of its entries on this tablet, also those that are set aside. */
  entries: StoredEntry[];
  /** The same entries as they are read, by their hash: one that is sealed anew is another one. Null: it can't be read here. */
  parsed: ReadonlyMap<string, Entry | null>;
  /** How many of them can't be read here, since a later version of this program wrote them: the fold is without them. */
  unread: number;
  /** The shower as it stands now. */
  state: ShowerState;
}

/**
 * Reads a shower from the tablet and works it out at the present moment; null when it is not here. What was parsed when it was
 * worked out last (`held`) is not parsed again.
 */
export async function fold(
  db: Database,
  books: Map<string, RuleBook>,
  id: string,
  held?: LocalShower,
): Promise<LocalShower | null> {
  const stored = await db.get('showers', id);
  if (!stored) return null;
  return worked(stored, await entriesOf(db, id), (await readKept(db)).skewMs, books, held);
}

/**
 * The shower with what was just written on this tablet: what it holds already is not read from the store again. Should the store
 * have got more meanwhile, from another window or a round of sync, that is shown by the refresh that follows it.
 */
export async function foldOn(
  db: Database,
  books: Map<string, RuleBook>,
  held: LocalShower,
  written: readonly StoredEntry[],
): Promise<LocalShower> {
  const stored = (await db.get('showers', held.id)) ?? held.stored;
  const known = new Set(held.entries.map((e) => e.id));
  const entries = [...held.entries, ...written.filter((e) => !known.has(e.id))];
  return worked(stored, entries, (await readKept(db)).skewMs, books, held);
}

/** Folds what counts, judged at this moment. */
function worked(
  stored: StoredShower,
  entries: StoredEntry[],
  skewMs: number,
  books: Map<string, RuleBook>,
  held?: LocalShower,
): LocalShower {
  const origin = stored.row?.bookOrigin ?? '';
  const counted = entries.filter((e) => !e.aside);
  const known = held?.parsed;
  const parsed = new Map(counted.map((e) => [e.hash, known?.has(e.hash) ? known.get(e.hash)! : readStored(e)]));
  const read = counted.flatMap((e) => parsed.get(e.hash) ?? []);
  const folded = foldShower(
    read,
    (book, version) => books.get(bookKey(origin, book, version)) ?? books.get(bookKey('', book, version)) ?? null,
    arrivalsOf(counted, skewMs),
  );
  return {
    id: stored.id,
    stored,
    entries,
    parsed,
    unread: counted.length - read.length,
    state: atMoment(folded, Date.now()),
  };
}

/** Several showers, in the order given; those that are not here are left out. */
export async function foldAll(
  db: Database,
  books: Map<string, RuleBook>,
  ids: Iterable<string>,
  held: ReadonlyMap<string, LocalShower> = new Map(),
): Promise<[string, LocalShower][]> {
  const folded: [string, LocalShower][] = [];
  for (const id of ids) {
    const local = await fold(db, books, id, held.get(id));
    if (local) folded.push([id, local]);
  }
  return folded;
}

/** The rule books on this tablet, in a language. */
export async function readBooks(db: Database, language: Language): Promise<Map<string, RuleBook>> {
  const [keys, values] = [await db.getAllKeys('books'), await db.getAll('books')];
  return new Map(keys.map((key, i) => [String(key), translateBook(values[i]!, language)]));
}
