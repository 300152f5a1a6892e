import type { Facts } from '@careful-seam/core/crews/facts';
import type { QueryRunner } from 'typeorm';
import { CREWS_LOCK } from '../store/crewsLock';

/** Tables that hold what is counted of showers, each with a shower's id and the version of the program that counted it. */
export const COUNTED_TABLES = [
  'defect_counted',
  'inspected_counted',
  'pass_counted',
  'minutes_counted',
  'found_counted',
] as const;

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

/** What is counted of one shower, with the method that it is built by. */
export interface Counted {
  /** The shower. */
  showerId: string;
  /** The method that it is built by; empty without rules. */
  method: string;
  /** All that is counted of it. */
  facts: Facts;
}

/** Rows of each table, by the names of its columns. */
const ROWS: Readonly<Record<(typeof COUNTED_TABLES)[number], (counted: Counted) => readonly object[]>> = {
  defect_counted: ({ facts }) => defectRows(facts.defects),
  inspected_counted: ({ facts, method }) =>
    facts.inspected.map(({ group, ...row }) => ({ ...row, element_group: group, method })),
  pass_counted: ({ facts }) =>
    facts.passes.map(({ group, check, ...row }) => ({ ...row, element_group: group, check_id: check })),
  minutes_counted: ({ facts }) => facts.minutes,
  found_counted: ({ facts }) => facts.found,
};

/** Crews that have become part of another, with that other: their past counts as its. */
async function mergedCrews(runner: QueryRunner): Promise<ReadonlyMap<string, string>> {
  // Held still until this is written: a crew that is merged meanwhile finds what was written under its own name.
  await runner.query(`SELECT pg_advisory_xact_lock_shared(${CREWS_LOCK})`);
  const rows: { id: string; into: string }[] = await runner.query(
    'SELECT id, into_crew AS "into" FROM crew WHERE into_crew IS NOT NULL',
  );
  return new Map(rows.map((r) => [r.id, r.into]));
}

/** What is counted, with each crew as the one that it is part of. */
function asMerged(facts: Facts, merged: ReadonlyMap<string, string>): Facts {
  if (merged.size === 0) return facts;
  const now = (crew: string) => merged.get(crew) ?? crew;
  return {
    ...facts,
    defects: facts.defects.map((d) => ({
      ...d,
      crew: d.crew === null ? null : now(d.crew),
      fixer: d.fixer === null ? null : now(d.fixer),
    })),
    inspected: facts.inspected.map((row) => ({ ...row, crew: now(row.crew) })),
  };
}

/** Puts what a version counts of some showers in the place of what it counted before: each table in one statement, read as its own type. */
export async function replaceFacts(runner: QueryRunner, counted: readonly Counted[], version: number): Promise<void> {
  const ids = counted.map((c) => c.showerId);
  const merged = await mergedCrews(runner);
  for (const table of COUNTED_TABLES) {
    await runner.query(`DELETE FROM ${table} WHERE shower_id = ANY($1::uuid[]) AND version = $2`, [ids, version]);
    const rows = counted.flatMap((c) =>
      ROWS[table]({ ...c, facts: asMerged(c.facts, merged) }).map((row) => ({
        shower_id: c.showerId,
        version,
        ...row,
      })),
    );
    if (rows.length > 0)
      await runner.query(`INSERT INTO ${table} SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1::jsonb)`, [
        JSON.stringify(rows),
      ]);
  }
}
