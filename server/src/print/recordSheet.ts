import { createRequire } from 'node:module';
import type { FirmSettings } from '@careful-seam/contract/api/firm';

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;
const require = createRequire(import.meta.url);
const FONT = '@expo-google-fonts/atkinson-hyperlegible-next';

/** Colours of the printed record: ink, soft ink, hairlines, and red for what holds. */
export const INK = '#1e2328';
export const SOFT = '#5a5f60';
export const HAIR = '#b9b3a4';
export const HOLD = '#a3201b';
export const WATER = '#1d6a96';
export const MARGIN = 48;

/** A new document on the firm's own paper, upright unless laid across. */
export async function newSheet(
  title: string,
  madeAt: Date,
  paper: FirmSettings['paper'],
  layout: 'portrait' | 'landscape' = 'portrait',
): Promise<Pdf> {
  const { default: PDFDocument } = await import('pdfkit');
  const doc = new PDFDocument({
    size: paper === 'a4' ? 'A4' : 'LETTER',
    layout,
    margin: MARGIN,
    bufferPages: true,
    info: { Title: title, CreationDate: madeAt },
  });
  doc.registerFont('text', require.resolve(`${FONT}/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf`));
  doc.registerFont('strong', require.resolve(`${FONT}/700Bold/AtkinsonHyperlegibleNext_700Bold.ttf`));
  doc.font('text').fontSize(9).fillColor(INK);
  return doc;
}

export const bottomOf = (doc: Pdf): number => doc.page.height - MARGIN - 14;

/** Starts a new page when fewer than `units` are left. */
export function need(doc: Pdf, units: number): void {
  if (doc.y + units > bottomOf(doc)) doc.addPage();
}

export function heading(doc: Pdf, text: string): void {
  need(doc, 112);
  doc
    .moveDown(0.8)
    .font('strong')
    .fontSize(12)
    .fillColor(INK)
    .text(text, MARGIN)
    .moveDown(0.3)
    .font('text')
    .fontSize(9);
}

export function line(doc: Pdf, text: string, color: string = INK): void {
  need(doc, 14);
  doc
    .fillColor(color)
    .text(text, MARGIN, doc.y, { width: doc.page.width - 2 * MARGIN })
    .fillColor(INK);
}

/** A plain table; widths are shares of the page. */
export function table(doc: Pdf, widths: readonly number[], rows: readonly (readonly string[])[]): void {
  const room = doc.page.width - 2 * MARGIN;
  need(doc, 70);
  rows.forEach((row, r) => {
    doc.font(r === 0 ? 'strong' : 'text').fontSize(8.5);
    const heights = row.map((cell, i) => doc.heightOfString(cell || ' ', { width: room * widths[i]! - 6 }));
    const height = Math.max(...heights) + 3;
    need(doc, height);
    const y = doc.y;
    let x = MARGIN;
    row.forEach((cell, i) => {
      doc.fillColor(r === 0 ? SOFT : INK).text(cell, x, y, { width: room * widths[i]! - 6 });
      x += room * widths[i]!;
    });
    doc.y = y + height;
    doc
      .moveTo(MARGIN, doc.y - 2)
      .lineTo(MARGIN + room, doc.y - 2)
      .lineWidth(0.3)
      .strokeColor(HAIR)
      .stroke();
  });
  doc.font('text').fontSize(9).fillColor(INK);
  doc.x = MARGIN;
}

export function toBuffer(doc: Pdf): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => resolve(Buffer.concat(parts)));
    doc.on('error', reject);
    doc.end();
  });
}
