import type {
  NewOldTable,
  OldMappingBody,
  OldTableAsk,
  OldTableRead,
  OldTableRow,
} from '@careful-seam/contract/api/oldDefects';
import { OLD_ROWS_AT_MOST } from '@careful-seam/contract/api/oldDefects';
import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { SEVERITIES } from '@careful-seam/core/rules/checks/checkBase';
import {
  OLD_FIELDS_NAMED,
  type OldDefect,
  type OldMapping,
  type OldNamedField,
  type OldNames,
  type OldTable,
  readOldDefects,
  sameOldDefect,
} from '@careful-seam/files/oldDefects';
import { LANGUAGES } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import { DateTime } from 'luxon';
import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { readSettings } from '../firm/settings';
import { Refusal } from '../refusals/refusal';
import { CREWS_LOCK } from '../store/crewsLock';
import { sha256 } from '../store/sha256';
import { type Names, namesIn } from './names';

/** Cells that can't be taken, and rows as they would stand, that are shown. */
const [PROBLEMS_SHOWN, PREVIEW] = [50, 6];
/** Rows written in one statement. */
const AT_A_TIME = 2000;

/** Ids with a name. */
type Labelled = readonly { id: string; label: string }[];

/** What each field's words can name, in one language. */
function labelsIn(names: Names, t: ReturnType<typeof makeWords>['t']): Record<OldNamedField, Labelled> {
  const stages = names.stages.map((s) => ({ id: s.key, label: s.label }));
  return {
    kind: names.book.defectKinds,
    crew: [...names.crews].map(([id, label]) => ({ id, label })),
    severity: SEVERITIES.map((id) => ({ id, label: t(`severity.${id}`) })),
    stageFound: stages,
    stageMade: stages,
    group: ELEMENT_GROUPS.map((id) => ({ id, label: t(`elementGroup.${id}`) })),
    cause: names.book.causes,
    escape: names.book.escapes,
  };
}

/** What each field's words can name, in all languages at once: tables are written in any. */
async function allNames(store: DataSource): Promise<OldNames> {
  const spoken = await Promise.all(
    LANGUAGES.map(async (language) => labelsIn(await namesIn(store, language), makeWords(language).t)),
  );
  const of = (field: OldNamedField) => {
    const called = new Map<string, string[]>();
    for (const labels of spoken)
      for (const { id, label } of labels[field]) called.set(id, [...(called.get(id) ?? []), label]);
    return [...called].map(([id, names]) => ({ id, names }));
  };
  return Object.fromEntries(OLD_FIELDS_NAMED.map((field) => [field, of(field)])) as unknown as OldNames;
}

/** What a mapping says, with fields that nobody knows left out. */
function mappingOf(body: OldMappingBody | undefined): OldMapping {
  const isNamed = (field: string): field is OldNamedField => (OLD_FIELDS_NAMED as readonly string[]).includes(field);
  return {
    columns: body?.columns,
    days: body?.days,
    meanings: body?.meanings?.flatMap(({ field, ...m }) => (isNamed(field) ? [{ ...m, field }] : [])),
  };
}

/** The mapping of the last table that had these headings. */
async function rememberedMapping(store: DataSource, heads: readonly string[]): Promise<OldMappingBody | null> {
  const [last] = await store.query(
    'SELECT mapping FROM old_table WHERE heads = $1::jsonb ORDER BY taken_at DESC LIMIT 1',
    [JSON.stringify(heads)],
  );
  return last?.mapping ?? null;
}

/** A table as it would be taken, its rows parted into those that are new and those that say what is known. */
interface Looked {
  table: OldTable;
  /** How it was read. */
  mapping: OldMappingBody;
  remembered: boolean;
  /** Rows that are taken, each with what tells it from the others. */
  fresh: { defect: OldDefect; fingerprint: string }[];
  twice: OldTableRead['twice'];
}

/** Reads a table, and finds what in it is known already. */
async function look(store: DataSource, { text, mapping: told }: OldTableAsk, now: Date): Promise<Looked> {
  const names = await allNames(store);
  const { timeZone } = await readSettings(store);
  const today = DateTime.fromJSDate(now, { zone: timeZone }).toISODate() ?? now.toISOString().slice(0, 10);
  const read = (body: OldMappingBody | undefined) => readOldDefects(text, mappingOf(body), names, today);
  const first = read(told);
  if (first.rows > OLD_ROWS_AT_MOST)
    throw new Refusal('old-table-long', 'text', { rows: first.rows, most: OLD_ROWS_AT_MOST });
  const remembered = told ? null : await rememberedMapping(store, first.heads);
  const table = remembered ? read(remembered) : first;
  const rows = table.defects.map((defect) => ({ defect, fingerprint: sha256(sameOldDefect(defect)) }));
  const taken = new Set<string>(
    (
      await store.query('SELECT fingerprint FROM old_defect WHERE fingerprint = ANY($1)', [
        rows.map((r) => r.fingerprint),
      ])
    ).map((r: { fingerprint: string }) => r.fingerprint),
  );
  // Written down in a shower's own record too: the same shower, day and kind.
  const recorded = new Set<number>(
    (
      await store.query(
        `SELECT DISTINCT r.line FROM jsonb_to_recordset($1::jsonb) AS r(line integer, shower text, job text, found date, kind text)
        JOIN shower s ON lower(s.name) = lower(r.shower) AND (r.job = '' OR lower(s.job) = lower(r.job))
        JOIN defect_fact f ON f.shower_id = s.id AND f.found_on = r.found AND f.kind = r.kind`,
        [JSON.stringify(table.defects)],
      )
    ).map((r: { line: number }) => r.line),
  );
  const seen = new Set<string>();
  const twice = { here: 0, taken: 0, recorded: 0 };
  const fresh = rows.filter(({ defect, fingerprint: key }) => {
    const why = seen.has(key) ? 'here' : taken.has(key) ? 'taken' : recorded.has(defect.line) ? 'recorded' : null;
    seen.add(key);
    if (why) twice[why] += 1;
    return why === null;
  });
  return { table, mapping: remembered ?? told ?? {}, remembered: remembered !== null, fresh, twice };
}

