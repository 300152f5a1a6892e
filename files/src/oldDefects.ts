import type { ElementGroup } from '@careful-seam/core/crews/elementGroup';
import Papa from 'papaparse';
import { type DayOrder, dayOrderOf, plain, readDay, readFigure } from './tableCells';

/** What is known of a defect that was written down before this program: the fields that columns of a table can be. */
export const OLD_FIELDS = [
  'found',
  'kind',
  'job',
  'shower',
  'crew',
  'severity',
  'stageFound',
  'stageMade',
  'group',
  'cause',
  'escape',
  'closed',
  'hours',
  'materials',
  'words',
] as const;
/** One of them. */
export type OldField = (typeof OLD_FIELDS)[number];
/** Without these a row is no defect that could be counted. */
export const OLD_FIELDS_NEEDED: readonly OldField[] = ['found', 'kind'];
/** Fields whose words stand for something that the firm has a name for. */
export const OLD_FIELDS_NAMED = [
  'kind',
  'crew',
  'severity',
  'stageFound',
  'stageMade',
  'group',
  'cause',
  'escape',
] as const satisfies readonly OldField[];
/** One of them. */
export type OldNamedField = (typeof OLD_FIELDS_NAMED)[number];

/** What somebody chose of how a table is to be read; what is left out is found as well as it can be. */
export interface OldMapping {
  /** Which column each field stands in, from 0 on; null for none. */
  columns?: Readonly<Partial<Record<OldField, number | null>>> | undefined;
  /** How days are written. */
  days?: DayOrder | undefined;
  /** What words mean that no name is like: the id, or empty for "leave it empty". */
  meanings?: readonly { field: OldNamedField; word: string; id: string }[] | undefined;
}

/** Names that a field's words can be: an id with all it is called. */
export type OldNames = Readonly<Record<OldNamedField, readonly { id: string; names: readonly string[] }[]>>;

/** A defect of a table, in the firm's ids; empty words where nobody said. */
export interface OldDefect {
  /** Line of the table it stands in; the headings are line 1. */
  line: number;
  /** Day it was found, ISO 8601. */
  found: string;
  kind: string;
  job: string;
  shower: string;
  crew: string;
  severity: 'stop' | 'fix' | 'note';
  stageFound: string;
  stageMade: string;
  group: ElementGroup;
  cause: string;
  escape: string;
  /** Day it was put right, or null: nobody knows. */
  closed: string | null;
  hours: number | null;
  materials: number | null;
  words: string;
}

/** What can be wrong with a cell. */
export const OLD_PROBLEMS = [
  'missing',
  'day-unreadable',
  'day-to-come',
  'day-too-early',
  'closed-before-found',
  'number-unreadable',
  'number-impossible',
  'too-long',
] as const;
/** A cell that can't be taken. */
export interface OldProblem {
  line: number;
  field: OldField;
  /** As it stands in the table. */
  cell: string;
  why: (typeof OLD_PROBLEMS)[number];
}

/** A table as it was read. */
export interface OldTable {
  /** Headings, in their order. */
  heads: string[];
  /** Which column each field was read from. */
  columns: Partial<Record<OldField, number>>;
  days: DayOrder;
  /** False where days could be meant the other way round too. */
  daysSure: boolean;
  /** Rows below the headings that are not empty. */
  rows: number;
  /** Rows that can be taken. */
  defects: OldDefect[];
  problems: OldProblem[];
  /** Words that are like no name, with how many rows say them; those rows are not taken. */
  unknown: { field: OldNamedField; word: string; rows: number }[];
}

