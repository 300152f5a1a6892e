import type { FloodEventKind } from '../water/floodEvents';
import type { MoistureAnswer, MoistureMoment } from './bodies';
import type { EntryOf } from './entry';

/** What a flood test may lack of what the rule book asks. */
export const SHORTFALLS = ['layers-missing', 'hours', 'depth', 'over-curb', 'start-look', 'end-look'] as const;
/** What a test lacks of what the rule book asks: by how much (hours, mm, a count), and where. */
export interface Shortfall {
  kind: (typeof SHORTFALLS)[number];
  by: number;
  where: string | null;
}

/** A level that was read, mm above the drain rim, hours after the test's start. */
export interface FloodLevel {
  entry: string;
  of: 'water' | 'pan';
  atHours: number;
  levelMm: number;
  by: string;
}

/** A look for moisture outside the basin. */
export interface FloodLook {
  entry: string;
  /** Id of a place in the rule book, or words. */
  where: string;
  answer: MoistureAnswer;
  moment: MoistureMoment | null;
  words: string;
  at: string;
  atMs: number;
  by: string;
}

/** How a test ended. */
export interface FloodEnd {
  entry: string;
  at: string;
  by: string;
  /** What counts: worked out from the test's own readings and looks. What was stated is kept beside it. */
  verdict: 'pass' | 'fail' | 'undecided' | 'aborted';
  /** What the test lacks of what the rule book asks. */
  short: Shortfall[];
  stated: 'pass' | 'fail' | 'undecided' | 'aborted';
  /** Name and version of the calculation that it was judged by; null in entries of the first version. */
  calculation: string | null;
  figures: FloodFigures | null;
  words: string;
}

/** Figures of a verdict, as an ended test keeps them; mm per day. */
export type FloodFigures = NonNullable<EntryOf<'flood-ended'>['body']['figures']>;

/** What was done to the basin that a test proves: from then on it proves nothing. */
export interface Voided {
  cause: 'redo' | 'work' | 'dimensions';
  entry: string;
  at: string;
}

/** One flood test as its entries tell it. Hours count from its start; levels are mm above the drain rim. */
export interface FloodTest {
  entry: string;
  /** The stage that it is the test of; null where the rules asked for none when it was started. */
  stage: string | null;
  startedAt: string;
  startMs: number;
  by: string;
  running: boolean;
  /** The lowest water line known so far. */
  waterLineMm: number;
  /** The water line it was filled to. */
  filledToMm: number;
  plannedHours: number;
  method: 'marks' | 'logger';
  resolutionMm: number;
  panResolutionMm: number | null;
  smallestLeakMmPerDay: number | null;
  prepared: string[];
  levels: FloodLevel[];
  /** A logger's series, by what it measured; a later one takes the place of an earlier one. */
  series: {
    entry: string;
    of: 'water' | 'pan';
    resolutionMm: number;
    file: string;
    hours: number[];
    levelMm: number[];
    by: string;
  }[];
  events: { entry: string; kind: FloodEventKind; of: 'water' | 'pan'; atHours: number; words: string }[];
  climate: { entry: string; atHours: number; waterC: number; airC: number; relativeHumidity: number }[];
  looks: FloodLook[];
  /** Every entry that the verdict depends on, its end apart. */
  inputs: string[];
  end: FloodEnd | null;
  /** The basin is another one since, or null. */
  voided: Voided | null;
  /** Stages below it that nobody had released when the water went in: a test of what was not there proves nothing. */
  layersMissing: string[];
  /** What lies below this height was proved by water; null: nothing. */
  provedBelowMm: number | null;
}
