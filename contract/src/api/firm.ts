import { z } from 'zod';
import { LookPlan } from './crews';
import { LeakBook, NO_LEAKS } from './leaks';
import { Crew } from './messages';
import { FIRST_PLAN_BOOK, PlanBook } from './plan';

/** A zone of the IANA list, such as America/Chicago. */
export const TimeZone = z.string().max(60).refine(isTimeZone, 'time-zone-unknown');
function isTimeZone(zone: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

export const PAPERS = ['letter', 'a4'] as const;

/** What the firm sets for everybody. Rates are the firm's own; a rate of null means that the firm has set none. */
export const FirmSettings = z.object({
  name: z.string().trim().min(1).max(120),
  /** As records show them; empty while nobody typed them. */
  address: z.string().trim().max(300),
  licence: z.string().trim().max(80),
  /** SHA-256 of the picture that stands on the firm's papers, kept among the pictures; null while there is none. */
  logo: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  timeZone: TimeZone,
  paper: z.enum(PAPERS),
  /** Methods that the firm builds by, offered first; all where none is named. */
  mainMethods: z.array(z.string().min(1).max(60)).max(40),
  /** Unit and language that a new tablet starts with; each person may choose otherwise. */
  unit: z.enum(['in', 'mm']),
  language: z.enum(['en', 'es']),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/),
  /** Days since its last entry for which a finished shower stays on the tablets; what is open stays. */
  tabletDays: z.number().int().min(1).max(365),
  /** Cost of an hour of work. */
  hourRate: z.number().min(0).max(10_000).nullable(),
  /** Cost of tearing out and building again a shower that is tiled already. */
  afterTileCost: z.number().min(0).max(1_000_000).nullable(),
  /** The same of what was made at a stage, where that is another price: stage → cost. */
  afterTileByStage: z.record(z.string().min(1).max(60), z.number().min(0).max(1_000_000)).default({}),
});
export type FirmSettings = z.infer<typeof FirmSettings>;

export const FIRST_SETTINGS: FirmSettings = {
  name: 'Our firm',
  address: '',
  licence: '',
  logo: null,
  timeZone: 'UTC',
  paper: 'letter',
  mainMethods: [],
  unit: 'in',
  language: 'en',
  currency: 'USD',
  tabletDays: 14,
  hourRate: null,
  afterTileCost: null,
  afterTileByStage: {},
};

/** What a defect that was made at a stage costs once it is found after tile; null while the firm has set no price. */
export const afterTilePrice = (
  { afterTileCost, afterTileByStage }: Pick<FirmSettings, 'afterTileCost' | 'afterTileByStage'>,
  stage: string,
): number | null => (Object.hasOwn(afterTileByStage, stage) ? afterTileByStage[stage]! : afterTileCost);

/**
 * What every tablet keeps of the firm. A new epoch means that the server was restored: see `records`. The newest rule
 * book is named, so that a tablet that has it needs not fetch it again.
 */
export const FirmAnswer = z.object({
  epoch: z.uuid(),
  settings: FirmSettings,
  crews: z.array(Crew),
  newestBook: z.object({ id: z.string(), version: z.number().int().positive() }).nullable(),
  /** Seams on which the firm wants more places read than is usual; empty while no plan is in force. */
  lookPlan: LookPlan.shape.cells.default([]),
  /** What the plan is made from beside the showers. */
  plan: PlanBook.default(FIRST_PLAN_BOOK),
  /** What the firm knows of leaks. */
  leaks: LeakBook.default(NO_LEAKS),
});
export type FirmAnswer = z.infer<typeof FirmAnswer>;
