import type { ShowerRecord } from '@careful-seam/contract/record/record';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { Words } from '@careful-seam/words/texts/language';
import { elementName } from '@careful-seam/words/texts/names';
import { HOLD, heading, INK, line } from './recordSheet';

interface Rules {
  /** The document that is painted. */
  doc: PDFKit.PDFDocument;
  /** Words in the language of the paper. */
  t: Words;
  /** What is told. */
  record: ShowerRecord;
  /** The shower as it stands. */
  state: ShowerState;
  /** A moment in the time of the site, in words. */
  when: (iso: string) => string;
}

/** The products in use: by whom, where their labels were read, and which of them nobody has shown to go together. */
export function paintProducts({ doc, t, record }: Rules): void {
  const { products, pairs } = record.rules ?? { products: [], pairs: [] };
  if (products.length === 0) return;
  heading(doc, t('record.products'));
  for (const p of products)
    line(
      doc,
      t('record.product', { name: p.name, maker: p.maker, readFrom: p.readFrom, kind: t(`lineKind.${p.kind}`) }),
    );
  const nameOf = (id: string) => products.find((p) => p.id === id)?.name ?? id;
  for (const { a, b, together, paper } of pairs)
    line(
      doc,
      t(`together.${together}`, { a: nameOf(a), b: nameOf(b), paper }),
      together === 'one-maker' || together === 'approved' ? INK : HOLD,
    );
}

/** Where the trade disagrees: each choice in a line, of stages that were begun. */
export function paintWays({ doc, t, record }: Rules): void {
  const begun = new Set(record.stages.map((s) => s.key));
  const ways = record.ways.filter((w) => begun.has(w.stage));
  if (ways.length === 0) return;
  heading(doc, t('record.ways'));
  for (const way of ways) {
    const marked = way.effect === 'deviation' || way.effect === 'defect' || way.effect === 'warning';
    line(
      doc,
      t(way.found ? 'record.wayFound' : 'record.wayOwn', { question: way.question, text: way.text }),
      marked ? HOLD : INK,
    );
  }
}

/** What was corrected or taken back afterwards: as it was first, and as it is now. */
export function paintCorrections({ doc, t, record, state, when }: Rules, length: (mm: number) => string): void {
  if (record.corrected.length === 0) return;
  heading(doc, t('record.corrected'));
  const model = state.geometry?.model;
  const stages = state.rules?.method.stages ?? [];
  for (const c of record.corrected) {
    const stage = stages.find((s) => s.key === c.stage);
    const what = [
      c.element && model ? elementName(t, model, c.element) : null,
      stage?.label ?? null,
      stage?.checks.find((k) => k.id === c.check)?.label ?? null,
    ].filter((word) => word !== null);
    const told = {
      what: what.join(', ') || t('record.correctedEntry'),
      first: c.firstMm === null ? '' : length(c.firstMm),
      now: c.nowMm === null ? '' : length(c.nowMm),
      by: c.by,
      at: when(c.at),
      reason: c.reason,
    };
    const key = c.action === 'withdraw' ? 'withdrawn' : c.nowMm === null ? 'otherwise' : 'reading';
    line(doc, t(`record.correctedHow.${key}${c.firstMm === null || key !== 'withdrawn' ? '' : 'Reading'}`, told));
  }
}

/** What somebody wrote down: notes with their place, sums that were worked out on site among them. */
export function paintNotes({ doc, t, record, state, when }: Rules): void {
  if (record.notes.length === 0) return;
  heading(doc, t('record.notes'));
  const model = state.geometry?.model;
  for (const n of record.notes) {
    const where = n.element && model ? `${elementName(t, model, n.element)}: ` : '';
    line(doc, `${where}${n.words} (${n.by}, ${when(n.at)})`);
  }
}
