import type { Shot } from '@careful-seam/core/floor/survey/shots';
import { done, type Outcome } from '@careful-seam/core/outcome/outcome';
import { refuse } from '@careful-seam/words/errors/errors';
import Papa from 'papaparse';

const COLUMNS = ['x_mm', 'y_mm', 'z_mm'] as const;

/** Shots as CSV: places from the floor's first corner, heights over the drain's rim, all in mm. */
export function writeShotsCsv(shots: readonly Shot[]): string {
  const rows = shots.map((s) => [s.xMm, s.yMm, s.zMm].map((v) => Math.round(v * 100) / 100));
  return `${Papa.unparse({ fields: [...COLUMNS], data: rows }, { newline: '\n' })}\n`;
}

/** Reads shots from CSV with the columns x_mm, y_mm and z_mm in any order; the first line that can't be read is named. */
export function readShotsCsv(text: string): Outcome<Shot[]> {
  const parsed = Papa.parse<{ [column: string]: string }>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
    transformHeader: (h) => h.trim().toLowerCase(),
  });
  const missing = COLUMNS.find((c) => !parsed.meta.fields?.includes(c));
  if (missing) return refuse('shots-column-missing', 'file', { column: missing });
  const shots: Shot[] = [];
  for (const [i, row] of parsed.data.entries()) {
    const [xMm, yMm, zMm] = COLUMNS.map((c) => Number((row[c] ?? '').trim().replace(',', '.') || Number.NaN));
    if (![xMm, yMm, zMm].every(Number.isFinite)) return refuse('shots-line-unreadable', 'file', { line: i + 2 });
    shots.push({ xMm: xMm!, yMm: yMm!, zMm: zMm! });
  }
  if (shots.length === 0) return refuse('shots-file-empty', 'file');
  return done(shots);
}
