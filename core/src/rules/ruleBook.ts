import { z } from 'zod';
import { FACE_KINDS } from '../geometry/face';
import { SEAM_KINDS } from '../seams/seam';

export const SEVERITIES = ['stop', 'fix', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

const On = z.discriminatedUnion('element', [
  z.object({ element: z.literal('seam'), kinds: z.array(z.enum(SEAM_KINDS)).min(1), sides: z.enum(['none', 'each']) }),
  z.object({ element: z.literal('corner') }),
  z.object({ element: z.literal('penetration') }),
  z.object({ element: z.literal('drain') }),
  z.object({ element: z.literal('face'), kinds: z.array(z.enum(FACE_KINDS)).min(1) }),
  z.object({ element: z.literal('shower') }),
]);

const Limit = z
  .object({ atLeastMm: z.number().optional(), atMostMm: z.number().optional() })
  .refine((l) => l.atLeastMm !== undefined || l.atMostMm !== undefined, 'a limit needs atLeastMm or atMostMm');

/** What a measured check asks beside its limit. Lengths in mm along the element. */
const Pattern = z.object({
  readingsAtLeast: z.number().int().min(1),
  speaksForMm: z.number().positive(),
  endWithinMm: z.number().positive().optional(),
  gapAtMostMm: z.number().positive().optional(),
  lookOnWhole: z.boolean().optional(),
});

const base = {
  id: z.string().min(1),
  on: On,
  label: z.string().min(1),
  /** Why it matters, one sentence. */
  why: z.string().min(1),
  severity: z.enum(SEVERITIES),
  /** A published source with "value from memory", or "common practice, no source". */
  source: z.string().min(1),
};
const MeasuredCheck = z.object({
  ...base,
  kind: z.literal('measured'),
  limit: Limit,
  pattern: Pattern,
  instrument: z.string().min(1),
  /** A height that is shown beside the reading with its margin. */
  comparedWith: z.literal('shower-head').optional(),
});
const LookedCheck = z.object({
  ...base,
  kind: z.literal('looked'),
  /** The grid that fasteners on a wall should stand in, so that they can be counted. */
  fasteners: z
    .object({
      firstRowMm: z.number().positive(),
      spacingMm: z.number().positive(),
      studSpacingMm: z.number().positive(),
    })
    .optional(),
});

const Named = z.object({ id: z.string().min(1), label: z.string().min(1) });
/** A flood test of the whole shower: how deep, how long, what it must exclude, what is prepared and where one looks. */
const FloodCheck = z.object({
  ...base,
  kind: z.literal('flood'),
  plannedHours: z.number().positive(),
  fillOverDrainMm: z.number().positive(),
  atThresholdAtLeastMm: z.number().min(0),
  /** Water line at least this far below the lowest curb; 0 where the code fills to its top. */
  belowCurbMm: z.number().min(0),
  /** The smallest leak that a pass must exclude; null: the firm has set none, and no test can pass. */
  smallestLeakMmPerDay: z.number().positive().nullable(),
  /** After the planned time it should be read within this. */
  readWithinHours: z.number().positive(),
  preparation: z.array(Named.extend({ why: z.string().min(1) })),
  /** Where moisture is looked for: at the start, before leaving and at the end. */
  places: z.array(Named).min(1),
});
export type FloodCheck = z.infer<typeof FloodCheck>;

/** A wait after the last work on some stages, before water or the next layer. */
const WaitCheck = z.object({
  ...base,
  kind: z.literal('wait'),
  after: z.array(z.string().min(1)).min(1),
  hours: z.number().min(0),
});
export type WaitCheck = z.infer<typeof WaitCheck>;

export const Check = z.discriminatedUnion('kind', [MeasuredCheck, LookedCheck, FloodCheck, WaitCheck]);
export type Check = z.infer<typeof Check>;
export type MeasuredCheck = z.infer<typeof MeasuredCheck>;

export const Stage = z.object({
  key: z.string().min(1),
  /** Height on the ladder; the shower is built from the lowest up. */
  order: z.number().int().min(0),
  label: z.string().min(1),
  /** The next layer hides this one. */
  holdPoint: z.boolean(),
  /** A caution shown while this stage is inspected. */
  caution: z.string().optional(),
  checks: z.array(Check),
});
export type Stage = z.infer<typeof Stage>;

export const RuleBook = z.object({
  id: z.string().min(1),
  version: z.number().int().min(1),
  title: z.string().min(1),
  deference: z.array(z.string()).min(1),
  defectKinds: z.array(z.object({ id: z.string(), label: z.string(), stages: z.array(z.string()) })),
  /** Families of causes, and why the check before did not catch it. Empty in books before version 3. */
  causes: z.array(Named).default([]),
  escapes: z.array(Named).default([]),
  /** This book's own English texts in other languages: language → English text → that text. */
  texts: z.record(z.string(), z.record(z.string(), z.string())).default({}),
  methods: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      stages: z.array(Stage).min(1),
      /** What must lie ready before the first layer; what is not required is recommended. */
      kit: z.array(Named.extend({ required: z.boolean() })).default([]),
    }),
  ),
});
export type RuleBook = z.infer<typeof RuleBook>;
export type Method = RuleBook['methods'][number];

/** The method with that key, or null. */
export function findMethod(book: RuleBook, key: string): Method | null {
  return book.methods.find((m) => m.key === key) ?? null;
}

/** The stage with that key, or null. */
export function findStage(method: Method, key: string): Stage | null {
  return method.stages.find((s) => s.key === key) ?? null;
}

/** The check with that id, or null. */
export function findCheck(stage: Stage, id: string): Check | null {
  return stage.checks.find((c) => c.id === id) ?? null;
}

/** The flood check of a method with its stage, or null when the method asks for none. */
export function floodCheckOf(method: Method): { stage: Stage; check: FloodCheck } | null {
  for (const stage of method.stages)
    for (const check of stage.checks) if (check.kind === 'flood') return { stage, check };
  return null;
}
