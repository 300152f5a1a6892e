import { z } from 'zod';
import { FilmRecord } from '../membrane/film/filmRecords';
import { issueValues } from '../outcome/issueValues';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { SEVERITIES, VARIANTS } from '../rules/checks/checkBase';
import { PARTS } from '../shower/geometry/parts';
import { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { anyMm, howMany, minutesAfter, oneOrMore, place32, rateMm, someHours } from '../units/bounded';
import { FLOOD_EVENTS } from '../water/floodEvents';
import { ROLES } from './roles';

/** In small letters, as it is written here: one thing has one id. */
const id = z.uuid().lowercase();
const key = z.string().min(1).max(60);
const words = z.string().trim().min(1).max(2000);
const mm = z.number().min(0).max(100_000);
const instant = z.iso.datetime();

/**
 * Where something was seen: an element, for a seam the stretch in mm from its start, and the side (a face's id) where
 * a band has two laps. `lengthMm` and `startKey` are the seam's as it was drawn when the entry was made.
 */
export const Place = z.object({
  element: z.string().min(1).max(300),
  fromMm: mm.optional(),
  toMm: mm.optional(),
  side: z.string().max(120).optional(),
  lengthMm: mm.optional(),
  startKey: z.string().max(600).optional(),
});
export type Place = z.infer<typeof Place>;

/** Marks drawn over a picture; x and y are shares of its width and height. They never alter its bytes. */
export const PhotoMark = z.object({
  kind: z.enum(['arrow', 'circle', 'length', 'area']),
  points: z
    .array(z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }))
    .min(2)
    .max(400),
  text: z.string().max(60).optional(),
});
export type PhotoMark = z.infer<typeof PhotoMark>;

export const PhotoUse = z.object({
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  widthPx: z.number().int().positive().max(100_000),
  heightPx: z.number().int().positive().max(100_000),
  marks: z.array(PhotoMark).max(60),
});
export type PhotoUse = z.infer<typeof PhotoUse>;

export const LOOK_ANSWERS = ['ok', 'defect', 'could-not-see', 'not-applicable'] as const;
export type LookAnswer = (typeof LOOK_ANSWERS)[number];
export const CHECK_VERDICTS = ['pass', 'fail', 'undecided', 'unseen'] as const;
export type CheckVerdict = (typeof CHECK_VERDICTS)[number];

export const MOISTURE_ANSWERS = ['dry', 'wet', 'could-not-see', 'not-applicable'] as const;
export type MoistureAnswer = (typeof MOISTURE_ANSWERS)[number];
export const MOISTURE_MOMENTS = ['start', 'leaving', 'end'] as const;
export type MoistureMoment = (typeof MOISTURE_MOMENTS)[number];

/** A logger's readings as one entry: minutes after the first of them, levels in mm above the drain rim. */
const LevelSeries = z
  .object({
    startAt: instant,
    minutes: z.array(minutesAfter).min(1).max(25_000),
    levelMm: z.array(anyMm).min(1).max(25_000),
    file: z.string().max(200),
  })
  .refine((s) => s.minutes.length === s.levelMm.length, {
    path: ['levelMm'],
    message: 'levels-miscounted',
  });

/** A logger's temperature and humidity as one entry: minutes after the first reading, °C, shares. */
const ClimateSeries = z
  .object({
    startAt: instant,
    minutes: z.array(minutesAfter).min(1).max(25_000),
    airC: z.array(z.number().min(-40).max(60)).min(1).max(25_000),
    relativeHumidity: z.array(z.number().min(0).max(1)).min(1).max(25_000),
    file: z.string().max(200),
  })
  .refine((s) => s.minutes.length === s.airC.length && s.minutes.length === s.relativeHumidity.length, {
    path: ['airC'],
    message: 'air-miscounted',
  });

const FloodFigures = z.object({
  netLossMmPerDay: anyMm.nullable(),
  lowMmPerDay: anyMm.nullable(),
  highMmPerDay: anyMm.nullable(),
  failBoundMmPerDay: anyMm.nullable(),
  reasons: z.array(z.string().max(60)).max(40),
});

/** How sure the cause of a defect is. */
export const CAUSE_CONFIDENCES = ['suspected', 'shown-by-test', 'admitted'] as const;
export type CauseConfidence = (typeof CAUSE_CONFIDENCES)[number];

