import type { FloodEventKind } from '../water/floodEvents';
import type { MoistureAnswer, MoistureMoment } from './bodies';
import type { EntryOf } from './entry';

/** What a flood test may lack of what the rule book asks. */
export const SHORTFALLS = ['layers-missing', 'hours', 'depth', 'over-curb', 'start-look', 'end-look'] as const;
/** What a test lacks of what the rule book asks: by how much (hours, mm, a count), and where. */
export interface Shortfall {
  /** What the test lacks. */
  kind: (typeof SHORTFALLS)[number];
  /** By how much, in the unit of its kind. */
  by: number;
  /** At which place; null where it is the test itself. */
  where: string | null;
}

/** A level that was read, mm above the drain rim, hours after the test's start. */
export interface FloodLevel {
  /** Id of the entry that said it. */
  entry: string;
  /** Which water. */
  of: 'water' | 'pan';
  /** Hours since it was filled. */
  atHours: number;
  /** Over the rim of the drain, or over the bottom of the pan, mm. */
  levelMm: number;
  /** Name of who said it. */
  by: string;
}

/** A look for moisture outside the basin. */
export interface FloodLook {
  /** Id of the entry that said it. */
  entry: string;
  /** Id of a place in the rule book, or words. */
  where: string;
  /** What was seen. */
  answer: MoistureAnswer;
  /** When in the test; null where it was not told. */
  moment: MoistureMoment | null;
  /** What was said with it; may be empty. */
  words: string;
  /** When, by the clock of its device, ISO 8601. */
  at: string;
  /** When, ms since 1970. */
  atMs: number;
  /** Name of who said it. */
  by: string;
}

/** How a test ended. */
export interface FloodEnd {
  /** Id of the entry that said it. */
  entry: string;
  /** When, by the clock of its device, ISO 8601. */
  at: string;
  /** Name of who said it. */
  by: string;
  /** What counts: worked out from the test's own readings and looks. What was stated is kept beside it. */
  verdict: 'pass' | 'fail' | 'undecided' | 'aborted';
  /** What the test lacks of what the rule book asks. */
  short: Shortfall[];
  /** What the person said that it comes to: kept, and never believed. */
  stated: 'pass' | 'fail' | 'undecided' | 'aborted';
  /** Name and version of the calculation that it was judged by; null in entries of the first version. */
  calculation: string | null;
  /** What the readings come to; null where nothing was read. */
  figures: FloodFigures | null;
  /** What was said with it; may be empty. */
  words: string;
}

/** Figures of a verdict, as an ended test keeps them; mm per day. */
export type FloodFigures = NonNullable<EntryOf<'flood-ended'>['body']['figures']>;

/** What was done to the basin that a test proves: from then on it proves nothing. */
export interface Voided {
  /** What was done to the basin. */
  cause: 'redo' | 'work' | 'dimensions';
  /** Id of the entry that said it. */
  entry: string;
  /** When, by the clock of its device, ISO 8601. */
  at: string;
}

/** One flood test as its entries tell it. Hours count from its start; levels are mm above the drain rim. */
export interface FloodTest {
  /** Id of the entry that said it. */
  entry: string;
  /** The stage that it is the test of; null where the rules asked for none when it was started. */
  stage: string | null;
  /** When it was filled, ISO 8601. */
  startedAt: string;
  /** When it was filled, ms since 1970. */
  startMs: number;
  /** Name of who said it. */
  by: string;
  /** Neither ended nor void. */
  running: boolean;
  /** The lowest water line known so far. */
  waterLineMm: number;
  /** The water line it was filled to. */
  filledToMm: number;
  /** As long as the rule book asks, or longer. */
  plannedHours: number;
  /** How it is read. */
  method: 'marks' | 'logger';
  /** Step of the gauge, mm. */
  resolutionMm: number;
  /** Step of the gauge in the pan, mm; null without a pan. */
  panResolutionMm: number | null;
  /** What a pass must exclude, mm a day; null where the firm has set none. */
  smallestLeakMmPerDay: number | null;
  /** Ids of what was prepared. */
  prepared: string[];
  /** Levels by hand. */
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
  /** What happened to the water or the gauge. */
  events: { entry: string; kind: FloodEventKind; of: 'water' | 'pan'; atHours: number; words: string }[];
  /** Air and water, as they were read meanwhile. */
  climate: { entry: string; atHours: number; waterC: number; airC: number; relativeHumidity: number }[];
  /** Looks for moisture. */
  looks: FloodLook[];
  /** Every entry that the verdict depends on, its end apart. */
  inputs: string[];
  /** How it ended; null while it runs. */
  end: FloodEnd | null;
  /** The basin is another one since, or null. */
  voided: Voided | null;
  /** Stages below it that nobody had released when the water went in: a test of what was not there proves nothing. */
  layersMissing: string[];
  /** What lies below this height was proved by water; null: nothing. */
  provedBelowMm: number | null;
}
