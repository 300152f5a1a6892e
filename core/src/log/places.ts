import { z } from 'zod';

/** In small letters, as it is written here: one thing has one id. */
export const id = z.uuid().lowercase();
/** An id of the rule book. */
export const key = z.string().min(1).max(60);
/** What a person typed, without blanks at its ends. */
export const words = z.string().trim().min(1).max(2000);
/** A length in mm that a shower can have. */
export const mm = z.number().min(0).max(100_000);
/** A moment in UTC. */
export const instant = z.iso.datetime();
/**
 * Where something was seen: an element, for a seam the stretch in mm from its start, and the side (a face's id) where
 * a band has two laps. `lengthMm` and `startKey` are the seam's as it was drawn when the entry was made.
 */
export const Place = z.object({
  element: z.string().min(1).max(300),
  fromMm: mm.optional(),
  toMm: mm.optional(),
  side: z.string().max(120).optional(),
  lengthMm: mm.optional(),
  startKey: z.string().max(600).optional(),
});
/** Where: an element, a side of it, a stretch along it. */
export type Place = z.infer<typeof Place>;
/** Marks drawn over a picture; x and y are shares of its width and height. They never alter its bytes. */
export const PhotoMark = z.object({
  kind: z.enum(['arrow', 'circle', 'length', 'area']),
  points: z
    .array(z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }))
    .min(2)
    .max(400),
  text: z.string().max(60).optional(),
});
/** A mark on a picture. */
export type PhotoMark = z.infer<typeof PhotoMark>;
/** A picture by the hash of its bytes, with the marks that were drawn over it. */
export const PhotoUse = z.object({
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  widthPx: z.number().int().positive().max(100_000),
  heightPx: z.number().int().positive().max(100_000),
  marks: z.array(PhotoMark).max(60),
});
/** A picture with its marks. */
export type PhotoUse = z.infer<typeof PhotoUse>;
