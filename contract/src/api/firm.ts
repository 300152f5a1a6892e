import { z } from 'zod';
import { Crew } from './messages';

/** What the firm sets for everybody. Rates are the firm's own; a rate of null means that the firm has set none. */
export const FirmSettings = z.object({
  name: z.string().trim().min(1).max(120),
  /** Unit and language that a new tablet starts with; each person may choose otherwise. */
  unit: z.enum(['in', 'mm']),
  language: z.enum(['en', 'es']),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/),
  /** Cost of an hour of work. */
  hourRate: z.number().min(0).max(10_000).nullable(),
  /** Cost of tearing out and building again a shower that is tiled already. */
  afterTileCost: z.number().min(0).max(1_000_000).nullable(),
});
export type FirmSettings = z.infer<typeof FirmSettings>;

export const FIRST_SETTINGS: FirmSettings = {
  name: 'Our firm',
  unit: 'in',
  language: 'en',
  currency: 'USD',
  hourRate: null,
  afterTileCost: null,
};

/**
 * What every tablet keeps of the firm. A new epoch means that the server was restored: see `records`. The newest rule
 * book is named, so that a tablet that has it needs not fetch it again.
 */
export const FirmAnswer = z.object({
  epoch: z.uuid(),
  settings: FirmSettings,
  crews: z.array(Crew),
  newestBook: z.object({ id: z.string(), version: z.number().int().positive() }).nullable(),
});
export type FirmAnswer = z.infer<typeof FirmAnswer>;
