import { BEFORE_AFTER_WARNINGS, FunnelGroup, SIGNALS } from '@careful-seam/core/crews/codes';
import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { z } from 'zod';
import { behind, DefectFilter, day, month, Named, word } from './defects';

/** What a question across crews is asked of. */
export const QuestionAsk = z.object({
  group: DefectFilter.shape.group,
  stage: word,
  method: word,
  from: DefectFilter.shape.from,
  to: DefectFilter.shape.to,
});
export type QuestionAsk = z.infer<typeof QuestionAsk>;

/** What is counted against: 100 ft of seam that were looked at, or 100 corners, drains, openings. */
export const UNITS = ['hundred-feet', 'hundred'] as const;
const rate = z.number().min(0);
const interval = { low: rate, high: rate.nullable() };

/** One crew against the firm. Rates are per unit of `unit`. */
export const CrewLine = FunnelGroup.omit({ p: true }).extend({
  /** Its id; '' where nobody is known. */
  crew: z.string(),
  count: z.number().int(),
  /** Of `unit`. */
  exposure: z.number(),
  showers: z.number().int(),
  /** So many times the rate of all others, where it may be named. */
  ratio: z.object({ ratio: rate.nullable(), ...interval }).nullable(),
});
export type CrewLine = z.infer<typeof CrewLine>;
/** Is a crew really different? */
export const CompareAnswer = z.object({
  unit: z.enum(UNITS),
  /** The firm's own level; null where nothing was looked at. */
  firm: z.object({ rate, low: rate, high: rate, count: z.number().int(), exposure: z.number() }).nullable(),
  /** How much more defects scatter between showers than chance alone. */
  overdispersion: z.number(),
  crews: z.array(CrewLine),
  /** Crews that were compared: also where only one's own is shown. */
  compared: z.number().int(),
  ...behind,
});
export type CompareAnswer = z.infer<typeof CompareAnswer>;

/** By what defects are summed. */
export const SUM_BY = ['kind', 'cause', 'group', 'stage'] as const;
/** What goes wrong: summed by kind, cause, place or stage; by how often or by cost. */
export const WrongAsk = QuestionAsk.extend({ by: z.enum(SUM_BY).default('kind'), crew: word });
/** One of them. */
export const WrongLine = z.object({
  id: z.string(),
  name: z.string(),
  count: z.number().int(),
  hours: z.number(),
  materials: z.number(),
  /** Hours at the firm's rate and materials; null while the firm has set no rate. */
  cost: z.number().nullable(),
  /** Had they been found after tile, by the firm's own figure; null while it has set none. */
  afterTile: z.number().nullable(),
  /** Share of all, with its interval. */
  share: z.number(),
  low: z.number(),
  high: z.number(),
});
export const WrongAnswer = z.object({
  lines: z.array(WrongLine),
  total: z.number().int(),
  /** Closed ones of which somebody told hours or materials. */
  costTold: z.number().int(),
  currency: z.string(),
  hourRate: z.number().nullable(),
  afterTileCost: z.number().nullable(),
  ...behind,
});
export type WrongAnswer = z.infer<typeof WrongAnswer>;

/** Where did it slip through? */
export const SlippedAnswer = z.object({
  stages: z.array(Named),
  rows: z.array(
    z.object({
      made: z.string(),
      found: z.array(z.number().int()),
      total: z.number().int(),
      caught: z.number().int(),
      escaped: z.number().nullable(),
      stagesLate: z.number().nullable(),
    }),
  ),
  total: z.number().int(),
  escaped: z.object({ count: z.number().int(), share: z.number(), low: z.number(), high: z.number() }).nullable(),
  /** Kinds that were found later than they were made, with the checks of their stage that look for them. */
  slipped: z.array(
    z.object({ kind: z.string(), name: z.string(), made: z.string(), count: z.number().int(), checks: z.array(Named) }),
  ),
  /** Checks that never found anything, with how much they looked at. */
  silent: z.array(
    z.object({
      stage: z.string(),
      check: z.string(),
      label: z.string(),
      feet: z.number(),
      points: z.number().int(),
      /** Per 100 ft or 100 places: more than this it can not find, 95 of 100. */
      atMost: z.number(),
    }),
  ),
  /** Kinds that were found and that no check of the newest rule book looks for. */
  uncovered: z.array(z.object({ kind: z.string(), name: z.string(), count: z.number().int(), stage: z.string() })),
  /** A method that asks at each stage, by its key: where the rule book is opened. */
  method: z.string(),
  ...behind,
});
export type SlippedAnswer = z.infer<typeof SlippedAnswer>;

