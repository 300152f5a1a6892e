import { lineWork, type Stroke } from '@careful-seam/core/proof/shown/lineWork';
import type { SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { arrange, type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import type { Words } from '@careful-seam/words/texts/language';
import { elementName } from '@careful-seam/words/texts/names';
import { HAIR, HOLD, INK, MARGIN, need, SOFT, WATER } from './recordSheet';

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;

/** How each state of a seam is drawn: told apart in black and white too. */
const PENS: Record<Stroke['state'], { width: number; color: string; dash?: [number, number] }> = {
  unseen: { width: 1.4, color: INK, dash: [0.1, 3] },
  seen: { width: 0.8, color: INK },
  measured: { width: 1.8, color: INK },
  defect: { width: 1.2, color: HOLD },
  covered: { width: 1.4, color: INK, dash: [5, 3] },
  'not-required': { width: 0.5, color: HAIR },
  tick: { width: 0.9, color: INK },
  water: { width: 0.9, color: WATER },
};

/** One stretch. */
function paintStroke(doc: Pdf, stroke: Stroke): void {
  const pen = PENS[stroke.state];
  doc.lineWidth(pen.width).strokeColor(pen.color).lineCap('round');
  if (pen.dash) doc.dash(pen.dash[0], { space: pen.dash[1] });
  else doc.undash();
  doc.path(stroke.path).stroke().undash();
}

/** The outlines of a wall or part. */
function paintOutlines(doc: Pdf, placed: PlacedPanel): void {
  for (const face of placed.panel.faces) {
    for (const loop of [face.outline, ...face.holes])
      doc
        .lineWidth(0.4)
        .strokeColor(HAIR)
        .polygon(...loop.map((p) => toSheet(placed, p) as [number, number]))
        .stroke();
  }
  for (const point of placed.panel.points) {
    const [x, y] = toSheet(placed, point.at);
    doc
      .lineWidth(0.7)
      .strokeColor(SOFT)
      .circle(x, y, Math.max(2, (point.diameterMm / 2) * placed.scaleX))
      .stroke();
  }
}

/** Its name. */
function panelName(t: Words, model: ShowerModel, { panel }: PlacedPanel): string {
  if (panel.kind === 'curb') return t('record.curbPanel', { letter: panel.letter });
  if (panel.kind === 'wall' || panel.kind === 'plan') return elementName(t, model, panel.id);
  return t(`record.partPanel.${panel.kind}`, { letter: panel.letter });
}

/** Paints the unfolded shower with its line work, as vectors, at the current place of the page. */
export function paintMap(doc: Pdf, t: Words, model: ShowerModel, lines: readonly SeamLine[], height: number): void {
  need(doc, height + 20);
  const width = doc.page.width - 2 * MARGIN;
  const top = doc.y;
  const { panels } = arrange(unfold(model), { width, height, gap: 8, title: 14 });
  const lengths = new Map(model.seams.map((s) => [s.id, s.lengthMm]));
  const bySeam = new Map(lines.map((l) => [l.seam, l]));
  doc.save().translate(MARGIN, top);
  for (const placed of panels) {
    paintOutlines(doc, placed);
    for (const drawn of placed.panel.seams) {
      const seamLine = bySeam.get(drawn.seam);
      if (!seamLine) continue;
      const points = drawn.points.map((p) => toSheet(placed, p));
      for (const stroke of lineWork(seamLine, lengths.get(drawn.seam)!, points, { tooth: 5, tick: 3, gap: 2.6 }))
        paintStroke(doc, stroke);
    }
    const name = panelName(t, model, placed);
    doc
      .fontSize(8)
      .fillColor(SOFT)
      .text(name, placed.x, placed.y - 11, { lineBreak: false });
  }
  doc.restore();
  doc.x = MARGIN;
  doc.y = top + height + 6;
  doc.fillColor(INK).fontSize(9);
  paintLegend(doc, t);
}

/** What the legend explains, in its order. */
const LEGEND: readonly Stroke['state'][] = ['unseen', 'seen', 'measured', 'defect', 'covered', 'water'];

/** The legend. */
function paintLegend(doc: Pdf, t: Words): void {
  let x = MARGIN;
  const y = doc.y + 6;
  for (const state of LEGEND) {
    const tooth = `M${x} ${y}L${x + 5} ${y - 3}L${x + 10} ${y + 3}L${x + 15} ${y - 3}L${x + 20} ${y}`;
    paintStroke(doc, { state, path: state === 'defect' ? tooth : `M${x} ${y}L${x + 20} ${y}` });
    if (state === 'water') paintStroke(doc, { state: 'measured', path: `M${x} ${y + 3}L${x + 20} ${y + 3}` });
    if (state === 'measured' || state === 'covered')
      paintStroke(doc, { state: 'tick', path: `M${x + 10} ${y - 3}L${x + 10} ${y + 3}` });
    const label = t(`line.${state}`);
    doc
      .fontSize(8)
      .fillColor(SOFT)
      .text(label, x + 25, y - 5, { lineBreak: false });
    x += 25 + doc.widthOfString(label) + 14;
  }
  doc.x = MARGIN;
  doc.y = y + 10;
  doc.fontSize(9).fillColor(INK);
}