/** Headings that a field is known by, in English and Spanish, plain as {@link plain} makes them. */
const HEADS: Readonly<Record<OldField, readonly string[]>> = {
  found: ['found', 'date', 'date found', 'found on', 'day', 'fecha', 'hallado', 'encontrado', 'fecha hallado'],
  kind: ['kind', 'defect', 'defect kind', 'type', 'issue', 'problem', 'tipo', 'defecto', 'falla', 'problema'],
  job: ['job', 'site', 'project', 'house', 'address', 'obra', 'proyecto', 'casa'],
  shower: ['shower', 'room', 'unit', 'bath', 'bathroom', 'ducha', 'bano', 'unidad'],
  crew: ['crew', 'made by', 'team', 'installer', 'cuadrilla', 'equipo', 'hecho por'],
  severity: ['severity', 'priority', 'gravedad', 'prioridad'],
  stageFound: ['stage', 'found at', 'stage found', 'etapa', 'hallado en'],
  stageMade: ['made at', 'stage made', 'hecho en'],
  group: ['place', 'where', 'lies on', 'element', 'location', 'lugar', 'donde', 'esta en'],
  cause: ['cause', 'why', 'what went wrong', 'root cause', 'causa', 'por que', 'que salio mal'],
  escape: ['escape', 'why nothing caught it', 'why not caught', 'por que no se detecto', 'por que nada lo detecto'],
  closed: ['closed', 'closed on', 'fixed', 'date fixed', 'date closed', 'cerrado', 'corregido', 'fecha corregido'],
  hours: ['hours', 'labor hours', 'horas'],
  materials: ['materials', 'material', 'cost', 'material cost', 'materiales', 'costo'],
  words: ['words', 'notes', 'note', 'description', 'comment', 'comments', 'palabras', 'notas', 'descripcion'],
};

/** Years before this one are typed wrong; two figures mean this century. */
const FIRST_YEAR = 1980;
/** Nothing of a defect takes longer, h, or costs more. */
const [MOST_HOURS, MOST_MONEY] = [10_000, 10_000_000];
/** Letters of a name, and of what was said. */
const [NAME_AT_MOST, WORDS_AT_MOST] = [120, 2000];

/** What parts the columns: whatever makes the most headings of the first line, since cells have commas of their own. */
function delimiterOf(text: string): string {
  const heads = (delimiter: string) => Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0]?.length ?? 0;
  return [',', ';', '\t', '|'].reduce((best, d) => (heads(d) > heads(best) ? d : best));
}

/** The column of each field: as somebody chose, else by its heading. */
function columnsOf(heads: readonly string[], chosen: OldMapping['columns']): Partial<Record<OldField, number>> {
  const plainHeads = heads.map(plain);
  const columns: Partial<Record<OldField, number>> = {};
  for (const field of OLD_FIELDS) {
    const told = chosen?.[field];
    const found = told === undefined ? plainHeads.findIndex((h) => HEADS[field].includes(h)) : (told ?? -1);
    if (found >= 0 && found < heads.length) columns[field] = found;
  }
  return columns;
}

/** Reads one row; what it can't read goes into `problems`, words like no name into `unknown`. */
class RowReader {
  /** What is wrong with it. */
  readonly problems: OldProblem[] = [];
  /** Words that are like no name. */
  readonly unknown: { field: OldNamedField; word: string }[] = [];

  constructor(
    private readonly line: number,
    private readonly cellOf: (field: OldField) => string,
    private readonly named: (field: OldNamedField, word: string) => string | null,
  ) {}

  /** Notes what is wrong with a cell. */
  wrong(field: OldField, why: OldProblem['why']): null {
    this.problems.push({ line: this.line, field, cell: this.cellOf(field).slice(0, 60), why });
    return null;
  }

  /** What is typed, no longer than it may be. */
  text(field: OldField, atMost: number): string {
    const cell = this.cellOf(field);
    if (cell.length > atMost) this.wrong(field, 'too-long');
    return cell;
  }

  /** The id of what a word names; empty where there is no word. */
  name(field: OldNamedField): string {
    const word = this.cellOf(field);
    if (word === '') return OLD_FIELDS_NEEDED.includes(field) ? (this.wrong(field, 'missing') ?? '') : '';
    const id = this.named(field, word);
    if (id === null) this.unknown.push({ field, word });
    return id ?? '';
  }

  /** A day that has been; null without one. */
  day(field: 'found' | 'closed', days: DayOrder, today: string): string | null {
    const cell = this.cellOf(field);
    if (cell === '') return field === 'found' ? this.wrong(field, 'missing') : null;
    const day = readDay(cell, days);
    if (day === null) return this.wrong(field, 'day-unreadable');
    if (day > today) return this.wrong(field, 'day-to-come');
    return day < `${FIRST_YEAR}-01-01` ? this.wrong(field, 'day-too-early') : day;
  }

