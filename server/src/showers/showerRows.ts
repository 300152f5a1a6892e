import type { ShowerRow } from '@careful-seam/contract/api/messages';
import type { DataSource, EntityManager } from 'typeorm';
import type { ShowerHeadRow, ShowerTableRow } from '../store/entities/showers';

/** A shower with the head of its ledger, as nearly everything needs it. */
export type ShowerWithHead = ShowerTableRow & Omit<ShowerHeadRow, 'showerId' | 'moved'>;

export const SHOWER_COLUMNS = `s.id, s.name, s.job, s.crew_id AS "crewId", s.inspector_id AS "inspectorId",
  to_char(s.visit_on, 'YYYY-MM-DD') AS "visitOn", s.book_origin AS "bookOrigin",
  h.head_seq AS "headSeq", encode(h.head_hash, 'hex') AS "headHash", h.updated_at AS "updatedAt", h.is_signed AS "isSigned"`;

/** Showers with their heads: `rest` is what follows the two tables `s` and `h` in the statement, with its values. */
export function showerRows(
  store: Pick<DataSource | EntityManager, 'query'>,
  rest = '',
  values: unknown[] = [],
): Promise<ShowerWithHead[]> {
  return store.query(`SELECT ${SHOWER_COLUMNS} FROM shower s JOIN shower_head h ON h.shower_id = s.id ${rest}`, values);
}

export async function oneShowerRow(
  store: Pick<DataSource | EntityManager, 'query'>,
  id: string,
): Promise<ShowerWithHead | null> {
  return (await showerRows(store, 'WHERE s.id = $1', [id]))[0] ?? null;
}

/** A shower's row as it crosses the wire. */
export const showerAnswer = ({ updatedAt, ...row }: ShowerWithHead): ShowerRow => ({
  ...row,
  updatedAt: updatedAt.toISOString(),
});
