import type { Person } from '@careful-seam/contract/api/messages';
import type { Entry } from '@careful-seam/core/log/entry';
import type { Arrivals, ShowerState } from '@careful-seam/core/log/state';
import { atMoment, type FindRuleBook, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import type { Language } from '@careful-seam/words/texts/language';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { EntryEntity, type EntryRow } from '../store/entities/showers';
import { loadRuleBooks } from './ruleBooks';
import { isOfCrew, oneShowerRow, type ShowerWithHead, showerRows } from './showerRows';

/** The shower's row, when the person may see it: crew leads see their own crew's only. */
export async function visibleShower(store: DataSource, person: Person, id: string): Promise<ShowerWithHead> {
  const shower = await oneShowerRow(store, id);
  if (!shower) throw new Refusal('no-such-shower', 'showerId');
  if (person.role === 'crew-lead' && !isOfCrew(shower, person.crewId))
    throw new Refusal('another-crews-shower', 'showerId');
  return shower;
}

/** How entries came: what their device's clock was off by, when they were taken in, and whether out of a file. */
export const arrivalsOf = (rows: readonly Pick<EntryRow, 'id' | 'skewMs' | 'receivedAt' | 'imported'>[]): Arrivals =>
  new Map(
    rows.map(({ id, skewMs, receivedAt, imported }) => [id, { skewMs, receivedAtMs: receivedAt.getTime(), imported }]),
  );

export interface LoadedShower {
  row: ShowerWithHead;
  rows: EntryRow[];
  /** The same as entries, in the order in which the server took them. */
  entries: Entry[];
  /** The shower as it stands. */
  state: ShowerState;
}

/** All entries of a shower and the state they fold to, judged at `now` or else at the last entry, by its rules in a language. */
export async function loadShower(
  store: DataSource,
  row: ShowerWithHead,
  now?: Date,
  language: Language = 'en',
): Promise<LoadedShower> {
  const rows = await store
    .getRepository(EntryEntity)
    .find({ where: { showerId: row.id }, order: { ledgerSeq: 'ASC' } });
  const entries = rows.map((r) => JSON.parse(r.text) as Entry);
  const find = (await loadRuleBooks(store))(row.bookOrigin);
  const inLanguage: FindRuleBook = (id, version) => {
    const book = find(id, version);
    return book && translateBook(book, language);
  };
  const state = foldShower(entries, inLanguage, arrivalsOf(rows));
  return { row, rows, entries, state: now ? atMoment(state, now.getTime()) : state };
}

/** As much of an entry's row as a fold needs. */
type FoldedRow = Pick<EntryRow, 'id' | 'showerId' | 'text' | 'receivedAt' | 'skewMs' | 'imported'>;

/** Some showers in one go, each folded when it is asked for: one that can not be folded throws then, and stops none of the others. */
export async function loadShowers(
  store: DataSource,
  ids: readonly string[],
): Promise<(() => Omit<LoadedShower, 'rows'>)[]> {
  const found = await showerRows(store, 'WHERE s.id = ANY($1::uuid[])', [ids]);
  const rows: FoldedRow[] = await store.query(
    `SELECT id, shower_id AS "showerId", text, received_at AS "receivedAt", skew_ms::float8 AS "skewMs", imported
    FROM entry WHERE shower_id = ANY($1::uuid[]) ORDER BY shower_id, ledger_seq`,
    [ids],
  );
  const books = await loadRuleBooks(store);
  const own = new Map<string, FoldedRow[]>();
  for (const row of rows) {
    const list = own.get(row.showerId);
    if (list) list.push(row);
    else own.set(row.showerId, [row]);
  }
  return found.map((row) => () => {
    const mine = own.get(row.id) ?? [];
    const entries = mine.map((r) => JSON.parse(r.text) as Entry);
    return { row, entries, state: foldShower(entries, books(row.bookOrigin), arrivalsOf(mine)) };
  });
}
