import { z } from 'zod';
import { done, type Outcome, refuse } from '../../outcome/outcome';
import { areaM2, volumeL } from '../../units/bounded';

/**
 * One US gallon covers 1604.17 ft² at one mil: 231 in³ / (0.001 in · 144 in²/ft²), an identity. In metric: a litre on a
 * square metre is a millimetre. All films here follow from that.
 */
const UM_PER_L_M2 = 1000;
/** A volume share of solids over this is a percent typed for a share. */
const share = z.number().positive().max(1, 'a share of 1 is 100 %; write 55 % as 0.55');
/** Share that stays on roller, tray and in the bucket. */
const loss = z.number().min(0).max(0.9).optional();
/** Water (or thinner) added, as a share of the product's own volume. */
const thinning = z.number().min(0).max(10).optional();

/** A coat as the bucket tells it. */
export const FilmFromVolumeInput = z.object({
  areaM2: areaM2,
  /** Product out of the bucket, without what was added to thin it, L. */
  volumeL: volumeL,
  solids: share,
  thinning,
  /** Share that stays on roller, tray and in the bucket. */
  lossShare: loss,
});
/** A dry film that is wanted. */
export const FilmNeededInput = z.object({
  areaM2: areaM2,
  dryUm: z.number().positive().max(10_000_000),
  solids: share,
  thinning,
  lossShare: loss,
  coats: z.number().int().min(1).max(20),
});

/** Mean film, µm, wet and dry, that a volume makes on an area: dry = wet · solids / (1 + thinning). [identity] */
export function filmFromVolume({
  areaM2,
  volumeL,
  solids,
  thinning: thin = 0,
  lossShare = 0,
}: z.infer<typeof FilmFromVolumeInput>): Outcome<{ wetUm: number; dryUm: number }> {
  const wetUm = ((volumeL * (1 + thin) * (1 - lossShare)) / areaM2) * UM_PER_L_M2;
  return done({ wetUm, dryUm: (wetUm * solids) / (1 + thin) });
}

/** Product (L, without what thins it) for a dry film on an area, and the wet film that each coat must show, µm. [identity] */
export function filmNeeded({
  areaM2,
  dryUm,
  solids,
  thinning: thin = 0,
  lossShare = 0,
  coats,
}: z.infer<typeof FilmNeededInput>): Outcome<{ volumeL: number; wetUmPerCoat: number }> {
  const volumeL = (areaM2 * dryUm) / UM_PER_L_M2 / solids / (1 - lossShare);
  return done({ volumeL, wetUmPerCoat: ((dryUm / solids) * (1 + thin)) / coats });
}

/** Dry film that a wet one leaves, µm. */
export const dryOfWet = (wetUm: number, solids: number, thin = 0): number => (wetUm * solids) / (1 + thin);

/** A primer that is thinned with water. */
export const PrimerMixInput = z.object({
  areaM2: areaM2,
  /** What a litre of the mix covers, m² per L. */
  coverageM2PerL: z.number().positive().max(10_000),
  /** Parts of water to one of product; 4 in common practice. */
  waterParts: z.number().min(0).max(20),
});

/** Water and product of a thinned first coat, L. 4 : 1 is common practice, no source; the label comes first. */
export function primerMix({
  areaM2,
  coverageM2PerL,
  waterParts,
}: z.infer<typeof PrimerMixInput>): Outcome<{ mixL: number; productL: number; waterL: number }> {
  const mixL = areaM2 / coverageM2PerL;
  const productL = mixL / (1 + waterParts);
  return done({ mixL, productL, waterL: mixL - productL });
}

/** No coat of a membrane is thinner or thicker than this, wet or dry, µm [common practice, no source]: a unit was taken for another. */
export const FILM_UM = { least: 50, most: 5000 } as const;

/** A film in µm that was meant in mils, or the other way round: 22 µm is no membrane, 22 mm neither. Nothing at all is a finding. */
export function filmPlausible(um: number, field: string): Outcome<number> {
  if (um > 0 && um < FILM_UM.least) return refuse('film-too-thin', field, { um: Math.round(um * 10) / 10 });
  if (um > FILM_UM.most) return refuse('film-too-thick', field, { mm: Math.round(um / 100) / 10 });
  return done(um);
}
