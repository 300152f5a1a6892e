import { z } from 'zod';
import type { Setting } from '../walls/readySteps';
import type { Check } from './checks/check';
import type { Method, RuleBook, Stage } from './ruleBook';

/** What a stage offers beside its looks and readings: a timer for what is mixed, what was used, places drawn at random. */
export const STAGE_TOOLS = ['mix-timer', 'materials', 'random-places'] as const;
/** One of them. */
export type StageTool = (typeof STAGE_TOOLS)[number];

/** Sums that a stage can offer to work out on site. */
export const STAGE_SUMS = [
  'studs',
  'stall',
  'gaps',
  'span',
  'pitch',
  'centre',
  'flange',
  'pipe',
  'order',
  'tray',
  'panLevel',
  'bed',
  'trowel',
  'contactBedded',
  'contactTile',
  'grate',
  'liner',
  'board',
  'band',
  'primer',
] as const;
/** One of them. */
export type StageSumKey = (typeof STAGE_SUMS)[number];

/** What answers a check for the person: the list of what was used, or the steps that make a substrate ready. */
export const ANSWERED_WITH = ['materials', 'readiness'] as const;
/** One of them. */
export type AnsweredWith = (typeof ANSWERED_WITH)[number];

/** What a kind of defect stands for where the program opens it by itself. */
export const KIND_MEANS = ['kit-missing', 'kit-substitute'] as const;

/** Fields of a stage that say what it offers. */
export const stageTools = {
  tools: z.array(z.enum(STAGE_TOOLS)).optional(),
  sums: z.array(z.enum(STAGE_SUMS)).optional(),
  /** Where two methods meet, the book's detail for it is asked at this stage. */
  asksTransition: z.boolean().optional(),
};

/**
 * What books of version 9 and before did not say, by the ids that they used. A firm's own book and the rules that are
 * pinned to an older shower stay as they were; this is the only place that knows their ids.
 */
const BEFORE_VERSION_10 = {
  tools: {
    base: ['mix-timer'],
    boards: ['materials'],
    membrane: ['mix-timer', 'materials', 'random-places'],
    tile: ['mix-timer'],
  },
  sums: {
    framing: ['studs', 'stall', 'liner'],
    subfloor: ['gaps', 'span', 'pitch'],
    'drain-rough-in': ['centre', 'flange', 'pipe', 'order'],
    base: ['tray', 'panLevel', 'trowel', 'contactBedded', 'bed'],
    boards: ['board'],
    membrane: ['trowel', 'band', 'primer'],
    tile: ['trowel', 'contactTile', 'grate'],
  },
  transition: 'membrane',
  kinds: { lap: 'short-lap', 'lap-small': 'short-lap' },
  answeredWith: { 'materials-used': 'materials', 'substrate-ready': 'readiness' },
  beds: ['mortar-at-drain', 'mortar-single'],
  settings: {
    'liner-mortar': 'bed',
    'bonded-sheet': 'thin-set',
    'sealant-board': 'thin-set',
    'ready-pan': 'thin-set',
    liquid: 'coat',
    'leak-control-flange': 'coat',
  },
} as const satisfies {
  tools: Record<string, readonly StageTool[]>;
  sums: Record<string, readonly StageSumKey[]>;
  transition: string;
  kinds: Record<string, string>;
  answeredWith: Record<string, AnsweredWith>;
  beds: readonly string[];
  settings: Record<string, Setting>;
};

/** A value of one of the tables above by an id that may not be in it. */
const known = <T>(table: Readonly<Record<string, T>>, id: string): T | undefined =>
  Object.hasOwn(table, id) ? table[id] : undefined;

/** What a stage offers beside its looks and readings. */
export const toolsOf = (stage: Stage): readonly StageTool[] =>
  stage.tools ?? known<readonly StageTool[]>(BEFORE_VERSION_10.tools, stage.key) ?? [];

/** The sums that a stage offers, in their order. */
export const sumsOf = (stage: Stage): readonly StageSumKey[] =>
  stage.sums ?? known<readonly StageSumKey[]>(BEFORE_VERSION_10.sums, stage.key) ?? [];

/** Whether the detail between two methods is asked at this stage. */
export const asksTransition = (stage: Stage): boolean =>
  stage.asksTransition ?? (stage.tools === undefined && stage.key === BEFORE_VERSION_10.transition);

/** What kind of defect it is when this check fails, where its book says so; null: the person is asked. */
export const kindOfFailure = (check: Check): string | null =>
  check.defectKind ?? known<string>(BEFORE_VERSION_10.kinds, check.id) ?? null;

/** What answers a check for the person; null where nothing does. */
export const answeredWithOf = (check: Check): AnsweredWith | null =>
  check.answeredWith ?? known<AnsweredWith>(BEFORE_VERSION_10.answeredWith, check.id) ?? null;

/** Whether a check says how thick a bed of mortar must be at its thinnest. */
export const isThinnestBed = (check: Check): boolean =>
  check.isThinnestBed ?? (BEFORE_VERSION_10.beds as readonly string[]).includes(check.id);

/** How a method sets its first layer. */
export const settingOf = (method: Method): Setting =>
  method.setting ?? known<Setting>(BEFORE_VERSION_10.settings, method.key) ?? 'fixed';

/** The kind of defect that stands for an incomplete kit, by its id. Books that do not say which used these names as ids. */
export const kindMeaning = (book: RuleBook, means: (typeof KIND_MEANS)[number]): string =>
  book.defectKinds.find((kind) => kind.means === means)?.id ?? means;
