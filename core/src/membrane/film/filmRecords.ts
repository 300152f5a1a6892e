import { z } from 'zod';
import { DRY_GAUGES } from './filmSpots';
import { FILM_ZONES } from './filmZones';

/** A thickness, µm. */
const um = z.number().min(0).max(20_000);
/** A zone that is coated. */
const zone = z.enum(FILM_ZONES);
/** The number of a coat, from 1. */
const coat = z.number().int().min(1).max(20);

/** What was read of a liquid film: a coat out of its bucket, a wet gauge, a dry spot. Films in µm, volumes in L. */
export const FilmRecord = z.discriminatedUnion('of', [
  z.object({
    of: z.literal('coat'),
    zones: z.array(zone).min(1).max(FILM_ZONES.length),
    coat,
    /** Product that went on, without what thinned it. */
    volumeL: z.number().positive().max(500),
    waterL: z.number().min(0).max(500),
    doneAt: z.iso.datetime(),
  }),
  z.object({
    of: z.literal('wet'),
    zone,
    coat,
    /** Last tooth that was wetted and the next one. */
    wettedUm: um,
    nextUm: um,
  }),
  z.object({ of: z.literal('dry'), zone, spotUm: z.tuple([um, um, um]), by: z.enum(DRY_GAUGES) }),
]);
export type FilmRecord = z.infer<typeof FilmRecord>;
/** A coat by its volume. */
export type CoatRecord = Extract<FilmRecord, { of: 'coat' }>;
