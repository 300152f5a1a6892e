import type { Sign, When } from '../log/callBodies';

/**
 * What tracing begins with before a firm has found anything: **invented starting values**, all of them, chosen so that what the trade
 * page names as typical comes first. Only their ratios matter. A firm's own finds move the rates of kinds (`rates.ts`).
 */

/** What is suspected of letting water through, by what a person of the trade would call it. */
export const SUSPECT_KINDS = [
  'floor-seam',
  'wall-seam',
  'niche',
  'bench',
  'curb',
  'curb-end',
  'corner',
  'opening',
  'drain',
  'edge',
  'ceiling',
  'supply',
  'drain-line',
  'door',
  'bed',
  'vapour',
] as const;
/** One of them. */
export type SuspectKind = (typeof SUSPECT_KINDS)[number];

/** Leaks to be expected of so much of a kind against others: of a metre of seam, or of one piece [invented starting values]. */
export const RATES: Readonly<Record<SuspectKind, number>> = {
  'floor-seam': 0.5,
  'wall-seam': 0.15,
  niche: 0.6,
  bench: 0.6,
  curb: 0.7,
  'curb-end': 2.2,
  corner: 1.2,
  opening: 1.6,
  drain: 4,
  edge: 0.1,
  ceiling: 0.1,
  supply: 2,
  'drain-line': 2,
  door: 2,
  bed: 2,
  vapour: 0.5,
};

/** How much of each an ordinary shower has, m or pieces: to turn rates into shares [invented starting values]. */
export const USUAL_AMOUNT: Readonly<Record<SuspectKind, number>> = {
  'floor-seam': 4,
  'wall-seam': 5,
  niche: 4,
  bench: 2,
  curb: 4,
  'curb-end': 2,
  corner: 8,
  opening: 2,
  drain: 1,
  edge: 6,
  ceiling: 1,
  supply: 1,
  'drain-line': 1,
  door: 1,
  bed: 1,
  vapour: 1,
};

/** What the ledger says of a stretch or a piece. */
export const LEDGER_WORDS = ['water', 'measured', 'seen', 'not-asked', 'unseen', 'covered', 'defect'] as const;
/** One of them. */
export type LedgerWord = (typeof LEDGER_WORDS)[number];

/** By how much it is suspected more or less for that [invented starting values]. */
export const LEDGER_FACTORS: Readonly<Record<LedgerWord, number>> = {
  water: 0.1,
  measured: 0.4,
  seen: 0.6,
  'not-asked': 1,
  unseen: 1.6,
  covered: 2.5,
  defect: 6,
};
/** Built again once, or accepted although it failed [invented starting values]. */
export const REDONE_FACTOR = 1.3;
export const ACCEPTED_FACTOR = 3;

/** How a kind of leak behaves: from pipes under pressure, below the drain, below the water line, by spray alone, at the door, slowly. */
export const BEHAVIOURS = ['supply', 'drain-line', 'basin', 'spray', 'door', 'slow'] as const;
/** One of them. */
export type Behaviour = (typeof BEHAVIOURS)[number];

/** How likely each behaviour shows at each time; rows add up to one [invented starting values]. */
export const WHEN_GIVEN: Readonly<Record<Behaviour, Readonly<Record<When, number>>>> = {
  supply: {
    'at-once': 0.15,
    'after-long': 0.05,
    always: 0.65,
    'door-closed': 0.02,
    'with-people': 0.08,
    neighbours: 0.05,
  },
  'drain-line': {
    'at-once': 0.55,
    'after-long': 0.15,
    always: 0.03,
    'door-closed': 0.05,
    'with-people': 0.12,
    neighbours: 0.1,
  },
  basin: {
    'at-once': 0.35,
    'after-long': 0.45,
    always: 0.05,
    'door-closed': 0.03,
    'with-people': 0.11,
    neighbours: 0.01,
  },
  spray: {
    'at-once': 0.35,
    'after-long': 0.35,
    always: 0.03,
    'door-closed': 0.06,
    'with-people': 0.2,
    neighbours: 0.01,
  },
  door: {
    'at-once': 0.35,
    'after-long': 0.2,
    always: 0.01,
    'door-closed': 0.28,
    'with-people': 0.15,
    neighbours: 0.01,
  },
  slow: {
    'at-once': 0.03,
    'after-long': 0.35,
    always: 0.5,
    'door-closed': 0.02,
    'with-people': 0.09,
    neighbours: 0.01,
  },
};

/** Further signs, each with how likely it is where a behaviour is at work [invented starting values]. */
export const SIGN_GIVEN: Readonly<Record<Sign, Readonly<Record<Behaviour, number>>>> = {
  smell: { supply: 0.1, 'drain-line': 0.4, basin: 0.25, spray: 0.2, door: 0.1, slow: 0.6 },
  mould: { supply: 0.25, 'drain-line': 0.2, basin: 0.35, spray: 0.45, door: 0.35, slow: 0.5 },
  'dark-floor': { supply: 0.03, 'drain-line': 0.08, basin: 0.15, spray: 0.08, door: 0.05, slow: 0.8 },
};

/** How far from its hole water shows, as the deviation of a bell curve in plan, mm; and how often it shows anywhere [invented starting values]. */
export const SPREAD_MM = 400;
export const ANYWHERE = 0.05;
/** Water wicks so far up, mm; above that it shows seldom [invented starting values]. */
export const WICKS_MM = 250;
export const SELDOM = 0.15;

/** How likely a test shows water that it does not wet, and that it wets, with water standing or running [invented starting values]. */
export const FALSE_WATER = 0.02;
export const STANDING_SHOWS = 0.9;
export const RUNNING_SHOWS = 0.8;
