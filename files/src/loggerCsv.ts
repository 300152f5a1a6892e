import { done, type Outcome } from '@careful-seam/core/outcome/outcome';
import { refuse } from '@careful-seam/words/errors/errors';
import { DateTime } from 'luxon';
import Papa from 'papaparse';

/** A logger's file as a table: whatever stood above the column names is left out. */
export interface LoggerTable {
  /** Between two cells. */
  separator: string;
  /** Figures are written with a comma. */
  decimalComma: boolean;
  /** Headings; empty where the file has none. */
  columns: string[];
  /** Cells, line by line. */
  rows: string[][];
}

/** No larger file is read. */
const LARGEST_BYTES = 20 * 1024 * 1024;
/** A cell that is a figure. */
const NUMBER = /^[-+]?\d*[.,]?\d+$/;

/** The line with the headings. */
function columnsRow(rows: readonly string[][]): number {
  const width = Math.max(...rows.slice(0, 200).map((r) => r.length));
  return rows.findIndex((r) => r.length === width);
}

/** True for a figure. */
const isNumber = (cell: string): boolean => NUMBER.test(cell.trim());

/**
 * Reads a logger's file: any common separator, decimal point or comma, a byte-order mark, lines above the column names.
 * A file without column names gets "Column 1", "Column 2"…
 */
export function readLoggerTable(text: string): Outcome<LoggerTable> {
  if (text.length > LARGEST_BYTES) return refuse('log-too-large', 'file');
  const bare = text.replace(/^\uFEFF/, '');
  if (bare.includes('\u0000')) return refuse('log-not-text', 'file');
  const parsed = Papa.parse<string[]>(bare, { skipEmptyLines: 'greedy', delimitersToGuess: [',', ';', '\t', '|'] });
  const all = parsed.data.map((r) => r.map((c) => c.trim()));
  if (all.length < 2) return refuse('log-empty', 'file');
  const head = columnsRow(all);
  const named = !all[head]!.some((c, i) => i > 0 && isNumber(c));
  const width = all[head]!.length;
  if (width < 2) return refuse('log-one-column', 'file');
  const columns = named
    ? all[head]!.map((c, i) => c || `Column ${i + 1}`)
    : all[head]!.map((_, i) => `Column ${i + 1}`);
  const rows = all.slice(named ? head + 1 : head).filter((r) => r.length === width);
  const separator = parsed.meta.delimiter;
  const decimalComma = separator !== ',' && rows.slice(0, 50).some((r) => r.some((c) => /^[-+]?\d+,\d+$/.test(c)));
  return done({ separator, decimalComma, columns, rows });
}

export const LEVEL_UNITS = ['mm', 'cm', 'm', 'in'] as const;
export type LevelUnit = (typeof LEVEL_UNITS)[number];
const MM: Record<LevelUnit, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 };

export const CLOCK_ORDERS = ['year-first', 'month-first', 'day-first'] as const;
export type ClockOrder = (typeof CLOCK_ORDERS)[number];

/** Where a file's times stand and how they are to be read. Columns are counted from 0; null: the file has none. */
export interface TimeMapping {
  time: number;
  /** Where date and time stand in two columns. */
  date: number | null;
  clock:
    | { kind: 'elapsed'; unit: 's' | 'min' | 'h'; startMs: number }
    | { kind: 'clock'; order: ClockOrder; zone: string };
}

/** How a level logger's columns are to be read. */
export interface LoggerMapping extends TimeMapping {
  water: number;
  pan: number | null;
  /** `distance`: the gauge hangs above and reads the distance down to the water. */
  reads: 'level' | 'distance';
  unit: LevelUnit;
}

const TIME = /time|zeit|uhr|elapsed|stamp|minute|hour|second|heure|hora/i;
const DATE = /date|datum|day|fecha/i;
const WATER = /level|depth|water|stage|pegel|distance|sensor|ch(annel)? ?1/i;
const PAN = /pan|tray|control|ch(annel)? ?2/i;
const NOT_LEVEL = /temp|°|humid|rh|batter|volt|press|index|no\.?$|^#|record/i;

const unitIn = (name: string): LevelUnit =>
  /\b(in|inch|inches)\b|"/i.test(name) ? 'in' : /\bcm\b/i.test(name) ? 'cm' : /\bm\b|\(m\)/i.test(name) ? 'm' : 'mm';

