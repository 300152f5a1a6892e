import type { FirmSettings } from '@careful-seam/contract/api/firm';
import { orphansByReason } from '@careful-seam/contract/record/notCounted';
import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { allEvidence, type ShowerState } from '@careful-seam/core/log/state';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { toldTogether } from '@careful-seam/core/proof/shown/toldTogether';
import { floorSize } from '@careful-seam/core/shower/geometry/floorSize';
import { showLength } from '@careful-seam/core/units/length';
import { datedWords } from '@careful-seam/words/sentences/moments';
import {
  becauseSentence,
  besideSentence,
  blockerSentence,
  type ShownUnit,
} from '@careful-seam/words/sentences/sentences';
import type { Language, Words } from '@careful-seam/words/texts/language';
import { elementName, faceName } from '@careful-seam/words/texts/names';
import { makeWords } from '@careful-seam/words/texts/words';
import { recordLedger } from '../record/buildRecord';
import { paintCalls, paintDefects } from './paintDefects';
import { paintFloods } from './paintFlood';
import { paintMap } from './paintMap';
import { paintMembrane } from './paintMembrane';
import { paintPictures } from './paintPictures';
import { paintCorrections, paintNotes, paintProducts, paintWays } from './paintRules';
import { bottomOf, HOLD, heading, INK, line, MARGIN, newSheet, SOFT, table, toBuffer } from './recordSheet';

/** A document that is painted. */
type Pdf = PDFKit.PDFDocument;

/** For whom it is painted. */
export interface PaintOptions {
  /** In what lengths are told. */
  unit: ShownUnit;
  /** Its language. */
  language: Language;
  /** Bytes of a picture, or null while it has not arrived. */
  picture: (hash: string) => Promise<Buffer | null>;
  /** Whose record it is; the bytes of its logo where it has one. */
  firm: { name: string; licence: string; logo: Buffer | null; paper: FirmSettings['paper'] };
}

/** What each part is painted with. */
export interface Paper {
  /** The document that is painted. */
  doc: Pdf;
  /** Words in the language of the paper. */
  t: Words;
  /** What is told. */
  record: ShowerRecord;
  /** The shower as it stands. */
  state: ShowerState;
  /** In what lengths are told. */
  unit: ShownUnit;
  /** A moment in the time of the site, in words. */
  when: (iso: string) => string;
}

/** A length in words. */
export const length = (paper: Paper, mm: number): string => showLength(mm, paper.unit);

/** Room of the logo at the top right, points. */
const LOGO = { width: 130, height: 44 };

/** The firm at the head of its record: its logo at the right, its name and licence beside. */
async function paintFirm(doc: Pdf, { name, licence, logo }: PaintOptions['firm']): Promise<void> {
  const x = doc.page.width - MARGIN - LOGO.width;
  if (logo) {
    const { default: sharp } = await import('sharp');
    // The sheet takes JPEG and PNG; a logo may be WebP.
    const png = await sharp(logo)
      .png()
      .toBuffer()
      .catch(() => null);
    if (png) doc.image(png, x, MARGIN - 12, { fit: [LOGO.width, LOGO.height], align: 'right' });
  }
  const y = MARGIN - 12 + (logo ? LOGO.height + 3 : 0);
  doc.font('text').fontSize(8).fillColor(SOFT);
  doc.text([name, licence].filter((part) => part !== '').join(' · '), x, y, { width: LOGO.width, align: 'right' });
  doc.fillColor(INK);
}

/** What it is of. */
function paintTop({ doc, t, record, state, unit, when }: Paper): void {
  doc.font('strong').fontSize(18).text(record.shower.name, MARGIN, MARGIN).font('text').fontSize(10).fillColor(SOFT);
  const method = state.rules?.method.label ?? '';
  const g = state.geometry?.model;
  const floor = g ? floorSize(g) : null;
  const size = floor ? `${showLength(floor.widthMm, unit)} x ${showLength(floor.depthMm, unit)}` : '';
  doc.text(`${record.shower.job} · ${size} · ${method} · ${state.rules?.book.title ?? ''}`);
  doc.text(`${t('record.title')} · ${when(record.madeAt)} (${record.shower.timeZone})`).fillColor(INK);
}

