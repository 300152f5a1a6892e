import { z } from 'zod';
import { FilmRecord } from '../membrane/film/filmRecords';
import { VARIANTS } from '../rules/checks/checkBase';
import { PARTS } from '../shower/geometry/parts';
import { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { anyMm, howMany, oneOrMore, place32, rateMm, someHours } from '../units/bounded';
import { FLOOD_EVENTS } from '../water/floodEvents';
import { CALL_BODIES } from './callBodies';
import { DEFECT_BODIES } from './defectBodies';
import { ClimateSeries, FloodFigures, LevelSeries } from './loggedSeries';
import { id, instant, key, mm, PhotoUse, Place, words } from './places';
/** What a person can say after looking. */
export const LOOK_ANSWERS = ['ok', 'defect', 'could-not-see', 'not-applicable'] as const;
/** One of them. */
export type LookAnswer = (typeof LOOK_ANSWERS)[number];
/** How a check can stand at a place; undecided is told apart from not looked at. */
export const CHECK_VERDICTS = ['pass', 'fail', 'undecided', 'unseen'] as const;
/** One of them. */
export type CheckVerdict = (typeof CHECK_VERDICTS)[number];
/** What a person can say after feeling for moisture. */
export const MOISTURE_ANSWERS = ['dry', 'wet', 'could-not-see', 'not-applicable'] as const;
/** One of them. */
export type MoistureAnswer = (typeof MOISTURE_ANSWERS)[number];
/** When it is looked for: before the water, on leaving, at the end. */
export const MOISTURE_MOMENTS = ['start', 'leaving', 'end'] as const;
/** One of them. */
export type MoistureMoment = (typeof MOISTURE_MOMENTS)[number];
/** What an acceptance is asked for, and of which drawing and rules. */
const deviationKey = {
  stage: key,
  check: key,
  place: Place,
  geometryVersion: howMany,
  ruleVersion: howMany,
  verdict: z.enum(CHECK_VERDICTS),
};
/** The closed list of entry kinds; each body has its own version number in `VERSIONS`. */
export const BODIES = {
  'shower-created': z.object({
    name: words,
    job: words,
    crewId: key,
    timeZone: key,
    note: z.string().max(2000).optional(),
    /** Since version 2: stages that are another crew's, by their keys. */
    stageCrews: z.record(key, key).optional(),
  }),
  'geometry-set': z.object({
    version: oneOrMore,
    geometry: ShowerGeometry,
    /** Since version 2: the form as it was typed with the ids of its parts, and the shower whose type it follows. */
    drawing: z
      .object({ typed: z.record(z.string(), z.unknown()), ids: z.record(z.string(), z.string().max(60)) })
      .optional(),
    from: z.object({ shower: id, version: oneOrMore }).optional(),
  }),
  'rules-pinned': z.object({
    ruleBook: key,
    version: oneOrMore,
    method: key,
    /** Since version 2: parts built by another method, ways of building, and the first stage that is inspected. */
    parts: z.partialRecord(z.enum(PARTS), key).optional(),
    variants: z.array(z.enum(VARIANTS)).max(10).optional(),
    beginsAt: key.optional(),
    /** Since version 3: product lines in use, by their ids in the book. */
    lines: z.array(key).max(40).optional(),
  }),
  'work-done': z.object({
    stage: key,
    crewId: key,
    who: words,
    day: z.iso.date(),
    productLine: z.string().max(120).optional(),
    batch: z.string().max(120).optional(),
    /** Since version 2: when it was finished, where that was not as it was told. */
    doneAt: instant.optional(),
  }),
  'look-requested': z.object({
    stage: key,
    words: z.string().max(2000).optional(),
    /** Since version 2: from when on it can be looked at, where that is later. */
    readyAt: instant.optional(),
  }),
  reading: z.object({
    stage: key,
    check: key,
    place: Place,
    atMm: mm,
    valueMm: mm,
    typed: z.string().max(40),
    instrument: key,
    /** Since version 2: a shot of a level survey: where the rod stood, and its height over the drain's rim or the first shot. */
    shot: z
      .object({
        xMm: z.number().min(-1000).max(100_000),
        yMm: z.number().min(-1000).max(100_000),
        zMm: z.number().min(-10_000).max(10_000),
        uncertaintyMm: z.number().min(0).max(100),
      })
      .optional(),
    /** Since version 3: a liquid film as it was read, or the number of a place that was drawn at random with its seed. */
    film: FilmRecord.optional(),
    drawn: z
      .object({
        seed: z
          .number()
          .int()
          .min(0)
          .max(Number.MAX_SAFE_INTEGER - 1),
        number: z.number().int().min(1).max(2000),
      })
      .optional(),
    /** Since version 4: told with one word at so many places, once one of them was measured. */
    together: z.number().int().min(2).max(400).optional(),
    /** Since version 5: the open defect of the same check and element that it is one more place of, where it fails. */
    defect: id.optional(),
  }),
  look: z
    .object({
      stage: key,
      checks: z.array(key).min(1).max(60),
      places: z.array(Place).min(1).max(400),
      answer: z.enum(LOOK_ANSWERS),
      reason: z.string().max(2000).optional(),
      /** Since version 2: a figure in the check's unit, what shows it, the position found on a disputed question. */
      number: z.number().min(-1_000_000).max(1_000_000).optional(),
      shownBy: z.string().trim().min(1).max(400).optional(),
      position: z
        .string()
        .regex(/^[a-z]$/)
        .optional(),
      /** Since version 3: what was used of each item of the take-off, in its unit. */
      used: z.record(key, z.number().min(0).max(1_000_000)).optional(),
      /** Since version 4: pictures of what was seen. */
      photos: z.array(PhotoUse).max(20).optional(),
    })
    .refine((b) => b.answer !== 'not-applicable' || (b.reason ?? '').trim() !== '', {
      path: ['reason'],
      message: 'reason-missing',
    }),
  photo: z.object({
    photo: PhotoUse,
    stage: key.optional(),
    place: Place.optional(),
    words: z.string().max(2000).optional(),
  }),
  'climate-reading': z.object({
    airC: z.number().min(-40).max(60),
    relativeHumidity: z.number().min(0).max(1),
    waterC: z.number().min(0).max(60).optional(),
    /** Since version 2: when it was read, the surface it lay on, and a logger's whole series (then air and humidity are its last). */
    readAt: instant.optional(),
    surfaceC: z.number().min(-40).max(90).optional(),
    instrument: key.optional(),
    series: ClimateSeries.optional(),
  }),
  ...DEFECT_BODIES,
  redo: z.object({ stage: key, places: z.array(Place).min(1).max(60), reason: words, defect: id.optional() }),
  'deviation-asked': z.object({ ...deviationKey, reason: words }),
  'deviation-decided': z.object({ asked: id, accepted: z.boolean(), reason: words }),
  'stage-released': z.object({
    stage: key,
    judged: z.object({
      ledgerSeq: place32,
      ledgerHash: z.string().max(64),
      deviceSeq: place32,
    }),
    inputs: z.array(id).max(20_000),
    verdicts: z.record(z.string(), z.enum(CHECK_VERDICTS)),
    ruleVersion: howMany,
    calculations: z.record(z.string().max(60), z.string().max(20)),
    upholds: words.optional(),
  }),
  'stage-reopened': z.object({ stage: key, reason: words }),
  'flood-started': z.object({
    waterLineMm: anyMm,
    plannedHours: someHours,
    /** Since version 2. How it is read, the full step of its gauges, what a pass must exclude, what was prepared. */
    method: z.enum(['marks', 'logger']).optional(),
    resolutionMm: z.number().positive().max(50).optional(),
    panResolutionMm: z.number().positive().max(50).nullable().optional(),
    smallestLeakMmPerDay: rateMm.nullable().optional(),
    prepared: z.array(key).max(40).optional(),
    startedAt: instant.optional(),
  }),
  'flood-reading': z.object({
    /** mm above the drain rim; for a series its lowest. */
    levelMm: anyMm,
    instrument: key,
    /** Since version 2: the flooded floor or the control pan, when it was read, as typed, a logger's whole series. */
    of: z.enum(['water', 'pan']).optional(),
    typed: z.string().max(40).optional(),
    readAt: instant.optional(),
    resolutionMm: z.number().positive().max(50).optional(),
    series: LevelSeries.optional(),
  }),
  'flood-event': z.object({
    event: z.enum(FLOOD_EVENTS),
    levelMm: anyMm.optional(),
    words: z.string().max(2000).optional(),
    /** Since version 2: which water, and when. */
    of: z.enum(['water', 'pan']).optional(),
    at: instant.optional(),
  }),
  'moisture-look': z.object({
    /** A place's id in the rule book, or words. */
    where: words,
    found: z.boolean(),
    /** Since version 2: the answer in full, at which moment, and more words. */
    answer: z.enum(MOISTURE_ANSWERS).optional(),
    moment: z.enum(MOISTURE_MOMENTS).optional(),
    words: z.string().max(2000).optional(),
  }),
  'flood-ended': z.object({
    lowestLevelMm: anyMm,
    verdict: z.enum(['pass', 'fail', 'undecided', 'aborted']),
    /** Since version 2: the entries it was judged by, the figures, the version of the calculation, why it was aborted. */
    inputs: z.array(id).max(5000).optional(),
    figures: FloodFigures.optional(),
    calculation: z.string().max(60).optional(),
    words: z.string().max(2000).optional(),
  }),
  ...CALL_BODIES,
  note: z.object({
    words,
    place: Place.optional(),
    /** Since version 2: the stage that it is about. */
    stage: key.optional(),
  }),
  correction: z
    .object({
      target: id,
      action: z.enum(['replace', 'withdraw']),
      body: z.record(z.string(), z.unknown()).optional(),
      reason: z.string().max(2000).optional(),
    })
    .refine((b) => (b.action === 'replace') === (b.body !== undefined), {
      path: ['body'],
      message: 'replacement-without-body',
    }),
  'record-signed': z.object({ name: words, ledgerHash: z.string().max(64), statement: words }),
} as const;
/** A kind of entry by its name. */
export type EntryKind = keyof typeof BODIES;
/** All kinds, in the order of the list above. */
export const ENTRY_KINDS = Object.keys(BODIES) as EntryKind[];
/** What an entry of one kind says. */
export type Body<K extends EntryKind> = z.infer<(typeof BODIES)[K]>;
/** Kinds whose body has grown since their first version; older bodies are read as they are: all that is new may be missing. */
const GROWN: Partial<Record<EntryKind, number>> = {
  'shower-created': 2,
  'geometry-set': 2,
  'rules-pinned': 3,
  'work-done': 2,
  'look-requested': 2,
  reading: 5,
  look: 4,
  'climate-reading': 2,
  'defect-found': 3,
  'defect-assigned': 2,
  'defect-answered': 2,
  'defect-closed': 3,
  'flood-started': 2,
  'flood-reading': 2,
  'flood-event': 2,
  'moisture-look': 2,
  'flood-ended': 2,
  'call-tested': 2,
  note: 2,
};
/** Version of each kind's body that this program writes; it reads all earlier ones. */
export const VERSIONS = Object.fromEntries(ENTRY_KINDS.map((k) => [k, GROWN[k] ?? 1])) as Record<EntryKind, number>;