/** The two questions that every defect ends with; families and escapes are the rule book's ids. */
const causeAnswers = {
  /** What went wrong. */
  cause: z
    .object({ family: key, confidence: z.enum(CAUSE_CONFIDENCES), words: z.string().max(2000).optional() })
    .optional(),
  /** Why the check before it did not catch it. */
  escape: z.object({ family: key, words: z.string().max(2000).optional() }).optional(),
};

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
  }),
  'look-requested': z.object({ stage: key, words: z.string().max(2000).optional() }),
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
  'defect-found': z.object({
    stage: key,
    place: Place,
    kind: key,
    severity: z.enum(SEVERITIES),
    words: z.string().max(2000),
    photos: z.array(PhotoUse).max(12),
    about: id.optional(),
    /** Since version 2: the stage that it was made in, an earlier defect that it repeats, and the first thoughts on why. */
    stageMade: key.optional(),
    repeats: id.optional(),
    ...causeAnswers,
  }),
  'defect-assigned': z.object({
    defect: id,
    crewId: key,
    due: z.iso.date().optional(),
    /** Since version 2: the end of that day on site, what to do, and whether it was looked at and sent back. */
    dueAt: instant.optional(),
    words: z.string().max(2000).optional(),
    again: z.boolean().optional(),
  }),
  'defect-answered': z.object({ defect: id, words, photos: z.array(PhotoUse).max(12) }),
  redo: z.object({ stage: key, places: z.array(Place).min(1).max(60), reason: words, defect: id.optional() }),
  'defect-closed': z.object({
    defect: id,
    words: z.string().max(2000).optional(),
    /** Since version 2: the two answers, what it cost to put right, and pictures of how it is now. */
    ...causeAnswers,
    cost: z.object({ hours: z.number().min(0).max(1000), materials: z.number().min(0).max(1_000_000) }).optional(),
    photos: z.array(PhotoUse).max(12).optional(),
  }),
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
  note: z.object({ words, place: Place.optional() }),
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

export type EntryKind = keyof typeof BODIES;
export const ENTRY_KINDS = Object.keys(BODIES) as EntryKind[];
export type Body<K extends EntryKind> = z.infer<(typeof BODIES)[K]>;

/** Kinds whose body has grown since their first version; older bodies are read as they are: all that is new may be missing. */
const GROWN: Partial<Record<EntryKind, number>> = {
  'geometry-set': 2,
  'rules-pinned': 3,
  reading: 3,
  look: 3,
  'climate-reading': 2,
  'defect-found': 2,
  'defect-assigned': 2,
  'defect-closed': 2,
  'flood-started': 2,
  'flood-reading': 2,
  'flood-event': 2,
  'moisture-look': 2,
  'flood-ended': 2,
};
/** Version of each kind's body that this program writes; it reads all earlier ones. */
export const VERSIONS = Object.fromEntries(ENTRY_KINDS.map((k) => [k, GROWN[k] ?? 1])) as Record<EntryKind, number>;

const envelope = {
  id,
  showerId: id,
  v: oneOrMore,
  /** Who wrote it, and as what; entries from before roles were kept have none, and count as an inspector's. */
  author: z.object({ id: z.string().min(1).max(60), name: z.string().min(1).max(120), role: z.enum(ROLES).optional() }),
  deviceId: id,
  /** 1, 2, 3… for each device and shower. */
  deviceSeq: z.number().int().min(1).max(2_147_483_647),
  prevDeviceHash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  /** Hybrid logical clock: 15 digits of ms, a dash, 6 digits of counter. Sorts as text. */
  orderAt: z.string().regex(/^\d{15}-\d{6}$/),
  observedAt: z.iso.datetime(),
  /** Minutes that the device's local time is ahead of UTC. */
  offsetMinutes: z.number().int().min(-840).max(840),
  geometryVersion: howMany,
};
const Envelope = z.object({ ...envelope, kind: z.enum(ENTRY_KINDS as [EntryKind, ...EntryKind[]]), body: z.unknown() });
export type Author = z.infer<typeof Envelope>['author'];
export type Envelope = Omit<z.infer<typeof Envelope>, 'kind' | 'body'>;

/** One entry as hashed and stored. */
export type EntryOf<K extends EntryKind> = Envelope & { kind: K; body: Body<K> };
export type Entry = { [K in EntryKind]: EntryOf<K> }[EntryKind];

function firstIssue(error: z.ZodError, prefix: string): Outcome<never> {
  const issue = error.issues[0]!;
  const field = [prefix, ...issue.path].filter((part) => part !== '').join('.');
  return refuse('entry-invalid', field, issueValues(issue, field));
}

/** Checks one body against its kind. */
export function readBody<K extends EntryKind>(kind: K, body: unknown): Outcome<Body<K>> {
  const read = BODIES[kind].safeParse(body);
  return read.success ? done(read.data as Body<K>) : firstIssue(read.error, 'body');
}

/** Checks an entry that crosses a boundary: a later version or an unknown kind is named, never guessed at. */
export function readEntry(input: unknown): Outcome<Entry> {
  const kind = (input as { kind?: unknown } | null)?.kind;
  const v = (input as { v?: unknown } | null)?.v;
  if (typeof kind === 'string' && !(kind in BODIES)) {
    return refuse('kind-unknown', 'kind', { kind });
  }
  if (typeof v === 'number' && typeof kind === 'string' && v > VERSIONS[kind as EntryKind]) {
    return refuse('version-too-new', 'v', { kind, version: v });
  }
  const read = Envelope.safeParse(input);
  if (!read.success) return firstIssue(read.error, '');
  const body = readBody(read.data.kind, read.data.body);
  return body.ok ? done({ ...read.data, body: body.value } as Entry) : body;
}