  /** A figure; null without one. */
  figure(field: 'hours' | 'materials', atMost: number): number | null {
    const cell = this.cellOf(field);
    if (cell === '') return null;
    const figure = readFigure(cell);
    if (figure === null) return this.wrong(field, 'number-unreadable');
    return figure > atMost ? this.wrong(field, 'number-impossible') : figure;
  }
}

/** The id that a word stands for: as somebody chose (an id that there is, or none where none is needed), else the one whose name it is; null where none is like it. */
function namer(names: OldNames, meanings: NonNullable<OldMapping['meanings']>) {
  const known = new Map<string, string>();
  for (const field of OLD_FIELDS_NAMED)
    for (const { id, names: called } of names[field])
      for (const name of [id, ...called]) known.set(`${field} ${plain(name)}`, id);
  for (const { field, word, id } of meanings) {
    const may = id === '' ? !OLD_FIELDS_NEEDED.includes(field) : names[field].some((n) => n.id === id);
    if (may) known.set(`${field} ${plain(word)}`, id);
  }
  return (field: OldNamedField, word: string): string | null => known.get(`${field} ${plain(word)}`) ?? null;
}

/**
 * Defects from a table (CSV, semicolons or tabs) that was kept before this program: headings in the first line, a row each. What can't
 * be read is named by its line and field, words like no name are gathered to be told once; neither is taken. `today`: ISO day.
 */
export function readOldDefects(text: string, mapping: OldMapping, names: OldNames, today: string): OldTable {
  const bare = text.replace(/^\uFEFF/, '');
  const { data } = Papa.parse<string[]>(bare, { delimiter: delimiterOf(bare), skipEmptyLines: false });
  const [first = [], ...rest] = data;
  const heads = first.map((h) => h.trim());
  const columns = columnsOf(heads, mapping.columns);
  const cellsOf = rest.map((cells) => (field: OldField) => {
    const column = columns[field];
    return column === undefined ? '' : (cells[column] ?? '').trim();
  });
  const found = dayOrderOf(cellsOf.flatMap((cell) => [cell('found'), cell('closed')]));
  const days = mapping.days ?? found.days;
  const named = namer(names, mapping.meanings ?? []);
  const table: OldTable = {
    ...{ heads, columns, days, daysSure: found.sure || mapping.days !== undefined, rows: 0 },
    ...{ defects: [], problems: [], unknown: [] },
  };
  const unknown = new Map<string, OldTable['unknown'][number]>();
  rest.forEach((cells, i) => {
    if (cells.every((c) => c.trim() === '')) return;
    table.rows += 1;
    const row = new RowReader(i + 2, cellsOf[i]!, named);
    const foundOn = row.day('found', days, today);
    const closed = row.day('closed', days, today);
    if (foundOn && closed && closed < foundOn) row.wrong('closed', 'closed-before-found');
    const stageFound = row.name('stageFound');
    const defect = {
      line: i + 2,
      found: foundOn ?? '',
      kind: row.name('kind'),
      job: row.text('job', NAME_AT_MOST),
      shower: row.text('shower', NAME_AT_MOST),
      crew: row.name('crew'),
      severity: (row.name('severity') || 'fix') as OldDefect['severity'],
      stageFound,
      stageMade: row.name('stageMade') || stageFound,
      group: (row.name('group') || 'whole') as OldDefect['group'],
      cause: row.name('cause'),
      escape: row.name('escape'),
      closed,
      hours: row.figure('hours', MOST_HOURS),
      materials: row.figure('materials', MOST_MONEY),
      words: row.text('words', WORDS_AT_MOST),
    };
    table.problems.push(...row.problems);
    for (const { field, word } of row.unknown) {
      const key = `${field} ${plain(word)}`;
      const told = unknown.get(key) ?? { field, word, rows: 0 };
      unknown.set(key, { ...told, rows: told.rows + 1 });
    }
    if (row.problems.length === 0 && row.unknown.length === 0) table.defects.push(defect);
  });
  table.unknown = [...unknown.values()].sort((a, b) => b.rows - a.rows);
  return table;
}

/** What tells one old defect from the others: two rows that say the same are the same defect. */
export const sameOldDefect = (d: OldDefect): string =>
  [d.found, plain(d.job), plain(d.shower), d.crew, d.kind, d.stageFound, d.group, plain(d.words)].join('|');
