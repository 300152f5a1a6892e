// Invented showers of an invented firm, written as its people would write them, entry by entry.
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import {
  type LoggerFile,
  type LoggerRow,
  loggerFile,
  simulatedLogger,
} from '@careful-seam/instruments/simulatedLogger';
import { climb, type DemoJob, drawShower } from './demoShowers';
import { type DemoWriter, demoWriter, passStage, release } from './writer';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Water over the rim of the drain, mm: 3 in. */
const FILL_MM = 76.2;
/** What a tape reads to, mm. */
const SIXTEENTH_MM = 25.4 / 16;

/** A test as most are: a day, a logger, a pan beside it. */
const usual = {
  method: 'logger' as const,
  everyHours: 1 / 6,
  hours: 24.5,
  resolutionMm: 0.1,
  scatterMm: 0.1,
  correlationHours: 0.7,
  smallestLeakMmPerDay: 1,
};

/** Only evaporation: the air takes 2.2 mm a day. */
export const tightLogger = (): LoggerRow[] =>
  simulatedLogger({ flood: { ...usual, leakMmPerDay: 0, evaporationMmPerDay: 2.2, seed: 20 } });
/** A slow leak of 3.1 mm a day under 1.9 mm of evaporation. */
const leakingLogger = (): LoggerRow[] =>
  simulatedLogger({ flood: { ...usual, leakMmPerDay: 3.1, evaporationMmPerDay: 1.9, seed: 31 } });
/** Only evaporation, and somebody added half an inch of water in the night. */
export const refilledLogger = (): LoggerRow[] =>
  simulatedLogger({
    flood: { ...usual, leakMmPerDay: 0, evaporationMmPerDay: 2.6, seed: 42 },
    refills: [{ atHours: 13.1, byMm: 12.7 }],
  });

/** A logger file as most write it. */
const plain: LoggerFile = {
  separator: ',',
  decimalComma: false,
  byteOrderMark: false,
  unit: 'mm',
  preamble: [],
  elapsed: 'min',
};
/** One with commas, semicolons and days before months. */
const continental: LoggerFile = {
  separator: ';',
  decimalComma: true,
  byteOrderMark: true,
  unit: 'cm',
  preamble: ['Two-channel level logger', 'Serial 0042'],
  elapsed: 'h',
};

/** The logger files that lie in demo/files, by name. */
export const LOGGER_FILES: Record<string, () => string> = {
  '2a-ensuite-logger.csv': () => loggerFile(tightLogger(), plain),
  'b9-logger.csv': () => loggerFile(refilledLogger(), continental),
};

/** Fills a shower and begins its test. */
function fill(w: DemoWriter, atMs: number, method: 'marks' | 'logger'): void {
  const check = floodCheckOf(w.state().rules!.method)!.check;
  const resolutionMm = method === 'marks' ? SIXTEENTH_MM : 0.1;
  w.until(atMs);
  w.write('inspector', 'flood-started', {
    waterLineMm: FILL_MM,
    plannedHours: check.plannedHours,
    method,
    resolutionMm,
    panResolutionMm: resolutionMm,
    smallestLeakMmPerDay: check.smallestLeakMmPerDay,
    prepared: check.preparation.map((p) => p.id),
  });
  for (const moment of ['start', 'leaving'] as const)
    for (const { id } of check.places)
      w.write('inspector', 'moisture-look', { where: id, found: false, answer: 'dry', moment });
}

/** Reads water and pan by hand. */
function markBoth(w: DemoWriter): void {
  w.write('inspector', 'flood-reading', { levelMm: FILL_MM, instrument: 'mark', of: 'water', typed: '0' });
  w.write('inspector', 'flood-reading', { levelMm: 0, instrument: 'mark', of: 'pan', typed: '0' });
}

/** Takes a logger file in, as its screen would. */
function takeIn(w: DemoWriter, rows: readonly LoggerRow[]): void {
  const startAt = w.state().flood!.startedAt;
  const entry = (of: 'water' | 'pan', levels: number[]) => ({
    levelMm: Math.min(...levels),
    instrument: 'logger',
    of,
    resolutionMm: 0.1,
    series: {
      startAt,
      minutes: rows.map((r) => Math.round(r.hours * 60)),
      levelMm: levels,
      file: '9-garden-logger.csv',
    },
  });
  const rounded = (mm: number) => Math.round(mm * 1000) / 1000;
  w.write(
    'inspector',
    'flood-reading',
    entry(
      'water',
      rows.map((r) => rounded(FILL_MM + r.waterMm - rows[0]!.waterMm)),
    ),
  );
  w.write(
    'inspector',
    'flood-reading',
    entry(
      'pan',
      rows.map((r) => rounded(r.panMm - rows[0]!.panMm)),
    ),
  );
}

/** Climbs to the flood: everything below released, the mortar's wait over. */
function readyForWater(job: DemoJob, todayMs: number, seed: number, find: FindRuleBook): DemoWriter {
  const startMs = todayMs - 96 * HOUR_MS;
  const w = demoWriter(`${job.job} ${job.name}`, startMs, seed, find);
  drawShower(w, job);
  climb(w, job.crew, 'drain-tie-in', new Date(startMs).toISOString().slice(0, 10));
  passStage(w, 'inspector', 'drain-tie-in');
  release(w, 'inspector', 'drain-tie-in');
  w.wait(26 * 60);
  release(w, 'inspector', 'cure');
  return w;
}

/** Four showers with water in them: a logger's file still to take in, marks still to read, a slow leak, a refill. */
export function demoFloods(todayMs: number, find: FindRuleBook): DemoWriter[] {
  const size = { widthIn: 60, depthIn: 36, drainIn: [30, 18] as [number, number] };
  const make = (name: string, job: string, crew: DemoJob['crew'], seed: number) =>
    readyForWater({ name, job, crew, size }, todayMs, seed, find);

  const evaporation = make('2A ensuite', 'Larkspur House', 'heron', 11);
  fill(evaporation, todayMs - 25 * HOUR_MS, 'logger');

  const marks = make('2B ensuite', 'Larkspur House', 'heron', 12);
  fill(marks, todayMs - 24.3 * HOUR_MS, 'marks');
  // The first mark is made when the water has settled.
  marks.wait(40);
  markBoth(marks);

  const leak = make('9 garden', 'Tannery Row', 'otter', 13);
  fill(leak, todayMs - 25.5 * HOUR_MS, 'logger');
  leak.until(todayMs - 0.5 * HOUR_MS);
  takeIn(leak, leakingLogger());

  const refill = make('B9', "Miller's Court", 'wren', 14);
  fill(refill, todayMs - 25 * HOUR_MS, 'logger');
  return [evaporation, marks, leak, refill];
}
