import { type ClimateReading, checkClimate } from '@careful-seam/core/cure/climateLog';
import { done, type Outcome } from '@careful-seam/core/outcome/outcome';
import { refuse } from '@careful-seam/words/errors/errors';
import {
  guessTimes,
  type LoggerProblem,
  type LoggerTable,
  numberIn,
  numericColumns,
  type TimeMapping,
  timeCell,
  timeOf,
} from './loggerCsv';

/** What a thermometer may speak in. */
export const DEGREES = ['C', 'F'] as const;
/** How a thermo-hygrometer's columns are to be read. Columns are counted from 0. */
export interface ClimateMapping extends TimeMapping {
  /** The column of temperatures, from 0. */
  temperature: number;
  /** The column of humidities, from 0. */
  humidity: number;
  /** In what it speaks. */
  degrees: (typeof DEGREES)[number];
  /** Humidity in percent, or a share of 1. */
  percent: boolean;
}

/** A log of the air as it was read. */
export interface ClimateSeries {
  /** In order of time. */
  readings: ClimateReading[];
  /** Lines that could not be read. */
  problems: LoggerProblem[];
  /** How many before the moment that was asked for. */
  leftOut: number;
}

/** Headings of temperatures, in several languages. */
const TEMPERATURE = /temp|°|deg|celsius|fahrenheit|grad/i;
/** Headings of humidities. */
const HUMIDITY = /humid|\brh\b|hum\b|%|feuchte|humedad/i;
/** Headings that say Fahrenheit. */
const FAHRENHEIT = /°\s*f|\(f\)|fahrenheit|deg\s*f|_f\b/i;

/** A first guess at the columns; temperature and humidity by their names, else the first two that hold figures. */
export function guessClimate(table: LoggerTable, zone: string, startMs: number): ClimateMapping {
  const times = guessTimes(table, zone, startMs);
  const { columns, rows } = table;
  const figures = numericColumns(table)
    .map((is, i) => (is && i !== times.time && i !== times.date ? i : -1))
    .filter((i) => i >= 0);
  const humidity = figures.find((i) => HUMIDITY.test(columns[i]!)) ?? figures[1] ?? figures[0] ?? 0;
  const temperature =
    figures.find((i) => TEMPERATURE.test(columns[i]!) && i !== humidity) ??
    figures.find((i) => i !== humidity) ??
    figures[0] ??
    0;
  const shares = rows.slice(0, 50).map((r) => numberIn(r[humidity], table.decimalComma) ?? 100);
  return {
    ...times,
    temperature,
    humidity,
    degrees: FAHRENHEIT.test(columns[temperature] ?? '') ? 'F' : 'C',
    percent: !shares.every((s) => s <= 1),
  };
}

/** Problems that are listed one by one. */
const LISTED = 200;

/** The readings of a table as its columns are to be read. Rows that can't be read are left out and listed, never guessed. */
export function readClimate(table: LoggerTable, mapping: ClimateMapping): Outcome<ClimateSeries> {
  const found: ClimateSeries = { readings: [], problems: [], leftOut: 0 };
  const leave = (row: number, kind: LoggerProblem['kind'], cell: string) => {
    found.leftOut += 1;
    if (found.problems.length < LISTED) found.problems.push({ row: row + 1, kind, cell });
  };
  let before: number | null = null;
  for (const [i, row] of table.rows.entries()) {
    const cell = timeCell(row, mapping);
    const atMs = timeOf(cell, mapping, table.decimalComma, before);
    const degrees = numberIn(row[mapping.temperature], table.decimalComma);
    const humidity = numberIn(row[mapping.humidity], table.decimalComma);
    if (atMs === null) leave(i, 'time-unreadable', cell);
    else if (degrees === null) leave(i, 'level-unreadable', row[mapping.temperature] ?? '');
    else if (humidity === null) leave(i, 'level-unreadable', row[mapping.humidity] ?? '');
    else if (before !== null && atMs <= before) leave(i, atMs === before ? 'time-doubled' : 'time-backwards', cell);
    else {
      before = atMs;
      const airC = mapping.degrees === 'F' ? ((degrees - 32) * 5) / 9 : degrees;
      found.readings.push({ atMs, airC, relativeHumidity: humidity / (mapping.percent ? 100 : 1) });
    }
  }
  if (found.readings.length < 2) return refuse('air-log-unreadable', 'mapping');
  const fine = checkClimate(found.readings);
  return fine.ok ? done(found) : fine;
}