const mostlyNumbers = (cells: readonly string[]): boolean => cells.filter(isNumber).length > cells.length / 2;

/** Which columns hold figures in their first rows. */
export function numericColumns({ columns, rows }: LoggerTable): boolean[] {
  return columns.map((_, i) => mostlyNumbers(rows.slice(0, 20).map((r) => r[i] ?? '')));
}

/** A first guess at where the times stand. */
export function guessTimes(table: LoggerTable, zone: string, startMs: number): TimeMapping {
  const { columns, rows } = table;
  const time = Math.max(
    0,
    columns.findIndex((c) => TIME.test(c) && !NOT_LEVEL.test(c)),
  );
  const dateAt = columns.findIndex((c, i) => DATE.test(c) && i !== time && !TIME.test(c));
  const elapsed = numericColumns(table)[time] ?? false;
  const sample = rows[0]?.[time] ?? '';
  const name = columns[time] ?? '';
  const unit = /sec|\bs\b|\(s\)/i.test(name) ? 's' : /hour|\bh\b|\(h\)/i.test(name) ? 'h' : 'min';
  const cells = rows.map((r) => r[dateAt >= 0 ? dateAt : time]!);
  return {
    time,
    date: dateAt < 0 || elapsed ? null : dateAt,
    clock: elapsed ? { kind: 'elapsed', unit, startMs } : { kind: 'clock', order: guessOrder(cells, sample), zone },
  };
}

/** A first guess at the columns from their names and their first rows; the person looks at it before it is taken. */
export function guessMapping(table: LoggerTable, zone: string, startMs: number): LoggerMapping {
  const { columns } = table;
  const numeric = numericColumns(table);
  const times = guessTimes(table, zone, startMs);
  const { time } = times;
  const dateAt = columns.findIndex((c, i) => DATE.test(c) && i !== time && !TIME.test(c));
  const levels = columns
    .map((_, i) => i)
    .filter((i) => i !== time && i !== dateAt && numeric[i] && !NOT_LEVEL.test(columns[i]!));
  const pan = levels.find((i) => PAN.test(columns[i]!)) ?? null;
  const water =
    levels.find((i) => i !== pan && WATER.test(columns[i]!)) ??
    levels.find((i) => i !== pan) ??
    Math.min(1, columns.length - 1);
  return {
    ...times,
    water,
    pan,
    reads: /distance|air ?gap|ullage/i.test(columns[water] ?? '') ? 'distance' : 'level',
    unit: unitIn(columns[water] ?? ''),
  };
}

function guessOrder(cells: readonly string[], sample: string): ClockOrder {
  if (/^\d{4}/.test(cells[0] ?? sample)) return 'year-first';
  const parts = cells.map((c) => c.split(/[^\d]+/).map(Number));
  if (parts.some((p) => (p[0] ?? 0) > 12)) return 'day-first';
  return /\d\.\d+\.\d/.test(cells[0] ?? '') ? 'day-first' : 'month-first';
}

export interface LoggerProblem {
  /** Row in the file's table, from 1. */
  row: number;
  kind: 'time-unreadable' | 'level-unreadable' | 'time-doubled' | 'time-backwards';
  cell: string;
}

export interface LoggerSeries {
  water: { atMs: number; levelMm: number }[];
  /** At the same times as the water; empty where there is no pan. */
  pan: { atMs: number; levelMm: number }[];
  /** Rows that were left out, and why. At most the first 200 are kept. */
  problems: LoggerProblem[];
  leftOut: number;
  /** Longest time without a reading, hours, and usual time between readings, minutes. */
  longestGapHours: number;
  everyMinutes: number;
}

const ORDERS: Record<ClockOrder, (p: readonly number[]) => [number, number, number]> = {
  'year-first': (p) => [p[0]!, p[1]!, p[2]!],
  'month-first': (p) => [p[2]!, p[0]!, p[1]!],
  'day-first': (p) => [p[2]!, p[1]!, p[0]!],
};

/** An hour, ms. */
const HOUR_MS = 3_600_000;

