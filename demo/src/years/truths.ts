// What is true of the two years that the demo invents. The screens must find it: nothing of it is told to them.
import { DateTime } from 'luxon';

/** A crew of the two years. */
export interface YearsCrew {
  /** Its id. */
  id: string;
  /** Its name. */
  name: string;
  /** Showers that it built. */
  showers: number;
  /** How many times as many defects as the firm it makes at niches. */
  atNiches?: number;
  /** How many times as many it happened to make everywhere: bad luck, in little work. */
  luck?: number;
}

/** Fourteen crews. One is really worse, at niches alone; one only looks worse, and has hardly built anything. */
export const YEARS_CREWS: readonly YearsCrew[] = [
  { id: 'crew-heron', name: 'Crew Heron', showers: 44 },
  { id: 'crew-otter', name: 'Crew Otter', showers: 42 },
  { id: 'crew-wren', name: 'Crew Wren', showers: 40 },
  { id: 'crew-kestrel', name: 'Crew Kestrel', showers: 46, atNiches: 3 },
  { id: 'crew-plover', name: 'Crew Plover', showers: 3, luck: 4 },
  { id: 'crew-marten', name: 'Crew Marten', showers: 38 },
  { id: 'crew-dipper', name: 'Crew Dipper', showers: 36 },
  { id: 'crew-linnet', name: 'Crew Linnet', showers: 35 },
  { id: 'crew-badger', name: 'Crew Badger', showers: 34 },
  { id: 'crew-siskin', name: 'Crew Siskin', showers: 32 },
  { id: 'crew-stoat', name: 'Crew Stoat', showers: 30 },
  { id: 'crew-teal', name: 'Crew Teal', showers: 28 },
  { id: 'crew-vole', name: 'Crew Vole', showers: 24 },
  { id: 'crew-lark', name: 'Crew Lark', showers: 18 },
];

/** The crew that is really worse. */
export const WORSE_CREW = 'crew-kestrel';
/** The crew that only looks worse. */
export const UNLUCKY_CREW = 'crew-plover';

/** Defects to be expected, by what they lie on: of 100 ft of seam, or of 100 corners, drains and openings. */
export const RATES = {
  floor: 2.4,
  wall: 1.2,
  joint: 1.2,
  niche: 5,
  curb: 2.4,
  edge: 0.6,
  corner: 26,
  drain: 12,
  opening: 5,
} as const;
/** What the demo's defects lie on. */
export type YearsGroup = keyof typeof RATES;

/** Shape of the gamma between showers, mean 1: a shower with one defect has others. */
export const CLUSTER_SHAPE = 3;
/** What the training leaves of the defects at corners. */
export const TRAINED = 0.5;
/** Defects of wrong mortar in each shower of the bad month. */
export const MORTAR_IN_A_SHOWER = 5;

/** Months of the two years. */
const MONTHS = 24;
/** Finished showers stay on the tablets for as many days: the two years end before them. */
const QUIET_DAYS = 20;
/** The training lies so many days back at least: there is something after it. */
const AFTER_DAYS = 150;

/** The calendar of the two years, seen from a day. */
export interface YearsCalendar {
  /** First moment, ms since 1970. */
  fromMs: number;
  /** Last moment, ms since 1970. */
  toMs: number;
  /** First day of the training's month, ISO 8601. */
  trainingOn: string;
  /** The month of the wrong mortar, such as 2025-10. */
  mortarMonth: string;
}

/** The training was on the last first of April that is long enough ago; the mortar was wrong in the sixth month before it. */
export function yearsCalendar(todayMs: number): YearsCalendar {
  const today = DateTime.fromMillis(todayMs, { zone: 'America/Chicago' }).startOf('day');
  const april = today.set({ month: 4, day: 1 });
  const training = today.diff(april, 'days').days >= AFTER_DAYS ? april : april.minus({ years: 1 });
  return {
    fromMs: today.minus({ months: MONTHS }).toMillis(),
    toMs: today.minus({ days: QUIET_DAYS }).toMillis(),
    trainingOn: training.toISODate()!,
    mortarMonth: training.minus({ months: 6 }).toFormat('yyyy-MM'),
  };
}
