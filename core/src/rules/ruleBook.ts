import { z } from 'zod';
import { FACE_KINDS } from '../geometry/body';
import { SEAM_KINDS } from '../seams/seam';

export const SEVERITIES = ['stop', 'fix', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

const On = z.discriminatedUnion('element', [
  z.object({ element: z.literal('seam'), kinds: z.array(z.enum(SEAM_KINDS)).min(1), sides: z.enum(['none', 'each']) }),
  z.object({ element: z.literal('corner') }),
  z.object({ element: z.literal('penetration') }),
  z.object({ element: z.literal('drain') }),
  z.object({ element: z.literal('face'), kinds: z.array(z.enum(FACE_KINDS)).min(1) }),
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
});
const LookedCheck = z.object({ ...base, kind: z.literal('looked') });
export const Check = z.discriminatedUnion('kind', [MeasuredCheck, LookedCheck]);
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
  methods: z.array(z.object({ key: z.string(), label: z.string(), stages: z.array(Stage).min(1) })),
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