/** Something that the firm changed, on a day. */
export const Mark = z.object({ id: z.uuid(), day, words: z.string().trim().min(1).max(120) });
export type Mark = z.infer<typeof Mark>;
/** A mark that is made. */
export const NewMark = Mark.omit({ id: true });
/** By month, and before and after a mark. */
export const MonthsAsk = QuestionAsk.extend({ kind: word, crew: word, mark: word });
export const MonthsAnswer = z.object({
  unit: z.enum(UNITS),
  centre: rate.nullable(),
  overdispersion: z.number(),
  months: z.array(
    z.object({
      month,
      count: z.number().int(),
      exposure: z.number(),
      rate: rate.nullable(),
      low: rate.nullable(),
      high: rate.nullable(),
      signal: z.enum(SIGNALS).nullable(),
    }),
  ),
  marks: z.array(Mark),
  change: z
    .object({
      mark: z.string(),
      before: z.object({ count: z.number().int(), exposure: z.number() }),
      after: z.object({ count: z.number().int(), exposure: z.number() }),
      ratio: rate.nullable(),
      ...interval,
      warning: z.enum(BEFORE_AFTER_WARNINGS).nullable(),
    })
    .nullable(),
  ...behind,
});
export type MonthsAnswer = z.infer<typeof MonthsAnswer>;

/** How long does a hold stand? */
export const HoldsAsk = QuestionAsk.extend({ by: z.enum(['crew', 'severity']).default('severity') });
/** How long those of one crew or severity stood. */
const HoldLine = z.object({
  id: z.string(),
  name: z.string(),
  count: z.number().int(),
  open: z.number().int(),
  medianDays: z.number().nullable(),
  /** Days between which the middle one lies, 95 of 100; null where it is not reached. */
  lowDays: z.number().nullable(),
  highDays: z.number().nullable(),
  steps: z.array(z.object({ days: z.number(), open: z.number(), low: z.number(), high: z.number() })),
});
export const HoldsAnswer = z.object({ all: HoldLine.nullable(), lines: z.array(HoldLine), ...behind });
export type HoldsAnswer = z.infer<typeof HoldsAnswer>;

/** One question of a month report: its answer in words, and what shows it. */
const ReportSection = z.object({
  question: z.string(),
  says: z.array(z.string()).min(1),
  heads: z.array(z.string()),
  rows: z.array(z.array(z.string().or(z.number()))),
});
/** Which month. */
export const ReportAsk = z.object({ month: month.or(z.literal('')).default('') });
/** How the month was, in one language. */
export const MonthReport = z.object({
  month,
  title: z.string(),
  sections: z.array(ReportSection),
  fair: z.string(),
  ...behind,
});
export type MonthReport = z.infer<typeof MonthReport>;

/** Where should I look harder? */
export const LookAsk = z.object({ readings: z.coerce.number().int().min(1).max(100_000).default(400) });
export const LookCell = z.object({
  crew: z.string(),
  name: z.string(),
  group: z.enum(ELEMENT_GROUPS),
  /** Defects per 100 ft, drawn towards the firm's as far as little work makes it uncertain. */
  rate,
  share: z.number(),
  readings: z.number().int(),
  /** Length that comes, ft: what the last quarter of a year was. */
  feet: z.number(),
  /** Share of that length that the readings speak for, 0 to 1. */
  measured: z.number(),
});
/** A plan as the manager accepted it: so many times the usual number of places on these seams. */
export const LookPlan = z.object({
  acceptedBy: z.string(),
  acceptedAt: z.iso.datetime(),
  cells: z
    .array(z.object({ crew: z.string(), group: z.enum(ELEMENT_GROUPS), times: z.number().min(0.25).max(4) }))
    .max(5000),
});
export type LookPlan = z.infer<typeof LookPlan>;
export const LookAnswer = z.object({
  cells: z.array(LookCell),
  /** Share of the defects to be expected that nothing would be measured near. */
  riskLeft: z.number().nullable(),
  /** Fewest readings that leave nobody out. */
  least: z.number().int(),
  plan: LookPlan.nullable(),
  ...behind,
});
export type LookAnswer = z.infer<typeof LookAnswer>;