/** How much seam there is and how it stands. */
function paintFigures(paper: Paper): void {
  const { doc, t, record, state } = paper;
  heading(doc, t('record.figures'));
  const { byState, totalMm, waterMm } = record.figures;
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const)
    .filter((s) => (byState[s] ?? 0) > 0)
    .map((s) => `${length(paper, byState[s] ?? 0)} ${t(`line.${s}`)}`);
  if (waterMm > 0) parts.push(`${length(paper, waterMm)} ${t('line.water')}`);
  line(doc, `${t('record.ofSeam', { total: length(paper, totalMm) })}: ${parts.join(', ')}.`);
  const { together, of } = toldTogether(allEvidence(state));
  if (together > 0) line(doc, t('record.together', { count: together, of }), SOFT);
  line(doc, t('record.proves'), SOFT);
}

/** Stage by stage. */
function paintStages(paper: Paper): void {
  const { doc, t, record, state, when } = paper;
  heading(doc, t('record.stages'));
  if (record.notInspected.length > 0) line(doc, t('record.notInspected', { stages: record.notInspected.join(', ') }));
  for (const stage of record.stages) {
    const label = state.rules?.method.stages.find((s) => s.key === stage.key)?.label ?? stage.key;
    const word = t(`stageWord.${stage.word}`);
    const released =
      stage.word === 'released' && stage.releasedBy
        ? t('record.releasedBy', { name: stage.releasedBy, at: when(stage.releasedAt!) })
        : word;
    line(
      doc,
      `${label}: ${stage.word === 'contested' ? t('record.contested') : released}`,
      stage.word === 'released' ? INK : HOLD,
    );
    const here = state.stages.get(stage.key);
    for (const work of stage.work)
      line(doc, `    ${t('record.work', { ...work, at: when(work.finishedAt), told: when(work.toldAt) })}`, SOFT);
    if (stage.imported) line(doc, `    ${t('record.imported')}`, HOLD);
    if (here?.because) line(doc, `    ${becauseSentence(t, here.because)}`, HOLD);
    if (state.geometry)
      for (const b of here?.beside ?? [])
        line(doc, `    ${besideSentence(t, state.geometry.model, b.judgement, paper.unit)}`, HOLD);
    if (stage.word === 'released' || !state.rules || !state.geometry) continue;
    for (const b of blockersOf(state, stage.key).slice(0, 12)) line(doc, `    ${placed(paper, b)}`, SOFT);
  }
}

/** A blocker with its place. */
function placed({ t, state, unit }: Paper, blocker: ReturnType<typeof blockersOf>[number]): string {
  const model = state.geometry!.model;
  const where = blocker.kind === 'check' ? `${elementName(t, model, blocker.element)}: ` : '';
  return `${where}${blockerSentence(t, model, state.rules!.book, blocker, unit)}`;
}

/** Seam by seam. */
function paintSeams(paper: Paper): void {
  const { doc, t, record, state } = paper;
  const model = state.geometry?.model;
  if (!model) return;
  heading(doc, t('record.seams'));
  const sum = (seam: ShowerRecord['seams'][number], s: string) =>
    seam.pieces.filter((p) => p.state === s).reduce((x, p) => x + p.toMm - p.fromMm, 0);
  const show = (mm: number) => (mm < 0.5 ? '' : length(paper, mm));
  const asked = record.seams.filter((s) => s.pieces.some((p) => p.state !== 'not-required'));
  table(
    doc,
    [0.36, 0.13, 0.13, 0.13, 0.13, 0.12],
    [
      [
        t('column.seam'),
        t('column.length'),
        t('column.measured'),
        t('column.seen'),
        t('column.unseen'),
        t('column.defect'),
      ],
      ...asked.map((s) => [
        elementName(t, model, s.id),
        show(s.lengthMm),
        show(sum(s, 'measured')),
        show(sum(s, 'seen')),
        show(sum(s, 'unseen') + sum(s, 'covered')),
        show(sum(s, 'defect')),
      ]),
    ],
  );
}

function paintReadings(paper: Paper): void {
  const { doc, t, record, state, when } = paper;
  const model = state.geometry?.model;
  if (!model || record.readings.length === 0) return;
  heading(doc, t('record.readings'));
  const labels = new Map(state.rules?.method.stages.flatMap((s) => s.checks.map((c) => [c.id, c.label] as const)));
  const note = { counts: '', voided: ` (${t('record.voided')})`, 'look-again': ` (${t('record.lookAgain')})` };
  table(
    doc,
    [0.34, 0.2, 0.12, 0.34],
    [
      [t('column.seam'), t('column.check'), t('column.value'), t('column.who')],
      ...record.readings.map((r) => [
        `${elementName(t, model, r.element)}${r.side ? `, ${t('side', { part: faceName(t, model, r.side) })}` : ''} ${state.seamById.has(r.element) ? t('record.at', { at: length(paper, r.atMm) }) : ''}`,
        labels.get(r.check) ?? r.check,
        length(paper, r.valueMm),
        `${r.by}, ${when(r.at)}${note[r.counts]}`,
      ]),
    ],
  );
}

