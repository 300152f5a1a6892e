import { z } from 'zod';
import { FACE_KINDS } from '../shower/geometry/face';
import { PENETRATION_KINDS } from '../shower/geometry/showerGeometry';
import { CORNER_KINDS, SEAM_KINDS } from '../shower/seams/seam';
import { lengthMm, positiveMm } from '../units/bounded';

/** Kinds of seams. */
const seams = z.array(z.enum(SEAM_KINDS)).min(1);
/** What every item has. */
const item = {
  id: z.string().min(1).max(60),
  label: z.string().min(1),
  /** What is bought beyond what is needed, as a share. */
  wasteShare: z.number().min(0).max(1),
  /** What it is sold in: mm of a roll, L of a cartridge or bag, m² of a sheet, pieces of a box. */
  pack: z.number().positive(),
  packLabel: z.string().min(1),
  source: z.string().min(1),
};

/** Something that a method uses, told by the parts of the shower that it goes on. */
export const TakeOffItem = z.discriminatedUnion('of', [
  /** Cut to the length of each seam, longer by a lap at each end. */
  z.object({ of: z.literal('strips'), seams, lapMm: lengthMm, ...item }),
  /** A round bead along each seam, or several beside each other. */
  z.object({ of: z.literal('bead'), seams, beadMm: positiveMm, beads: z.number().int().min(1), ...item }),
  z.object({ of: z.literal('corners'), kinds: z.array(z.enum(CORNER_KINDS)).min(1), ...item }),
  z.object({ of: z.literal('penetrations'), kinds: z.array(z.enum(PENETRATION_KINDS)).min(1), ...item }),
  /** A sheet on faces, turned up by so much at seams where it stands up a face that it does not cover. */
  z.object({
    of: z.literal('area'),
    faces: z.array(z.enum(FACE_KINDS)).min(1),
    turnUp: z.object({ seams, mm: z.number().positive() }).optional(),
    ...item,
  }),
  /** Product of a liquid film, all coats together. */
  z.object({ of: z.literal('film'), ...item }),
  /** Volume combed or packed under an area at a mean thickness. */
  z.object({ of: z.literal('bed'), faces: z.array(z.enum(FACE_KINDS)).min(1), meanMm: positiveMm, ...item }),
  z.object({
    of: z.literal('fasteners'),
    firstRowMm: positiveMm,
    spacingMm: positiveMm,
    studSpacingMm: positiveMm,
    ...item,
  }),
]);
/** One of them. */
export type TakeOffItem = z.infer<typeof TakeOffItem>;

/** In what an item is counted. */
export const TAKE_OFF_UNITS = ['mm', 'L', 'm2', 'count'] as const;
/** One of them. */
export type TakeOffUnit = (typeof TAKE_OFF_UNITS)[number];

/** The unit that an item is counted in. */
export function unitOf({ of }: TakeOffItem): TakeOffUnit {
  if (of === 'strips') return 'mm';
  if (of === 'area') return 'm2';
  return of === 'bead' || of === 'film' || of === 'bed' ? 'L' : 'count';
}
