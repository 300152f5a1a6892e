import type { ShowerRow } from '@careful-seam/contract/api/messages';
import type { DataSource, EntityManager } from 'typeorm';
import type { ShowerHeadRow, ShowerTableRow } from '../store/entities/showers';

/** A shower with the head of its ledger, as nearly everything needs it. */
export type ShowerWithHead = ShowerTableRow & Omit<ShowerHeadRow, 'showerId' | 'moved'>;

/** Condition for showers of a crew: its own, and those of which a stage was handed to it. `s` is `shower`, `crew` a value of the statement. */
export const ofCrew = (crew: string, s = 's.'): string =>
  `(${s}crew_id = ${crew} OR ${s}also_crews @> ARRAY[${crew}]::text[] AND ${s}also_crews <> '{}')`;

/** Whether a shower is a crew's. */
export const isOfCrew = (
  { crewId, alsoCrews }: Pick<ShowerTableRow, 'crewId' | 'alsoCrews'>,
  crew: string | null,
): boolean => crew !== null && (crewId === crew || alsoCrews.includes(crew));

export const SHOWER_COLUMNS = `s.id, s.name, s.job, s.crew_id AS "crewId", s.also_crews AS "alsoCrews", s.inspector_id AS "inspectorId",
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
export const showerAnswer = ({ updatedAt, alsoCrews: _also, ...row }: ShowerWithHead): ShowerRow => ({
  ...row,
  updatedAt: updatedAt.toISOString(),
});
