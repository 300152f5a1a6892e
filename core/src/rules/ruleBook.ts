import { z } from 'zod';
import { CURE_MODELS } from '../cure/cureAge';
import { CURE_KINDS } from '../cure/cureClock';
import { FILM_ZONES } from '../film/filmZones';
import { FACE_KINDS } from '../geometry/face';
import { SEAM_KINDS } from '../seams/seam';
import { TakeOffItem } from '../takeoff/takeOffItem';
import { FromLabel, LINE_KINDS, ProductLine } from './productLine';

export const SEVERITIES = ['stop', 'fix', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** Parts of a shower that may each be built by another method. */
export const PARTS = ['floor', 'curb', 'walls', 'niche', 'bench', 'ceiling', 'outside-floor'] as const;
export type Part = (typeof PARTS)[number];

/** Ways of building that ask for more: told by the drawing, or chosen with the method. */
export const VARIANTS = ['curbless', 'steam', 'wet-room', 'renovation', 'unlevel'] as const;
export type Variant = (typeof VARIANTS)[number];

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
  /** Only on these parts of the shower; on all of them without it. */
  parts: z.array(z.enum(PARTS)).optional(),
  /** Only where the shower is built so. */
  when: z.enum(VARIANTS).optional(),
  /** A question that the trade disagrees on and that this check decides by the firm's choice. */
  disagreement: z.string().optional(),
  /** The figure of a label that stands for this limit where the shower's product line states it. */
  fromLabel: FromLabel.optional(),
};
/** Heights that a drawing may ask for beyond a check's own limit. */
export const RAISES = ['flood-line', 'shower-head', 'six-feet'] as const;
export type Raise = (typeof RAISES)[number];

const MeasuredCheck = z.object({
  ...base,
  kind: z.literal('measured'),
  limit: Limit,
  pattern: Pattern,
  instrument: z.string().min(1),
  /** Its greatest value by another figure of the same element, such as a span by its layers: from each figure on. */
  steps: z
    .object({
      by: z.string().min(1),
      limits: z.array(z.object({ from: z.number(), atMostMm: z.number().positive() })).min(1),
    })
    .optional(),
  /** What its least height, above the drain, must reach on every drawing, whatever the figure of the limit is. */
  raisedTo: z.array(z.enum(RAISES)).min(1).optional(),
  /** A height that is shown beside the reading with its margin. */
  comparedWith: z.literal('shower-head').optional(),
});
/** What a proof may be. */
export const PROOFS = ['document', 'photo', 'date', 'batch'] as const;
/** Units of single figures; lengths are mm. */
export const NUMBER_UNITS = ['mm', 'deg', 'count', 'percent', 'um', 'perm', 'hours', 'celsius', 'ratio'] as const;
export type NumberUnit = (typeof NUMBER_UNITS)[number];

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
  /** What shows it must be named: a paper, a picture, a date, a batch. */
  proof: z.enum(PROOFS).optional(),
  /** Looked at and found good it is still undecided until somebody who may has accepted it. */
  needsApproval: z.boolean().optional(),
});

/** One figure for the whole element, in its own unit. */
const NumberCheck = z.object({
  ...base,
  kind: z.literal('number'),
  unit: z.enum(NUMBER_UNITS),
  /** Null until the firm or a label fills it: the verdict is then undecided. */
  limit: z.object({ atLeast: z.number().optional(), atMost: z.number().optional() }).nullable(),
  instrument: z.string().min(1),
});
export type NumberCheck = z.infer<typeof NumberCheck>;

/** How a question that the trade disagrees on was answered on this shower; the firm's choice until somebody says otherwise. */
const PositionCheck = z.object({ ...base, kind: z.literal('position'), disagreement: z.string().min(1) });
export type PositionCheck = z.infer<typeof PositionCheck>;

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
  /** Hours after filling before the water is read: it settles, and mortar and fleece drink. Earlier readings count for nothing. */
  settleHours: z.number().min(0).max(12).default(0.5),
  /** A look at the start counts until this long after filling. */
  startLookWithinHours: z.number().positive().default(2),
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
  /** What hardens there, so that the air on site counts; without it the hours stand alone. */
  cures: z.enum(CURE_KINDS).optional(),
  /** The firm's school of counting cement. */
  model: z.enum(CURE_MODELS).optional(),
});
export type WaitCheck = z.infer<typeof WaitCheck>;

/** A level survey of a floor: shots of a laser or a rod, judged as one. */
const SurveyCheck = z.object({
  ...base,
  kind: z.literal('survey'),
  measures: z.discriminatedUnion('of', [
    /** Falls are rise / run; no pond deeper than `pondMm`. */
    z.object({
      of: z.literal('fall'),
      minFall: z.number().min(0),
      maxFall: z.number().min(0),
      pondMm: z.number().min(0),
    }),
    /** The worst gap under a straightedge laid anywhere. */
    z.object({ of: z.literal('flat'), straightedgeMm: z.number().positive(), gapMm: z.number().min(0) }),
  ]),
  /** Half-width of a shot that holds it 95 times of 100. */
  uncertaintyMm: z.number().min(0),
  shotsAtLeast: z.number().int().min(3),
  /** About how far apart the places of the rod are proposed. */
  spacingMm: z.number().positive(),
  /** Without it nothing is asked until the first shot; what was shot is judged and holds. */
  required: z.boolean().default(false),
});
export type SurveyCheck = z.infer<typeof SurveyCheck>;

const filmUm = z.number().positive().nullable();
/** A liquid film, judged zone by zone: coats, bucket, wet gauge, dry spots. Limits are a label's; null: not entered. */
const FilmCheck = z.object({
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

export const Check = z.discriminatedUnion('kind', [
  MeasuredCheck,
  LookedCheck,
  NumberCheck,
  PositionCheck,
  FloodCheck,
  WaitCheck,
  SurveyCheck,
  FilmCheck,
]);
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
  /** Of a shower that stands already: asked where the inspection begins at such a stage, or where old tile is drawn. */
  existing: z.boolean().optional(),
  /** Built before this firm's inspection began: nothing is asked, nothing was proved. */
  notInspected: z.boolean().optional(),
});
export type Stage = z.infer<typeof Stage>;

/** What it means when another position is found than the firm's own. */
export const EFFECTS = ['accept', 'note', 'warning', 'deviation', 'defect'] as const;
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
export const PENETRATION_DETAILS = ['seal', 'sealant', 'coated'] as const;
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
      /** What it uses, told by the parts of the shower that it goes on. */
      takeOff: z.array(TakeOffItem).default([]),
      /** What its corners, openings and drain look like; without it no drawing is shown. */
      details: Details.optional(),
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