/** How a table would be taken; nothing of it is kept. */
export async function lookAtOldTable(
  store: DataSource,
  ask: OldTableAsk,
  names: Names,
  t: ReturnType<typeof makeWords>['t'],
  now: Date,
): Promise<OldTableRead> {
  const { table, mapping, remembered, fresh, twice } = await look(store, ask, now);
  const { heads, columns, days, daysSure, rows, problems, unknown } = table;
  const named = Object.entries(labelsIn(names, t)).map(([field, list]) => [
    field,
    list.map(({ id, label }) => ({ id, label })),
  ]);
  return {
    ...{ heads, columns, days, daysSure, rows, twice, remembered },
    meanings: mapping.meanings ?? [],
    good: fresh.length,
    problems: problems.slice(0, PROBLEMS_SHOWN),
    problemCount: problems.length,
    unknown: unknown.slice(0, PROBLEMS_SHOWN).map((u) => ({ ...u, word: u.word.slice(0, 200) })),
    preview: fresh.slice(0, PREVIEW).map(({ defect: d }) => ({
      line: d.line,
      found: d.found,
      kind: names.kind(d.kind),
      crew: d.crew === '' ? '' : names.crew(d.crew),
      shower: [d.shower, d.job].filter((w) => w !== '').join(', '),
    })),
    names: Object.fromEntries(named),
  };
}

/** Noon of a day, in UTC: nobody wrote down the hour. */
const noon = (day: string | null): string | null => (day === null ? null : `${day}T12:00:00Z`);

/** Takes a table in, all of it or nothing: rows that can't be read are left out only where somebody says so. */
export async function takeOldTable(
  store: DataSource,
  ask: NewOldTable,
  by: string,
  now: Date,
): Promise<{ id: string; taken: number; leftOut: number }> {
  const { table, mapping, fresh, twice } = await look(store, ask, now);
  const known = twice.here + twice.taken + twice.recorded;
  const bad = table.rows - table.defects.length;
  if (bad > 0 && !ask.leaveOut) throw new Refusal('old-table-rows', 'leaveOut', { count: bad });
  if (fresh.length === 0) throw new Refusal('old-table-empty', 'text');
  const id = v4();
  const kept = { ...mapping, columns: table.columns, days: table.days };
  return store.transaction(async (all) => {
    // A crew that is part of another by now is written down as that one, and none is merged meanwhile.
    await all.query(`SELECT pg_advisory_xact_lock_shared(${CREWS_LOCK})`);
    const merged = new Map<string, string>(
      (await all.query('SELECT id, into_crew AS "into" FROM crew WHERE into_crew IS NOT NULL')).map(
        (c: { id: string; into: string }) => [c.id, c.into],
      ),
    );
    await all.query(
      'INSERT INTO old_table (id, name, taken_by, taken_at, heads, mapping) VALUES ($1, $2, $3, $4, $5::jsonb, $6::jsonb)',
      [id, ask.name, by, now, JSON.stringify(table.heads), JSON.stringify(kept)],
    );
    const rows = fresh.map(({ defect: d, fingerprint }) => ({
      ...{
        id: v4(),
        table_id: id,
        fingerprint,
        shower: d.shower,
        job: d.job,
        crew: merged.get(d.crew) ?? d.crew,
        kind: d.kind,
      },
      ...{ severity: d.severity, stage_made: d.stageMade, stage_found: d.stageFound, element_group: d.group },
      ...{ cause: d.cause, escape: d.escape, found_at: noon(d.found), found_on: d.found, closed_at: noon(d.closed) },
      ...{ hours: d.hours, materials: d.materials, words: d.words },
    }));
    let taken = 0;
    for (let at = 0; at < rows.length; at += AT_A_TIME) {
      // Two who take the same table at once: each row once.
      const made: unknown[] = await all.query(
        `INSERT INTO old_defect SELECT * FROM jsonb_populate_recordset(NULL::old_defect, $1::jsonb)
        ON CONFLICT (fingerprint) DO NOTHING RETURNING id`,
        [JSON.stringify(rows.slice(at, at + AT_A_TIME))],
      );
      taken += made.length;
    }
    return { id, taken, leftOut: bad + known + rows.length - taken };
  });
}

/** Tables that were taken, the newest first. */
export async function oldTables(store: DataSource): Promise<OldTableRow[]> {
  const rows: (Omit<OldTableRow, 'at'> & { at: Date })[] = await store.query(
    `SELECT t.id, t.name, t.taken_by AS by, t.taken_at AS at, count(d.id)::int AS defects
    FROM old_table t LEFT JOIN old_defect d ON d.table_id = t.id GROUP BY t.id ORDER BY t.taken_at DESC`,
  );
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}

/** Takes a table out again, with all that came of it. Gives its name. */
export async function removeOldTable(store: DataSource, id: string): Promise<string> {
  const [rows] = await store.query('DELETE FROM old_table WHERE id = $1 RETURNING name', [id]);
  if (rows.length === 0) throw new Refusal('no-such-table', 'id');
  return rows[0].name;
}
