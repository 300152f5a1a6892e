import { z } from 'zod';
import { FILM_ZONES } from '../../membrane/film/filmZones';
import { done, refuse } from '../../outcome/outcome';
import { base } from './checkBase';
import { type CheckRule, noFigures } from './checkRule';

const filmUm = z.number().positive().nullable();
/** A liquid film, judged zone by zone: coats, bucket, wet gauge, dry spots. Limits are a label's; null: not entered. */
export const FilmCheck = z.object({
  ...base,
  kind: z.literal('film'),
  zones: z.array(z.object({ zone: z.enum(FILM_ZONES), coats: z.number().int().min(0).max(20) })).min(1),
  /** How high the lower walls reach over their foot. */
  lowerMm: z.number().positive(),
  dryLeastUm: filmUm,
  dryMostUm: filmUm,
  /** Of one coat. */
  wetLeastUm: filmUm,
  wetMostUm: filmUm,
  solidsPercent: z.number().positive().max(100).nullable(),
  /** Share that stays on roller, tray and in the bucket. */
  lossShare: z.number().min(0).max(0.9),
  recoatHours: z.number().min(0).nullable(),
});
export type FilmCheck = z.infer<typeof FilmCheck>;

/** What the rule book knows of a liquid film: a label sets all of its figures, and it is asked of the parts that are coated. */
export const filmRule: CheckRule<FilmCheck> = {
  ...noFigures,
  fault: ({ label, dryLeastUm, dryMostUm, zones }) => {
    if ((dryLeastUm ?? 0) > (dryMostUm ?? Infinity))
      return refuse('check-film-reversed', 'dryMostUm', { check: label });
    if (new Set(zones.map((z) => z.zone)).size !== zones.length) return refuse('zone-twice', 'zones', { check: label });
    return done(null);
  },
  // Every figure of a label that a film is judged by. Where it states coats, they are those of each zone that is coated.
  labelled: (check, { figures }) => {
    const { wetUm, dryUm, coats, solidsPercent, recoatHours } = figures;
    return {
      ...check,
      zones: check.zones.map((z) => (z.coats > 0 && coats?.least !== undefined ? { ...z, coats: coats.least } : z)),
      dryLeastUm: dryUm?.least ?? check.dryLeastUm,
      dryMostUm: dryUm?.most ?? check.dryMostUm,
      wetLeastUm: wetUm?.least ?? check.wetLeastUm,
      wetMostUm: wetUm?.most ?? check.wetMostUm,
      solidsPercent: solidsPercent?.least ?? solidsPercent?.most ?? check.solidsPercent,
      recoatHours: recoatHours?.least ?? check.recoatHours,
    };
  },
  byWholeLabel: true,
  ofWhole: 'parts',
};
