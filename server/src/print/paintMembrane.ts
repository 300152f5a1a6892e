import type { ShowerRecord } from '@careful-seam/contract/record/record';
import type { ShowerState } from '@careful-seam/core/log/state';
import { hoursWords, temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { areaWords, bucketWords, filmWords } from '@careful-seam/words/sentences/filmWords';
import type { ShownUnit } from '@careful-seam/words/sentences/sentences';
import type { Words } from '@careful-seam/words/texts/language';
import { HOLD, heading, INK, line, SOFT } from './recordSheet';

/** What the membrane is painted with. */
interface Membrane {
  /** The document that is painted. */
  doc: PDFKit.PDFDocument;
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

/** Liquid films zone by zone: coats, mean film, what is missing. */
function paintFilms({ doc, t, record, unit }: Membrane): void {
  if (record.films.length === 0) return;
  heading(doc, t('record.films'));
  for (const f of record.films)
    line(
      doc,
      t('record.film', {
        zone: t(`zone.${f.zone}`),
        coats: f.coats,
        needed: f.coatsNeeded,
        area: areaWords(f.areaM2, unit),
        volume: bucketWords(f.volumeL, unit),
        dry: f.meanDryUm === null ? '–' : filmWords(f.meanDryUm, unit),
        least: f.dryLeastUm === null ? '–' : filmWords(f.dryLeastUm, unit),
        verdict: t(`verdict.${f.verdict}`),
      }),
      f.verdict === 'pass' ? INK : HOLD,
    );
  line(doc, t('record.filmMeans'), SOFT);
}

/** Waits: when the slowest layer was laid and ready, by the label or by the air there was. */
function paintCures({ doc, t, record, state, unit, when }: Membrane): void {
  if (record.cures.length === 0) return;
  heading(doc, t('record.cures'));
  for (const c of record.cures) {
    const stage = state.rules?.method.stages.find((s) => s.key === c.stage);
    const label = stage?.checks.find((k) => k.id === c.check)?.label ?? c.check;
    line(
      doc,
      t(c.readyAt === null ? 'record.cureNever' : 'record.cure', {
        label,
        laid: when(c.laidAt),
        hours: hoursWords(t, c.labelHours),
        ready: c.readyAt === null ? '' : when(c.readyAt),
        why: t(`record.cureBy.${c.airRead ? c.decides : 'unread'}`),
      }),
      c.readyAt === null ? HOLD : INK,
    );
  }
  if (record.air)
    line(
      doc,
      t('record.air', {
        count: record.air.readings,
        from: when(record.air.from),
        to: when(record.air.to),
        coldest: temperatureWords(record.air.coldestC, unit),
        warmest: temperatureWords(record.air.warmestC, unit),
      }),
      SOFT,
    );
}

/** What a record says of films and waits. */
export function paintMembrane(paper: Membrane): void {
  paintFilms(paper);
  paintCures(paper);
}