function checkLabel(state: ShowerState, stage: string, check: string): string {
  const checks = state.rules?.method.stages.find((s) => s.key === stage)?.checks ?? [];
  return checks.find((c) => c.id === check)?.label ?? check;
}

function paintExceptions(paper: Paper): void {
  const { doc, t, record, state, when } = paper;
  heading(doc, t('record.deviations'));
  const model = state.geometry?.model;
  const lines = [
    ...record.deviations
      .filter((d) => d.accepted && !d.ended)
      .map((d) =>
        [
          `${model ? elementName(t, model, d.element) : d.element}, ${checkLabel(state, d.stage, d.check)} (${t(`verdict.${d.verdict}`)}):`,
          `${t('record.asked', { name: d.askedBy, at: when(d.askedAt), reason: d.reason })};`,
          t('record.decidedAt', { name: d.decidedBy, at: when(d.decidedAt!), reason: d.decisionReason }),
        ].join(' '),
      ),
    ...record.looks
      .filter((l) => l.answer === 'not-applicable' && l.counts === 'counts')
      .map(
        (l) =>
          `${model ? elementName(t, model, l.element) : l.element}: ${t('answer.not-applicable')}: ${l.reason} (${l.by})`,
      ),
  ];
  for (const text of lines.length > 0 ? lines : [t('record.none')]) line(doc, text);
}

function paintEnd({ doc, t, record, when }: Paper): void {
  if (record.notCounted.length > 0) heading(doc, t('record.notCounted'));
  for (const [why, count] of orphansByReason(record.notCounted)) line(doc, `${count} × ${t(`orphan.${why}`)}`, HOLD);
  heading(doc, t('record.deference'));
  for (const sentence of record.deference) line(doc, sentence);
  if (record.cautions.length > 0) heading(doc, t('record.caution'));
  for (const sentence of record.cautions) line(doc, sentence, SOFT);
  doc.moveDown(0.8).font('strong');
  if (record.signatures.length === 0) line(doc, t('record.unsigned'), HOLD);
  for (const s of record.signatures) {
    line(doc, t('record.signed', { name: s.name, at: when(s.at), hash: s.ledgerHash.slice(0, 16) }));
    if (s.imported) line(doc, `    ${t('record.imported')}`, HOLD);
  }
  doc.font('text');
}

function paintFeet({ doc, t, record }: Paper): void {
  const { start, count } = doc.bufferedPageRange();
  for (let i = 0; i < count; i += 1) {
    doc.switchToPage(start + i);
    doc.page.margins.bottom = 0;
    doc.fontSize(7).fillColor(SOFT);
    doc.text(t('record.head', { seq: record.head.seq, hash: record.head.hash ?? '' }), MARGIN, bottomOf(doc) + 12, {
      lineBreak: false,
    });
    doc.text(t('record.page', { page: i + 1, pages: count }), doc.page.width - MARGIN - 60, bottomOf(doc) + 12, {
      lineBreak: false,
    });
  }
}

/** The record as PDF: map as vectors, ledger in figures, readings, defects with pictures, head, cautions, deference. */
export async function paintRecord(record: ShowerRecord, state: ShowerState, options: PaintOptions): Promise<Buffer> {
  const doc = await newSheet(
    `${record.shower.name} · ${record.shower.job}`,
    new Date(record.madeAt),
    options.firm.paper,
  );
  const t = makeWords(options.language).t;
  const when = (iso: string) => datedWords(Date.parse(iso), record.shower.timeZone);
  const paper: Paper = { doc, t, record, state, unit: options.unit, when };
  await paintFirm(doc, options.firm);
  paintTop(paper);
  paintFigures(paper);
  if (state.geometry) {
    heading(doc, t('record.map'));
    paintMap(doc, t, state.geometry.model, recordLedger(state).lines, 330);
  }
  paintStages(paper);
  paintMembrane(paper);
  await paintFloods({ ...paper, zone: record.shower.timeZone });
  paintSeams(paper);
  await paintDefects(paper, options.picture);
  await paintCalls(paper, options.picture);
  await paintPictures(paper, options.picture);
  paintReadings(paper);
  paintExceptions(paper);
  paintNotes(paper);
  paintCorrections(paper, (mm) => showLength(mm, paper.unit, 32));
  paintProducts(paper);
  paintWays(paper);
  paintEnd(paper);
  paintFeet(paper);
  return toBuffer(doc);
}
