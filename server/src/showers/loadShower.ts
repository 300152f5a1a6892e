import type { Person } from '@careful-seam/contract/api/messages';
import type { Entry } from '@careful-seam/core/log/entry';
import type { Arrivals, ShowerState } from '@careful-seam/core/log/state';
import { atMoment, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import type { DataSource } from 'typeorm';
import { Refusal } from '../people/refusal';
import { EntryEntity, type EntryRow } from '../store/entities';
import { loadRuleBooks } from './ruleBooks';
import { oneShowerRow, type ShowerWithHead } from './showerRows';

/** The shower's row, when the person may see it: crew leads see their own crew's only. */
export async function visibleShower(store: DataSource, person: Person, id: string): Promise<ShowerWithHead> {
  const shower = await oneShowerRow(store, id);
  if (!shower) throw new Refusal('no-such-shower', 'showerId');
  if (person.role === 'crew-lead' && shower.crewId !== person.crewId)
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
  entries: Entry[];
  state: ShowerState;
}

/** All entries of a shower and the state they fold to, judged at `now` or else at the last entry. */
export async function loadShower(store: DataSource, row: ShowerWithHead, now?: Date): Promise<LoadedShower> {
  const rows = await store
    .getRepository(EntryEntity)
    .find({ where: { showerId: row.id }, order: { ledgerSeq: 'ASC' } });
  const entries = rows.map((r) => JSON.parse(r.text) as Entry);
  const state = foldShower(entries, (await loadRuleBooks(store))(row.bookOrigin), arrivalsOf(rows));
  return { row, rows, entries, state: now ? atMoment(state, now.getTime()) : state };
}
