import type {
  DefectChoices,
  DefectFilter,
  DefectLine,
  DefectList,
  DefectsAsk,
} from '@careful-seam/contract/api/defects';
import type { Person } from '@careful-seam/contract/api/messages';
import type { DataSource } from 'typeorm';
import { countBehind } from '../facts/behind';
import { defectsWhere, JOB } from './filters';
import type { Names } from './names';

/** Rows of a page. */
const PAGE = 100;
/** Rows of a file. */
export const FILE_AT_MOST = 200_000;

/** By what the list is put in order. */
const ORDERS: Readonly<Record<DefectsAsk['order'], readonly string[]>> = {
  found: ['f.found_at'],
  closed: ['f.closed_at'],
  kind: ['f.kind'],
  crew: ['f.crew'],
  job: [JOB, 'coalesce(f.old_shower, s.name)'],
  severity: [`array_position(ARRAY['stop','fix','note'], f.severity)`],
  cause: ['f.cause'],
  stage: ['f.stage_found'],
};

/** A row as the database gives it. */
type Row = Pick<
  DefectLine,
  'id' | 'showerId' | 'shower' | 'job' | 'madeBy' | 'group' | 'severity' | 'step' | 'element' | 'repeats' | 'words'
> & {
  crew: string | null;
  trade: string | null;
  fixer: string | null;
  inspector: string;
  stageMade: string;
  stageFound: string;
  kind: string;
  check: string;
  cause: string;
  escape: string;
  foundAt: Date;
  closedAt: Date | null;
  hours: number | null;
  materials: number | null;
};

const COLUMNS = `f.id, f.shower_id AS "showerId", coalesce(f.old_shower, s.name) AS shower, coalesce(f.old_job, s.job) AS job, f.made_by AS "madeBy", f.crew, f.trade, f.fixer, f.inspector,
  f.stage_made AS "stageMade", f.stage_found AS "stageFound", f.element, f.element_group AS "group", f.kind, f.check_id AS check, f.severity,
  f.cause, f.escape, f.step, f.found_at AS "foundAt", f.closed_at AS "closedAt", f.hours, f.materials, f.repeats, f.words`;

/** All defects that are told, with their showers; those of an old table have none. */
const FROM = 'FROM known_defect f LEFT JOIN shower s ON s.id = f.shower_id';

/** The crew that whoever asks is held to; null for all. */
export const ownCrewOnly = (person: Person): string | null =>
  person.role === 'crew-lead' ? (person.crewId ?? 'nobody’s') : null;

/** A row in words. Names of inspectors are for managers. */
const lineOf = (row: Row, names: Names, person: Person): DefectLine => ({
  ...row,
  crew: row.madeBy === 'crew' && row.crew !== null ? names.crew(row.crew) : row.trade,
  fixer: row.fixer === null ? null : names.crew(row.fixer),
  inspector: person.role === 'manager' ? row.inspector : null,
  stageMade: names.stage(row.stageMade),
  stageFound: names.stage(row.stageFound),
  stageKey: row.stageFound,
  kind: names.kind(row.kind, row.check),
  cause: row.cause === '' ? '' : names.cause(row.cause),
  escape: row.escape === '' ? '' : names.escape(row.escape),
  foundAt: row.foundAt.toISOString(),
  closedAt: row.closedAt?.toISOString() ?? null,
});

/** Lines of a list: `atMost` of them after `skip`. */
export async function defectLines(
  store: DataSource,
  person: Person,
  ask: DefectsAsk,
  names: Names,
  atMost: number,
): Promise<DefectLine[]> {
  const where = defectsWhere(ask, ownCrewOnly(person));
  const down = ask.down === 'yes' ? 'DESC' : 'ASC';
  const order = ORDERS[ask.order].map((column) => `${column} ${down} NULLS LAST`);
  const rows: Row[] = await store.query(
    `SELECT ${COLUMNS} ${FROM} WHERE ${where.sql}
    ORDER BY ${order.join(', ')}, f.found_at DESC, f.id LIMIT ${atMost} OFFSET ${ask.skip}`,
    where.values,
  );
  return rows.map((row) => lineOf(row, names, person));
}

/** One page of defects, and how many the filter lets through. */
export async function listDefects(
  store: DataSource,
  person: Person,
  ask: DefectsAsk,
  names: Names,
): Promise<DefectList> {
  const where = defectsWhere(ask, ownCrewOnly(person));
  const [{ total }] = await store.query(`SELECT count(*)::int AS total ${FROM} WHERE ${where.sql}`, where.values);
  const lines = await defectLines(store, person, ask, names, PAGE);
  return { lines, total, behind: await countBehind(store) };
}

/** A filter that lets everything through. */
const ALL: DefectFilter = {
  crew: '',
  job: '',
  stage: '',
  made: '',
  kind: '',
  cause: '',
  escape: '',
  severity: '',
  state: '',
  month: '',
  from: '',
  to: '',
  inspector: '',
  group: '',
  method: '',
  q: '',
};

/** What there is to filter by: only what some defect has that this person may see. */
export async function defectChoices(store: DataSource, person: Person, names: Names): Promise<DefectChoices> {
  const where = defectsWhere(ALL, ownCrewOnly(person));
  const distinct = async (column: string): Promise<string[]> => {
    const rows: { x: string | null }[] = await store.query(
      `SELECT DISTINCT ${column} AS x ${FROM} WHERE ${where.sql} ORDER BY 1`,
      where.values,
    );
    return rows.flatMap((r) => (r.x === null || r.x === '' ? [] : [r.x]));
  };
  const named = (ids: readonly string[], name: (id: string) => string) =>
    ids.map((id) => ({ id, label: name(id) })).sort((a, b) => a.label.localeCompare(b.label));
  const stageKeys = new Set(await distinct('f.stage_found'));
  const methods = new Map(names.book.methods.map((m) => [m.key, m.label]));
  return {
    crews: named(await distinct('f.crew'), names.crew),
    jobs: await distinct(JOB),
    stages: names.stages.filter((s) => stageKeys.has(s.key)).map((s) => ({ id: s.key, label: s.label })),
    kinds: named(await distinct('f.kind'), (id) => names.kind(id)),
    causes: named(await distinct('f.cause'), names.cause),
    escapes: named(await distinct('f.escape'), names.escape),
    methods: named(await distinct('f.method'), (key) => methods.get(key) ?? key),
    inspectors: person.role === 'manager' ? await distinct('f.inspector') : [],
    months: (await distinct(`to_char(f.found_on, 'YYYY-MM')`)).reverse(),
  };
}
