import type { DefectLine } from '@careful-seam/contract/api/defects';
import type { Words } from '@careful-seam/words/texts/language';
import { stringify } from 'csv-stringify/sync';
import writeXlsxFile, { type SheetData } from 'write-excel-file/node';

/** The columns of a file, in their order; each has its heading in the reader's language. */
const COLUMNS = [
  'shower',
  'job',
  'kind',
  'group',
  'severity',
  'step',
  'stageMade',
  'stageFound',
  'crew',
  'fixer',
  'inspector',
  'cause',
  'escape',
  'foundAt',
  'closedAt',
  'hours',
  'materials',
  'repeats',
  'words',
] as const satisfies readonly (keyof DefectLine)[];
type ColumnKey = (typeof COLUMNS)[number];

/** What a cell says in words; figures and moments as they are. */
function toldOf(t: Words, line: DefectLine, column: ColumnKey): string | number | null {
  if (column === 'severity') return t(`severity.${line.severity}`);
  if (column === 'step') return t(`defectStep.${line.step}`);
  if (column === 'group') return t(`elementGroup.${line.group}`);
  return line[column];
}

/** Columns that are shown: who found it is for managers, and left out where nobody is named. */
const shown = (lines: readonly DefectLine[]): readonly ColumnKey[] =>
  COLUMNS.filter((c) => c !== 'inspector' || lines.some((l) => l.inspector !== null));

/** A text that a spreadsheet would take for a formula is told as text. */
const isFormula = (text: string): boolean => /^[=+\-@\t\r]/.test(text);

/** Defects as a CSV file: what begins like a formula has an apostrophe before it. */
export function defectsCsv(t: Words, lines: readonly DefectLine[]): string {
  const columns = shown(lines);
  const cell = (value: string | number | null) =>
    typeof value === 'string' && isFormula(value) ? `'${value}` : (value ?? '');
  return stringify(
    lines.map((line) => columns.map((c) => cell(toldOf(t, line, c)))),
    { header: true, columns: columns.map((c) => t(`defectFile.${c}`)), bom: true },
  );
}

/** Defects as a workbook: figures are figures, days are days, and text is never a formula. */
export async function defectsXlsx(t: Words, lines: readonly DefectLine[]): Promise<Buffer> {
  const columns = shown(lines);
  const head = columns.map((c) => ({ value: t(`defectFile.${c}`), fontWeight: 'bold' as const }));
  const cell = (line: DefectLine, c: ColumnKey) => {
    const value = toldOf(t, line, c);
    if (value === null) return null;
    if (c === 'foundAt' || c === 'closedAt')
      return { value: new Date(String(value)), type: Date, format: 'yyyy-mm-dd hh:mm' };
    return typeof value === 'number' ? { value, type: Number } : { value, type: String };
  };
  const data = [head, ...lines.map((line) => columns.map((c) => cell(line, c)))] as SheetData;
  return writeXlsxFile(data, { sheet: t('defectFile.sheet'), stickyRowsCount: 1 }).toBuffer();
}
