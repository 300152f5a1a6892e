import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { DEFECT_STEPS } from '@careful-seam/core/proof/holds/defectLife';
import { SEVERITIES } from '@careful-seam/core/rules/checks/checkBase';
import { z } from 'zod';

/** A word in an address; an empty one asks for nothing. */
export const word = z.string().max(200).default('');
/** A month such as 2026-04. */
export const month = z.string().regex(/^\d{4}-(0[1-9]|1[0-2])$/, 'month-malformed');
/** A day, ISO 8601. */
export const day = z.iso.date();

/** Which defects are asked for; what is left out asks for nothing. Filters live in addresses: of the screens as of the API. */
export const DefectFilter = z.object({
  /** The crew that made it. */
  crew: word,
  job: word,
  /** The stage it was found at. */
  stage: word,
  /** The stage it was made at. */
  made: word,
  kind: word,
  cause: word,
  escape: word,
  severity: z.enum(SEVERITIES).or(z.literal('')).default(''),
  /** `open`, `closed`, or one step. */
  state: z
    .enum(['open', 'closed', ...DEFECT_STEPS])
    .or(z.literal(''))
    .default(''),
  /** Found in this month, by the days of the sites. */
  month: month.or(z.literal('')).default(''),
  /** Found on this day or later. */
  from: day.or(z.literal('')).default(''),
  /** Found on this day or earlier. */
  to: day.or(z.literal('')).default(''),
  /** Name of who found it. */
  inspector: word,
  /** What it lies on. */
  group: z.enum(ELEMENT_GROUPS).or(z.literal('')).default(''),
  method: word,
  /** Words that its shower, its job or what was said of it holds. */
  q: word,
});
export type DefectFilter = z.infer<typeof DefectFilter>;

/** By what the list is put in order. */
export const DEFECT_ORDERS = ['found', 'closed', 'kind', 'crew', 'job', 'severity', 'cause', 'stage'] as const;
/** A page of the list. */
export const DefectsAsk = DefectFilter.extend({
  order: z.enum(DEFECT_ORDERS).default('found'),
  down: z.enum(['yes', 'no']).default('yes'),
  /** How many rows come before this page. */
  skip: z.coerce.number().int().min(0).max(1_000_000).default(0),
});
export type DefectsAsk = z.infer<typeof DefectsAsk>;

/** One defect of the firm. Names of kinds, causes and stages are the rule book's, in the reader's language. */
export const DefectLine = z.object({
  id: z.uuid(),
  /** Null for one of an old table: its shower is a name alone. */
  showerId: z.uuid().nullable(),
  shower: z.string(),
  job: z.string(),
  /** Name of the crew that made it, of the other trade, or null: nobody knows. */
  crew: z.string().nullable(),
  madeBy: z.enum(['crew', 'trade', 'house', 'unknown']),
  fixer: z.string().nullable(),
  /** Null where the reader may not see who it was. */
  inspector: z.string().nullable(),
  stageMade: z.string(),
  stageFound: z.string(),
  /** Key of the stage it was found at: to open it there. */
  stageKey: z.string(),
  /** Id of what it lies on: to open it there. */
  element: z.string(),
  group: z.enum(ELEMENT_GROUPS),
  kind: z.string(),
  severity: z.enum(SEVERITIES),
  cause: z.string(),
  escape: z.string(),
  step: z.enum(DEFECT_STEPS),
  foundAt: z.iso.datetime(),
  closedAt: z.iso.datetime().nullable(),
  hours: z.number().nullable(),
  materials: z.number().nullable(),
  repeats: z.number().int(),
  words: z.string(),
});
export type DefectLine = z.infer<typeof DefectLine>;

/** How far the figures are behind the ledgers. */
export const behind = { behind: z.number().int() };
/** A page of defects. */
export const DefectList = z.object({
  lines: z.array(DefectLine),
  /** All that the filter lets through. */
  total: z.number().int(),
  ...behind,
});
export type DefectList = z.infer<typeof DefectList>;

/** A key with its name, to choose from. */
export const Named = z.object({ id: z.string(), label: z.string() });
/** All that can be asked for: only what there is. */
export const DefectChoices = z.object({
  crews: z.array(Named),
  jobs: z.array(z.string()),
  stages: z.array(Named),
  kinds: z.array(Named),
  causes: z.array(Named),
  escapes: z.array(Named),
  methods: z.array(Named),
  inspectors: z.array(z.string()),
  months: z.array(z.string()),
});
export type DefectChoices = z.infer<typeof DefectChoices>;
