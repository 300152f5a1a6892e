import type { FirmSettings } from '@careful-seam/contract/api/firm';
import { datedWords } from '@careful-seam/words/sentences/moments';
import type { Language } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import { recordLedger } from '../record/buildRecord';
import type { LoadedShower } from '../showers/loadShower';
import { paintMap } from './paintMap';
import { bottomOf, INK, MARGIN, newSheet, SOFT, toBuffer } from './recordSheet';

/** The unfolded map alone on one sheet laid across, as large as it goes, with the ledger's head. Null before it is drawn. */
export async function printMap(
  { row, state }: LoadedShower,
  { paper, language, now }: { paper: FirmSettings['paper']; language: Language; now: Date },
): Promise<Buffer | null> {
  if (!state.geometry) return null;
  const doc = await newSheet(`${row.name} · ${row.job}`, now, paper, 'landscape');
  const zone = state.created?.body.timeZone ?? 'UTC';
  doc.font('strong').fontSize(14).text(`${row.name} · ${row.job}`, MARGIN, MARGIN);
  const when = datedWords(now.getTime(), zone);
  const head = row.headHash ? ` · ${row.headSeq} ${row.headHash.slice(0, 16)}` : '';
  doc
    .font('text')
    .fontSize(9)
    .fillColor(SOFT)
    .text(`${state.rules?.method.label ?? ''} · ${when} (${zone})${head}`)
    .fillColor(INK)
    .moveDown(1);
  paintMap(doc, makeWords(language).t, state.geometry.model, recordLedger(state).lines, bottomOf(doc) - doc.y - 24);
  return toBuffer(doc);
}