/** A clock reading in a zone, ms since 1970; in the hour that a clock change repeats, the one after the reading before. */
function clockMs(text: string, order: ClockOrder, zone: string, beforeMs: number | null): number | null {
  const zoned = /(?:[Zz]|[+-]\d{2}:?\d{2})$/.test(text) && /T|\d:\d/.test(text);
  if (zoned) {
    const exact = DateTime.fromISO(text.replace(' ', 'T'), { setZone: true });
    return exact.isValid ? exact.toMillis() : null;
  }
  const parts = text
    .split(/[^\d]+/)
    .filter((p) => p !== '')
    .map(Number);
  if (parts.length < 5) return null;
  const [year, month, day] = ORDERS[order](parts);
  const afternoon = /p\.?m\.?$/i.test(text.trim());
  const morning = /a\.?m\.?$/i.test(text.trim());
  const hour = afternoon ? (parts[3]! % 12) + 12 : morning ? parts[3]! % 12 : parts[3]!;
  const read = DateTime.fromObject(
    { year: year < 100 ? 2000 + year : year, month, day, hour, minute: parts[4]!, second: parts[5] ?? 0 },
    { zone },
  );
  if (!read.isValid) return null;
  const possible = read
    .getPossibleOffsets()
    .map((d) => d.toMillis())
    .sort((a, b) => a - b);
  return possible.find((ms) => beforeMs === null || ms > beforeMs) ?? possible[0]!;
}

const ELAPSED_MS = { s: 1000, min: 60_000, h: HOUR_MS };

/** A cell's figure; null where it holds none. */
export function numberIn(cell: string | undefined, decimalComma: boolean): number | null {
  const text = (cell ?? '').trim();
  if (!isNumber(text)) return null;
  return Number(decimalComma ? text.replace(',', '.') : text.replace(',', ''));
}

/** The readings of a table as its columns are to be read. Rows that can't be read are left out and listed, never guessed. */
export function readLevels(table: LoggerTable, mapping: LoggerMapping): Outcome<LoggerSeries> {
  const found: LoggerSeries = { water: [], pan: [], problems: [], leftOut: 0, longestGapHours: 0, everyMinutes: 0 };
  const sign = mapping.reads === 'distance' ? -MM[mapping.unit] : MM[mapping.unit];
  const leave = (row: number, kind: LoggerProblem['kind'], cell: string) => {
    found.leftOut += 1;
    if (found.problems.length < 200) found.problems.push({ row: row + 1, kind, cell });
  };
  let before: number | null = null;
  for (const [i, row] of table.rows.entries()) {
    const cell = timeCell(row, mapping);
    const atMs = timeOf(cell, mapping, table.decimalComma, before);
    if (atMs === null) {
      leave(i, 'time-unreadable', cell);
      continue;
    }
    const level = numberIn(row[mapping.water], table.decimalComma);
    if (level === null) {
      leave(i, 'level-unreadable', row[mapping.water] ?? '');
      continue;
    }
    const pan = mapping.pan === null ? null : numberIn(row[mapping.pan], table.decimalComma);
    if (mapping.pan !== null && pan === null) {
      leave(i, 'level-unreadable', row[mapping.pan] ?? '');
      continue;
    }
    if (before !== null && atMs === before) {
      leave(i, 'time-doubled', cell);
      continue;
    }
    if (before !== null && atMs < before) {
      leave(i, 'time-backwards', cell);
      continue;
    }
    before = atMs;
    found.water.push({ atMs, levelMm: level * sign });
    if (pan !== null) found.pan.push({ atMs, levelMm: pan * sign });
  }
  if (found.water.length < 2) return refuse('log-unreadable', 'mapping');
  const steps = found.water.slice(1).map((r, i) => r.atMs - found.water[i]!.atMs);
  found.longestGapHours = steps.reduce((a, b) => Math.max(a, b), 0) / HOUR_MS;
  found.everyMinutes = [...steps].sort((a, b) => a - b)[steps.length >> 1]! / 60_000;
  return done(found);
}

/** A row's time as it stands in the file, date and clock together. */
export const timeCell = (row: readonly string[], mapping: TimeMapping): string =>
  mapping.date === null ? row[mapping.time]! : `${row[mapping.date]} ${row[mapping.time]}`;

/** The moment that a cell names, ms since 1970; null where it can't be read. In a repeated hour, the one after `before`. */
export function timeOf(
  cell: string,
  mapping: TimeMapping,
  decimalComma: boolean,
  before: number | null,
): number | null {
  if (mapping.clock.kind === 'clock') return clockMs(cell, mapping.clock.order, mapping.clock.zone, before);
  const elapsed = numberIn(cell, decimalComma);
  return elapsed === null ? null : mapping.clock.startMs + elapsed * ELAPSED_MS[mapping.clock.unit];
}
