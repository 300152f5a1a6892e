import type { MonthReport } from '@careful-seam/contract/api/crews';
import type { FirmSettings } from '@careful-seam/contract/api/firm';
import writeXlsxFile, { type SheetData } from 'write-excel-file/node';
import { bottomOf, HAIR, heading, INK, line, MARGIN, newSheet, SOFT } from '../print/recordSheet';

/** A name that a workbook takes for a sheet: short, and without what it uses itself. */
const sheetName = (text: string, k: number): string => `${k + 1} ${text.replaceAll(/[\\/?*[\]:¿]/g, '')}`.slice(0, 31);

/** A month report as a workbook: a sheet for each question, its answer above its figures. */
export async function reportXlsx(report: MonthReport): Promise<Buffer> {
  const sheets = report.sections.map((section, k) => ({
    sheet: sheetName(section.question, k),
    data: [
      [{ value: `${report.title}: ${section.question}`, fontWeight: 'bold' as const }],
      ...section.says.map((say) => [{ value: say }]),
      [],
      section.heads.map((head) => ({ value: head, fontWeight: 'bold' as const })),
      ...section.rows.map((row) =>
        row.map((value) => (typeof value === 'number' ? { value, type: Number } : { value, type: String })),
      ),
    ] as SheetData,
  }));
  return writeXlsxFile(sheets).toBuffer();
}

/** Height of a line of a table, points. */
const ROW = 14;

/** Rows in columns of equal width, the first one wider. */
function table(doc: PDFKit.PDFDocument, heads: readonly string[], rows: MonthReport['sections'][number]['rows']): void {
  const width = doc.page.width - 2 * MARGIN;
  const unit = width / (heads.length + 1);
  const columns = heads.map((_, k) => ({
    x: MARGIN + (k === 0 ? 0 : unit * (k + 1)),
    width: (k === 0 ? 2 : 1) * unit - 6,
  }));
  const write = (cells: readonly (string | number)[], color: string) => {
    if (doc.y + ROW > bottomOf(doc)) doc.addPage();
    const y = doc.y;
    cells.forEach((cell, k) => {
      const { x, width } = columns[k]!;
      doc.fillColor(color).text(String(cell), x, y, { width, height: ROW, ellipsis: true, lineBreak: false });
    });
    doc
      .moveTo(MARGIN, y + ROW - 2)
      .lineTo(MARGIN + width, y + ROW - 2)
      .lineWidth(0.4)
      .strokeColor(HAIR)
      .stroke();
    doc.x = MARGIN;
    doc.y = y + ROW;
  };
  write(heads, SOFT);
  for (const row of rows) write(row, INK);
}

/** A month report on paper. */
export async function reportPdf(
  report: MonthReport,
  firm: Pick<FirmSettings, 'name' | 'paper'>,
  now: Date,
): Promise<Buffer> {
  const doc = await newSheet(report.title, now, firm.paper);
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise((done) => doc.on('end', done));
  doc
    .font('strong')
    .fontSize(18)
    .text(report.title, MARGIN, MARGIN)
    .font('text')
    .fontSize(10)
    .fillColor(SOFT)
    .text(firm.name);
  for (const { question, says, heads, rows } of report.sections) {
    heading(doc, question);
    for (const say of says) line(doc, say);
    if (rows.length > 0) {
      doc.moveDown(0.3);
      table(doc, heads, rows);
    }
  }
  doc.moveDown(0.8);
  line(doc, report.fair, SOFT);
  doc.end();
  await ended;
  return Buffer.concat(parts);
}
