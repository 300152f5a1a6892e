import { z } from 'zod';
import { FACE_KINDS } from '../../shower/geometry/face';
import { PARTS } from '../../shower/geometry/parts';
import { SEAM_KINDS } from '../../shower/seams/seam';
import { FromLabel } from '../productLine';
import { ANSWERED_WITH } from '../tools';

/** What a failed check does: it stops the work, is put right before the stage is released, or is only noted. */
export const SEVERITIES = ['stop', 'fix', 'note'] as const;
/** One of them. */
export type Severity = (typeof SEVERITIES)[number];

/** Ways of building that ask for more: told by the drawing, or chosen with the method. */
export const VARIANTS = ['curbless', 'steam', 'wet-room', 'renovation', 'unlevel'] as const;
/** One of them. */
export type Variant = (typeof VARIANTS)[number];

/** What is prepared, looked at or packed: a key that stays, and its words. */
export const Named = z.object({ id: z.string().min(1), label: z.string().min(1) });

/** Which elements of a shower a check is asked of, and whether of both sides of a seam. */
const On = z.discriminatedUnion('element', [
  /** Seams between two parts that are built by different methods. */
  z.object({ element: z.literal('transition') }),
  z.object({
    element: z.literal('seam'),
    kinds: z.array(z.enum(SEAM_KINDS)).min(1),
    sides: z.enum(['none', 'each']),
    /** Only seams of a face of these kinds, such as the curb's inner edge alone. */
    beside: z.array(z.enum(FACE_KINDS)).min(1).optional(),
  }),
  z.object({ element: z.literal('corner') }),
  z.object({ element: z.literal('penetration') }),
  z.object({ element: z.literal('drain') }),
  z.object({
    element: z.literal('face'),
    kinds: z.array(z.enum(FACE_KINDS)).min(1),
    /** Only these sides of a part, as its faces' ids name them: a niche's `sill`, not its back. */
    sides: z.array(z.string().min(1)).min(1).optional(),
    /** Only what stands in an outside wall of the house. */
    inWall: z.literal('outside').optional(),
  }),
  z.object({ element: z.literal('shower') }),
]);

/** What every check has, whatever its kind. */
export const base = {
  id: z.string().min(1),
  on: On,
  label: z.string().min(1),
  /** Why it matters, one sentence. */
  why: z.string().min(1),
  severity: z.enum(SEVERITIES),
  /** A published source with "value from memory", or "common practice, no source". */
  source: z.string().min(1),
  /** Only on these parts of the shower; on all of them without it. */
  parts: z.array(z.enum(PARTS)).optional(),
  /** Only where the shower is built so. */
  when: z.enum(VARIANTS).optional(),
  /** A question that the trade disagrees on and that this check decides by the firm's choice. */
  disagreement: z.string().optional(),
  /** The kind of defect that it is when this check fails. */
  defectKind: z.string().optional(),
  /** What answers it for the person. */
  answeredWith: z.enum(ANSWERED_WITH).optional(),
  /** What is looked at is hidden by the next layer: a picture of it is kept. */
  keepPicture: z.boolean().optional(),
  /** It says how thick a bed of mortar must be at its thinnest. */
  isThinnestBed: z.boolean().optional(),
  /** The figure of a label that stands for this limit where the shower's product line states it. */
  fromLabel: FromLabel.optional(),
};
