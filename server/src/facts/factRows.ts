import type { Facts } from '@careful-seam/core/crews/facts';
import type { QueryRunner } from 'typeorm';

/** Tables that hold what is counted of showers, each with a shower's id. */
const TABLES = ['defect_fact', 'inspected_fact', 'pass_fact', 'minutes_fact'] as const;

/** A moment of a fact as the database takes it. */
const moment = (ms: number | null): string | null => (ms === null ? null : new Date(ms).toISOString());

/** Defects as rows, by the names of their columns. */
const defectRows = (defects: Facts['defects']) =>
  defects.map((d) => ({
    id: d.id,
    made_by: d.madeBy,
    crew: d.crew,
    trade: d.trade,
    made_by_told: d.madeByTold,
    fixer: d.fixer,
    inspector: d.inspector,
    stage_made: d.stageMade,
    stage_found: d.stageFound,
    element_group: d.group,
    element: d.element,
    kind: d.kind,
    check_id: d.check,
    severity: d.severity,
    cause: d.cause,
    sure: d.sure,
    escape: d.escape,
    step: d.step,
    method: d.method,
    found_at: moment(d.foundMs),
    found_on: d.foundOn,
    assigned_at: moment(d.assignedMs),
    closed_at: moment(d.closedMs),
    hours: d.hours,
    materials: d.materials,
    repeats: d.repeats,
    words: d.words,
  }));

/** Rows into a table, in one statement: the database reads them as the table's own type. */
async function insert(
  runner: QueryRunner,
  table: (typeof TABLES)[number],
  showerId: string,
  rows: readonly object[],
): Promise<void> {
  if (rows.length === 0) return;
  await runner.query(`INSERT INTO ${table} SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1::jsonb)`, [
    JSON.stringify(rows.map((row) => ({ shower_id: showerId, ...row }))),
  ]);
}

/** Puts what is counted of a shower in the place of what was counted before. */
export async function replaceFacts(
  runner: QueryRunner,
  showerId: string,
  method: string,
  { defects, inspected, passes, minutes }: Facts,
): Promise<void> {
  for (const table of TABLES) await runner.query(`DELETE FROM ${table} WHERE shower_id = $1`, [showerId]);
  await insert(runner, 'defect_fact', showerId, defectRows(defects));
  await insert(
    runner,
    'inspected_fact',
    showerId,
    inspected.map(({ group, ...row }) => ({ ...row, element_group: group, method })),
  );
  await insert(
    runner,
    'pass_fact',
    showerId,
    passes.map(({ group, check, ...row }) => ({ ...row, element_group: group, check_id: check })),
  );
  await insert(runner, 'minutes_fact', showerId, minutes);
}
