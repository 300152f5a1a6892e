import { z } from 'zod';

/**
 * Numbers as they may come in from outside. Nothing in a shower is longer than 100 m; what lies beyond is a slip of the
 * finger or an attack, and is refused by its field before anything is worked out with it.
 */
const MOST_MM = 100_000;

/** A length to either side of its mark, mm. */
export const anyMm = z.number().min(-MOST_MM).max(MOST_MM);
/** A length, mm; 0 where there is none. */
export const lengthMm = z.number().min(0).max(MOST_MM);
/** A length that is there, mm. */
export const positiveMm = z.number().positive().max(MOST_MM);
/** Hours since a start: eleven years. */
export const hoursSince = z.number().min(0).max(100_000);
/** Hours that are there. */
export const someHours = z.number().positive().max(100_000);
/** Minutes after the first reading of a series: a year and a bit. */
export const minutesAfter = z.number().min(0).max(600_000);
/** An area that is there, m². */
export const areaM2 = z.number().positive().max(10_000);
/** A volume that is there, L. */
export const volumeL = z.number().positive().max(1_000_000);
/** A film, µm: ten metres. */
export const filmUm = z.number().min(0).max(10_000_000);
/** Air, water or a layer, °C. */
export const degreesC = z.number().min(-60).max(120);
/** A loss of level, mm per day or hour. */
export const rateMm = z.number().positive().max(10_000);
/** How many: 0 where there is none. */
export const howMany = z.number().int().min(0).max(1_000_000);
/** How many, one at least; also a version. */
export const oneOrMore = z.number().int().min(1).max(1_000_000);
/** A place in a ledger or in a device's chain, or a seed: 32 bits. */
export const place32 = z.number().int().min(0).max(2_147_483_647);
