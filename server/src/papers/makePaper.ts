import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { floodCalendar } from '@careful-seam/files/floodCalendar';
import { floodVisits } from '@careful-seam/files/floodVisits';
import { nameTimesIn } from '@careful-seam/words/sentences/moments';
import type { Language } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import type { DataSource } from 'typeorm';
import { readingsCsv } from '../files/readingsCsv';
import { writeShowersFile } from '../files/showersFile';
import { firmKey, signRecord } from '../firm/firmKey';
import { readSettings } from '../firm/settings';
import { readPhoto } from '../photos/photoStore';
import { paintRecord } from '../print/paintRecord';
import { printMap } from '../print/printMap';
import { printMarks } from '../print/printMarks';
import { buildRecord } from '../record/buildRecord';
import { Refusal } from '../refusals/refusal';
import { type LoadedShower, loadShower } from '../showers/loadShower';
import { oneShowerRow, showerRows } from '../showers/showerRows';

/** In what lengths are told. */
type Unit = 'in' | 'mm';

/** Everything that leaves as a file, by what it is made of. */
export type Paper =
  | {
      what: 'record.pdf' | 'map.pdf' | 'marks.pdf' | 'readings.csv' | 'flood.ics';
      shower: string;
      unit: Unit;
      /** What a person reads is written in the reader's language; data for programs is in none. */
      language: Language;
    }
  | { what: 'record.json'; shower: string }
  | { what: 'shower.json'; shower: string }
  | { what: 'job.json'; job: string };

/** What a paper is made from. */
export interface PaperPlace {
  /** The database. */
  store: DataSource;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is asked at. */
  now: Date;
}

/** The record as data. Once a person signed it, the firm's key stands behind every word of it. */
async function signedRecord(shower: LoadedShower, { store, now }: PaperPlace): Promise<ShowerRecord> {
  const record = buildRecord(shower, now);
  if (record.signatures.length === 0) return record;
  const key = await firmKey(store, now);
  const firmSignature = { algorithm: 'Ed25519' as const, publicKey: key.publicKey, signature: signRecord(record, key) };
  return { ...record, firmSignature };
}

/** When a flood must be read, as a calendar. */
function calendar({ row, state }: LoadedShower, language: Language, now: Date): string {
  const check = state.rules && floodCheckOf(state.rules.method)?.check;
  if (!state.flood?.running || !check) throw new Refusal('no-water', 'flood');
  const { t } = makeWords(language);
  return floodCalendar(floodVisits(t, row, state.flood, check.readWithinHours), t('calendar.name'), now.getTime());
}

/** A sheet, refused where there is nothing to draw. */
const drawn = (sheet: Buffer | null): Buffer => {
  if (sheet) return sheet;
  throw new Refusal('no-dimensions', 'geometry');
};

/** Makes a paper: its bytes or its text. Throws a `Refusal` where there is nothing to make it of. */
export async function makePaper(paper: Paper, place: PaperPlace): Promise<Buffer | string> {
  const { store, picturePlace, now } = place;
  if (paper.what === 'job.json') {
    const rows = await showerRows(store, 'WHERE s.job = $1 ORDER BY s.name', [paper.job]);
    if (rows.length === 0) throw new Refusal('no-such-job', 'job');
    return JSON.stringify(await writeShowersFile(store, picturePlace, rows, paper.job, now));
  }
  const row = await oneShowerRow(store, paper.shower);
  if (!row) throw new Refusal('no-such-shower', 'showerId');
  if (paper.what === 'shower.json')
    return JSON.stringify(await writeShowersFile(store, picturePlace, [row], null, now));
  if (paper.what === 'record.json') return JSON.stringify(await signedRecord(await loadShower(store, row, now), place));
  const { unit, language } = paper;
  nameTimesIn(language);
  const shower = await loadShower(store, row, now, language);
  const firm = await readSettings(store);
  switch (paper.what) {
    case 'record.pdf': {
      const picture = (hash: string) => readPhoto(picturePlace, hash).catch(() => null);
      const logo = firm.logo === null ? null : await picture(firm.logo);
      return paintRecord(buildRecord(shower, now), shower.state, { unit, language, picture, firm: { ...firm, logo } });
    }
    case 'map.pdf':
      return drawn(await printMap(shower, { paper: firm.paper, language, now }));
    case 'marks.pdf':
      return drawn(await printMarks(shower, { unit, paper: firm.paper, language, now }));
    case 'readings.csv':
      return readingsCsv(shower.state, language);
    case 'flood.ics':
      return calendar(shower, language, now);
    default:
      throw paper satisfies never;
  }
}
