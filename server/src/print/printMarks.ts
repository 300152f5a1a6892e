import type { FirmSettings } from '@careful-seam/contract/api/firm';
import { FALL_RESERVE_MM, fallDesign, MAX_FALL, MIN_FALL } from '@careful-seam/core/floor/fall/fallDesign';
import { type MarkedEdge, wallMarks } from '@careful-seam/core/floor/fall/wallMarks';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import { showLength } from '@careful-seam/core/units/length';
import { fallWords, type ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Language } from '@careful-seam/words/texts/language';
import { faceName } from '@careful-seam/words/texts/names';
import { makeWords } from '@careful-seam/words/texts/words';
import type { LoadedShower } from '../showers/loadShower';
import { HAIR, HOLD, heading, INK, line, MARGIN, need, newSheet, SOFT, toBuffer } from './recordSheet';

const EVERY_MM = 304.8;
const STRIP = 70;

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;

/** One wall: the level line at the drain's height, the slope over it, and each mark with its figure. */
function paintStrip(
  doc: Pdf,
  { lengthMm, marks }: MarkedEdge,
  longestMm: number,
  highestMm: number,
  unit: ShownUnit,
): void {
  need(doc, STRIP + 30);
  const scale = (doc.page.width - 2 * MARGIN) / longestMm;
  const up = (STRIP - 26) / Math.max(1, highestMm);
  const foot = doc.y + STRIP;
  const x = (mm: number) => MARGIN + mm * scale;
  doc.lineWidth(0.6).strokeColor(HAIR).moveTo(x(0), foot).lineTo(x(lengthMm), foot).stroke();
  doc.lineWidth(1.2).strokeColor(INK);
  marks.forEach((m, i) => {
    const y = foot - m.aboveDrainMm * up;
    if (i === 0) doc.moveTo(x(0), y);
    else doc.lineTo(x(m.alongMm), y);
  });
  doc.stroke();
  for (const m of marks) {
    const y = foot - m.aboveDrainMm * up;
    doc
      .lineWidth(0.8)
      .moveTo(x(m.alongMm), foot + 2)
      .lineTo(x(m.alongMm), y - 2)
      .stroke();
    const text = showLength(m.aboveDrainMm, unit).replace(/ (in|mm)$/, '');
    const width = doc.fontSize(8).widthOfString(text);
    const left = Math.min(Math.max(MARGIN, x(m.alongMm) - width / 2), doc.page.width - MARGIN - width);
    doc.fillColor(m.corner ? INK : SOFT).text(text, left, y - 13, { lineBreak: false });
    const along = showLength(m.alongMm, unit).replace(/ (in|mm)$/, '');
    doc
      .fillColor(SOFT)
      .text(along, Math.min(x(m.alongMm) - 4, doc.page.width - MARGIN - 16), foot + 4, { lineBreak: false });
  }
  doc.fillColor(INK).fontSize(9);
  doc.x = MARGIN;
  doc.y = foot + 20;
}

/**
 * Marks for a sloped bed, wall by wall, over a level line at the height of the drain's rim. One height all round where
 * that keeps every path within its limits, else each place its own. Null before there are dimensions.
 */
export async function printMarks(
  { row, state }: LoadedShower,
  { unit, paper, language, now }: { unit: ShownUnit; paper: FirmSettings['paper']; language: Language; now: Date },
): Promise<Buffer | null> {
  if (!state.geometry) return null;
  const { geometry } = state.geometry.model;
  const t = makeWords(language).t;
  const { footprint } = geometry;
  const drain = { xMm: geometry.drain.xMm, yMm: geometry.drain.yMm };
  const design = fallDesign({ footprint, drain, minFall: MIN_FALL, maxFall: MAX_FALL, reserveMm: FALL_RESERVE_MM });
  if (!design.ok) return null;
  const level = design.value.verdict === 'pass';
  const reserveMm = level ? design.value.reserveThatFitsMm : FALL_RESERVE_MM;
  const edges = wallMarks({ footprint, drain, minFall: MIN_FALL, reserveMm, level, everyMm: EVERY_MM });
  const doc = await newSheet(`${row.name} · ${row.job}`, now, paper);
  doc
    .font('strong')
    .fontSize(16)
    .text(t('marks.title', { name: row.name, job: row.job }), MARGIN, MARGIN)
    .font('text')
    .fontSize(9);
  line(doc, t('marks.how', { every: showLength(EVERY_MM, unit) }));
  line(
    doc,
    t(level ? 'marks.level' : 'marks.own', {
      rise: showLength(design.value.riseMm + reserveMm, unit),
      steepest: fallWords(t, design.value.steepestFall, unit),
      most: fallWords(t, MAX_FALL, unit),
    }),
    level ? INK : HOLD,
  );
  line(doc, t('marks.source', { reserve: showLength(reserveMm, unit) }), SOFT);
  const longest = Math.max(...edges.map((e) => e.lengthMm));
  const highest = Math.max(...edges.flatMap((e) => e.marks.map((m) => m.aboveDrainMm)));
  for (const edge of edges) {
    const spec = geometry.edges[edge.edge]!;
    const face = `${spec.kind === 'curb' ? 'curb' : 'wall'}:${edgeId(geometry, edge.edge)}${spec.kind === 'curb' ? ':inner' : ''}`;
    const known = state.geometry.model.faces.some((f) => f.id === face);
    heading(doc, known ? faceName(t, state.geometry.model, face) : t('marks.openEdge'));
    paintStrip(doc, edge, longest, highest, unit);
  }
  return toBuffer(doc);
}
