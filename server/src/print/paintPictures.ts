import type { PhotoUse } from '@careful-seam/core/log/places';
import { type KeptPicture, picturesMissing, picturesOf } from '@careful-seam/core/proof/shown/pictures';
import { elementName } from '@careful-seam/words/texts/names';
import type { PaintOptions, Paper } from './paintRecord';
import { HOLD, heading, INK, line, MARGIN, need, SOFT } from './recordSheet';

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;

/** How high a picture stands at a width, points. */
export const heightOf = (use: PhotoUse, width: number): number => (width * use.heightPx) / use.widthPx;

/** Pixels of the copy that is printed, on its width: a wrinkle shows at a glance, and a record of forty pictures can be sent. */
const PRINTED_PX = 900;

/** A picture with its marks at a place, points. */
export async function paintPicture(
  doc: Pdf,
  use: PhotoUse,
  bytes: Buffer,
  { x, y, width }: { x: number; y: number; width: number },
): Promise<void> {
  const height = heightOf(use, width);
  const { default: sharp } = await import('sharp');
  const copy = await sharp(bytes)
    .resize({ width: PRINTED_PX, withoutEnlargement: true })
    .jpeg({ quality: 82 })
    .toBuffer();
  doc.image(copy, x, y, { width });
  doc.lineWidth(1.6).strokeColor(HOLD);
  for (const mark of use.marks) {
    const [a, b] = mark.points.map((p) => [x + p.x * width, y + p.y * height] as const);
    if (mark.kind === 'circle') doc.circle(a![0], a![1], Math.hypot(b![0] - a![0], b![1] - a![1])).stroke();
    else doc.moveTo(a![0], a![1]).lineTo(b![0], b![1]).stroke();
    if (mark.text)
      doc
        .fillColor(HOLD)
        .text(mark.text, b![0] + 3, b![1] - 4, { lineBreak: false })
        .fillColor(INK);
  }
}

/** So many pictures stand beside each other, so wide, points, with so much for the words under each. */
const ROW = { count: 3, width: 158, gap: 12, words: 26 };

/** What a picture is of, in words under it. */
function under({ t, state, when }: Paper, p: KeptPicture): string {
  const model = state.geometry!.model;
  const where = p.elements.length === 0 ? '' : elementName(t, model, p.elements[0]!);
  const more = p.elements.length > 1 ? ` (+${p.elements.length - 1})` : '';
  const gone = p.stands ? '' : ` (${t('record.voided')})`;
  return [`${where}${more}${gone}`, p.words, `${p.by}, ${when(p.observedAt)}`].filter(Boolean).join('. ');
}

/** The pictures of one stage in rows. */
async function paintRows(
  paper: Paper,
  pictures: readonly KeptPicture[],
  picture: PaintOptions['picture'],
): Promise<void> {
  const { doc, t } = paper;
  for (let k = 0; k < pictures.length; k += ROW.count) {
    const row = pictures.slice(k, k + ROW.count);
    const high = Math.max(...row.map((p) => heightOf(p.photo, ROW.width)));
    need(doc, high + ROW.words + 8);
    const y = doc.y + 2;
    for (const [at, p] of row.entries()) {
      const x = MARGIN + at * (ROW.width + ROW.gap);
      const bytes = await picture(p.photo.hash);
      if (bytes) await paintPicture(doc, p.photo, bytes, { x, y, width: ROW.width });
      else doc.fillColor(HOLD).fontSize(8).text(t('record.picturePending'), x, y, { width: ROW.width });
      doc
        .fillColor(SOFT)
        .fontSize(7.5)
        .text(under(paper, p), x, y + heightOf(p.photo, ROW.width) + 2, {
          width: ROW.width,
          height: ROW.words,
          ellipsis: true,
        });
    }
    doc.fillColor(INK).fontSize(9);
    doc.x = MARGIN;
    doc.y = y + high + ROW.words + 6;
  }
}

/** Pictures of what was sound and of what the next layer hides, stage by stage, and what is covered without one. */
export async function paintPictures(paper: Paper, picture: PaintOptions['picture']): Promise<void> {
  const { doc, t, state } = paper;
  if (!state.rules || !state.geometry) return;
  const sound = picturesOf(state).filter((p) => p.of === 'sound');
  const stages = state.rules.method.stages;
  const missing = stages
    .filter((s) => state.stages.get(s.key)?.release)
    .flatMap((s) => picturesMissing(state, s.key).map((m) => ({ stage: s, ...m })));
  if (sound.length === 0 && missing.length === 0) return;
  heading(doc, t('record.pictures'));
  for (const { key, label } of [...stages, { key: null, label: t('record.picturesOfAll') }]) {
    const here = sound.filter((p) => p.stage === key);
    if (here.length === 0) continue;
    need(doc, 140);
    doc.font('strong');
    line(doc, label);
    doc.font('text');
    await paintRows(paper, here, picture);
  }
  for (const { stage, check, elements } of missing) {
    const where = elements.slice(0, 4).map((e) => elementName(t, state.geometry!.model, e));
    const more = elements.length > where.length ? ` (+${elements.length - where.length})` : '';
    line(
      doc,
      t('record.pictureMissing', { stage: stage.label, check: check.label, where: where.join(', ') + more }),
      HOLD,
    );
  }
}
