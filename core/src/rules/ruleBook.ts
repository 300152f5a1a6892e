import { z } from 'zod';
import { TakeOffItem } from '../materials/takeOffItem';
import { SETTINGS } from '../walls/readySteps';
import { Check, checksOf } from './checks/check';
import { Named, VARIANTS } from './checks/checkBase';
import type { FloodCheck } from './checks/flood';
import { LookedCheck } from './checks/looked';
import { listed } from './listed';
import { LINE_KINDS, ProductLine } from './productLine';
import { KIND_MEANS, stageTools } from './tools';

/** A rung of the ladder with its checks. */
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
  /** Of a shower that stands already: asked where the inspection begins at such a stage, or where old tile is drawn. */
  existing: z.boolean().optional(),
  ...stageTools,
  /** Built before this firm's inspection began: nothing is asked, nothing was proved. */
  notInspected: z.boolean().optional(),
});
export type Stage = z.infer<typeof Stage>;

/** What it means when another position is found than the firm's own. */
export const EFFECTS = ['accept', 'note', 'warning', 'deviation', 'defect'] as const;
/** One of them. */
export type Effect = (typeof EFFECTS)[number];

/** A question on which the trade disagrees, with all positions that are held. */
const Disagreement = z.object({
  id: z.string().regex(/^A\d+$/),
  question: z.string().min(1),
  kind: z.enum(['method', 'dispute', 'preference']),
  stage: z.string().min(1),
  /** Methods that it concerns; all without it. */
  methods: z.array(z.string()).optional(),
  /** What it means that a position was found that is right for another method or way of building. */
  elsewhere: z.enum(EFFECTS).default('deviation'),
  /** Why the default is the default, and what the product does. */
  note: z.string().min(1),
  positions: z
    .array(
      z.object({
        key: z.string().regex(/^[a-z]$/),
        text: z.string().min(1),
        /** Methods that this position is right for; all without it. */
        methods: z.array(z.string()).optional(),
        /** It is right only where the shower is built so, or only where it is not. */
        when: z.enum(VARIANTS).optional(),
        unless: z.enum(VARIANTS).optional(),
        effect: z.enum(EFFECTS),
      }),
    )
    .min(2),
});
export type Disagreement = z.infer<typeof Disagreement>;

/** How a method makes its corners, openings and drain: which drawing shows what right looks like. */
export const CORNER_DETAILS = ['preformed', 'filled', 'fabric', 'folded', 'lip'] as const;
/** How an opening is closed. */
export const PENETRATION_DETAILS = ['seal', 'sealant', 'coated'] as const;
/** How a drain is joined to the membrane. */
export const DRAIN_DETAILS = [
  'bonding-flange',
  'hub',
  'coated-ring',
  'clamping-ring',
  'moulded',
  'leak-control',
] as const;
const Details = z.object({
  corner: z.enum(CORNER_DETAILS),
  penetration: z.enum(PENETRATION_DETAILS),
  drain: z.enum(DRAIN_DETAILS),
});
export type Details = z.infer<typeof Details>;

/** All that a firm asks, with its methods, questions, products and texts. */
export const RuleBook = z.object({
  id: z.string().min(1),
  version: z.number().int().min(1),
  title: z.string().min(1),
  deference: z.array(z.string()).min(1),
  defectKinds: z.array(
    z.object({
      id: z.string(),
      label: z.string(),
      stages: z.array(z.string()),
      /** What the program opens a defect of this kind for by itself. */
      means: z.enum(KIND_MEANS).optional(),
      /** The stage that it is usually made at; without it the one that it is found at. */
      made: z.string().optional(),
      /** Families of causes that it usually has, the likeliest first [common practice, no source]. */
      causes: z.array(z.string()).optional(),
      ...listed,
    }),
  ),
  /** Families of causes, and why the check before did not catch it. Empty in books before version 3. */
  causes: z.array(Named.extend(listed)).default([]),
  escapes: z.array(Named.extend(listed)).default([]),
  /** This book's own English texts in other languages: language → English text → that text. */
  texts: z.record(z.string(), z.record(z.string(), z.string())).default({}),
  disagreements: z.array(Disagreement).default([]),
  /** The firm's own position on a question where it is not the book's: question → position. */
  choices: z.record(z.string(), z.string()).default({}),
  /** Products that the firm uses, as their labels describe them. */
  productLines: z.array(ProductLine).default([]),
  /** A redo reaches this far into the elements of later stages, mm [common practice, no source]. */
  redoReachMm: z.number().min(0).max(2000).default(150),
  /** Asked where two methods meet. */
  transition: LookedCheck.optional(),
  /** The version of the shipped book that a firm's own was made from. */
  shipped: z.number().int().optional(),
  methods: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      stages: z.array(Stage).min(1),
      /** What must lie ready before the first layer; what is not required is recommended. */
      kit: z.array(Named.extend({ required: z.boolean(), line: z.enum(LINE_KINDS).optional() })).default([]),
      /** How it sets its first layer: what a substrate needs before it goes by this. */
      setting: z.enum(SETTINGS).optional(),
      /** What it uses, told by the parts of the shower that it goes on. */
      takeOff: z.array(TakeOffItem).default([]),
      /** What its corners, openings and drain look like; without it no drawing is shown. */
      details: Details.optional(),
    }),
  ),
});
export type RuleBook = z.infer<typeof RuleBook>;
/** A way of waterproofing with its ladder. */
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
  for (const stage of method.stages) for (const check of checksOf(stage.checks, 'flood')) return { stage, check };
  return null;
}

/** All flood checks of a book, method by method. */
export const floodChecksOf = (book: RuleBook): FloodCheck[] =>
  book.methods.flatMap((m) => m.stages.flatMap((s) => checksOf(s.checks, 'flood')));

/** The book with the smallest leak that every flood test must exclude, mm a day; null: no test can pass. */
export function withSmallestLeak(book: RuleBook, smallestLeakMmPerDay: number | null): RuleBook {
  const changed = structuredClone(book);
  for (const check of floodChecksOf(changed)) check.smallestLeakMmPerDay = smallestLeakMmPerDay;
  return changed;
}
