import { CHECK_VERDICTS, ENTRY_KINDS } from '@careful-seam/core/log/bodies';
import { SHORTFALLS } from '@careful-seam/core/log/floodTest';
import { STAGE_CAUSES } from '@careful-seam/core/log/judgement';
import { ORPHAN_REASONS } from '@careful-seam/core/log/state';
import { FILM_ZONES } from '@careful-seam/core/membrane/film/filmZones';
import { FILM_REASONS } from '@careful-seam/core/membrane/film/judgeFilm';
import { LINE_STATES } from '@careful-seam/core/proof/shown/seamLine';
import { TOGETHER } from '@careful-seam/core/rules/mixedParts';
import { EFFECTS } from '@careful-seam/core/rules/ruleBook';
import { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { z } from 'zod';

const mm = z.number();
const Piece = z.object({ fromMm: mm, toMm: mm, state: z.enum(LINE_STATES), water: z.boolean() });
const RecordPlace = z.object({ element: z.string(), fromMm: mm.nullable(), toMm: mm.nullable() });
const ReadingLine = z.object({
  entry: z.uuid(),
  stage: z.string(),
  check: z.string(),
  element: z.string(),
  side: z.string().nullable(),
  atMm: mm,
  valueMm: mm,
  /** At how many places it was told with one word; null for one that was told by itself. */
  together: z.number().int().nullable().default(null),
  by: z.string(),
  at: z.string(),
  counts: z.enum(['counts', 'voided', 'look-again']),
});
const LookLine = z.object({
  entry: z.uuid(),
  stage: z.string(),
  check: z.string(),
  element: z.string(),
  side: z.string().nullable(),
  fromMm: mm,
  toMm: mm,
  answer: z.string(),
  reason: z.string().nullable(),
  /** A figure in the check's own unit; what shows a proof. */
  number: z.number().nullable().default(null),
  shownBy: z.string().nullable().default(null),
  by: z.string(),
  at: z.string(),
  counts: z.enum(['counts', 'voided', 'look-again']),
});
const VerdictLine = z.object({
  stage: z.string(),
  check: z.string(),
  element: z.string(),
  side: z.string().nullable(),
  verdict: z.enum(CHECK_VERDICTS),
  satisfied: z.boolean(),
  /** "Not applicable" was said of what a manager decides, and no manager has. */
  waitsForManager: z.boolean().default(false),
  lowestMm: mm.nullable(),
});

export const RECORD_FORMAT_VERSION = 1;

/**
 * The record of one shower as a file. Figures first, for people and programs; then every entry with its place in the
 * ledger, from which the figures can be computed again and every hash checked.
 */
export const ShowerRecord = z.object({
  format: z.literal('careful-seam-record'),
  formatVersion: z.literal(RECORD_FORMAT_VERSION),
  madeAt: z.iso.datetime(),
  shower: z.object({ id: z.uuid(), name: z.string(), job: z.string(), crewId: z.string(), timeZone: z.string() }),
  head: z.object({ seq: z.number().int(), hash: z.string().nullable() }),
  rules: z
    .object({
      id: z.string(),
      version: z.number().int(),
      method: z.string(),
      /** Part → method, where it differs; ways of building that were told. */
      parts: z.record(z.string(), z.string()).default({}),
      variants: z.array(z.string()).default([]),
      /** Products in use with where their labels were read, and how each two of them stand to each other. */
      products: z
        .array(
          z.object({ id: z.string(), name: z.string(), maker: z.string(), kind: z.string(), readFrom: z.string() }),
        )
        .default([]),
      pairs: z
        .array(z.object({ a: z.string(), b: z.string(), together: z.enum(TOGETHER), paper: z.string().nullable() }))
        .default([]),
    })
    .nullable(),
  /** Stages built before the inspection began: nothing was proved there. */
  notInspected: z.array(z.string()).default([]),
  /** Where the trade disagrees: the firm's own way, or what was found. */
  ways: z
    .array(
      z.object({
        id: z.string(),
        stage: z.string(),
        question: z.string(),
        position: z.string(),
        text: z.string(),
        found: z.boolean(),
        effect: z.enum(EFFECTS),
      }),
    )
    .default([]),
  geometry: z.object({ version: z.number().int(), dimensions: ShowerGeometry }).nullable(),
  figures: z.object({ totalMm: mm, byState: z.record(z.enum(LINE_STATES), mm), waterMm: mm }),
  stages: z.array(
    z.object({
      key: z.string(),
      word: z.string(),
      releasedBy: z.string().nullable(),
      releasedAt: z.string().nullable(),
      missing: z.number().int(),
      /** Why it does not stand although it was released once. */
      because: z.enum(STAGE_CAUSES).nullable().default(null),
      /** Checks that today's calculation judges otherwise than the one it was released by. */
      beside: z
        .array(z.object({ check: z.string(), element: z.string(), verdict: z.enum(CHECK_VERDICTS) }))
        .default([]),
      /** The release came in a file whose chain nobody proved. */
      imported: z.boolean().default(false),
      /** Work that was told: who did it, when it was finished by what was said, when that was told, and by whom. */
      work: z
        .array(z.object({ who: z.string(), finishedAt: z.string(), toldAt: z.string(), by: z.string() }))
        .default([]),
    }),
  ),
  seams: z.array(
    z.object({ id: z.string(), kind: z.string(), lengthMm: mm, pieces: z.array(Piece), ticksMm: z.array(mm) }),
  ),
  verdicts: z.array(VerdictLine),
  /** What somebody wrote down beside the checks, sums worked out on site among them. */
  notes: z
    .array(
      z.object({ entry: z.uuid(), element: z.string().nullable(), words: z.string(), by: z.string(), at: z.string() }),
    )
    .default([]),
  /** What was corrected or taken back later than a slip of the finger is: as it was first, and as it is now. */
  corrected: z
    .array(
      z.object({
        entry: z.uuid(),
        kind: z.enum(ENTRY_KINDS),
        action: z.enum(['replace', 'withdraw']),
        stage: z.string().nullable(),
        check: z.string().nullable(),
        element: z.string().nullable(),
        firstMm: mm.nullable(),
        nowMm: mm.nullable(),
        reason: z.string(),
        by: z.string(),
        at: z.string(),
      }),
    )
    .default([]),
  /** Pictures of what was sound, and of what the next layer hides, stage by stage; those of defects stand with them. */
  pictures: z
    .array(
      z.object({
        hash: z.string(),
        stage: z.string().nullable(),
        elements: z.array(z.string()),
        words: z.string(),
        by: z.string(),
        at: z.string(),
        /** What it shows was not built again since. */
        stands: z.boolean(),
      }),
    )
    .default([]),
  /** What the rule book wants a picture kept of and none shows, of stages that were released. */
  picturesMissing: z
    .array(z.object({ stage: z.string(), check: z.string(), elements: z.array(z.string()) }))
    .default([]),
  readings: z.array(ReadingLine),
  looks: z.array(LookLine),
  defects: z.array(
    z.object({
      id: z.uuid(),
      stage: z.string(),
      kind: z.string().nullable(),
      check: z.string().nullable(),
      severity: z.string(),
      words: z.string(),
      element: z.string(),
      fromMm: mm.nullable(),
      toMm: mm.nullable(),
      /** All its places; the first one stands above as well. */
      places: z.array(RecordPlace).default([]),
      valueMm: mm.nullable(),
      by: z.string(),
      at: z.string(),
      redoneAt: z.string().nullable(),
      closedAt: z.string().nullable(),
      cause: z.object({ family: z.string(), confidence: z.string(), words: z.string() }).nullable(),
      escape: z.object({ family: z.string(), words: z.string() }).nullable(),
      answers: z.array(z.object({ words: z.string(), by: z.string(), at: z.string() })),
      pictures: z.array(z.string()),
    }),
  ),
  floods: z.array(
    z.object({
      entry: z.uuid(),
      startedAt: z.string(),
      by: z.string(),
      filledToMm: mm,
      lowestMm: mm,
      plannedHours: z.number(),
      smallestLeakMmPerDay: z.number().nullable(),
      volumeL: z.number().nullable(),
      running: z.boolean(),
      verdict: z.string().nullable(),
      /** What the tablet stated; the verdict above is worked out from the readings. */
      stated: z.string().nullable().default(null),
      figures: z.looseObject({}).nullable(),
      /** What the test lacks of what the rule book asks: hours, mm, or a count. */
      short: z.array(z.object({ kind: z.enum(SHORTFALLS), by: z.number(), where: z.string().nullable() })).default([]),
      /** What was done to the basin since: from then on the test proves nothing. */
      voided: z
        .object({ cause: z.enum(['redo', 'work', 'dimensions']), entry: z.uuid(), at: z.string() })
        .nullable()
        .default(null),
      provedBelowMm: mm.nullable(),
      provedMm: mm,
    }),
  ),
  /** Liquid films zone by zone: µm, litres and m²; a mean film is null without a bucket or a label. */
  films: z
    .array(
      z.object({
        stage: z.string(),
        check: z.string(),
        zone: z.enum(FILM_ZONES),
        areaM2: z.number(),
        coats: z.number().int(),
        coatsNeeded: z.number().int(),
        volumeL: z.number(),
        meanWetUm: z.number().nullable(),
        meanDryUm: z.number().nullable(),
        dryLeastUm: z.number().nullable(),
        missingL: z.number(),
        verdict: z.enum(CHECK_VERDICTS),
        reasons: z.array(z.enum(FILM_REASONS)),
      }),
    )
    .default([]),
  /** Waits and the layer that each hangs on: what its label says, when it was ready, what held it up, what was not read. */
  cures: z
    .array(
      z.object({
        stage: z.string(),
        check: z.string(),
        cures: z.string().nullable(),
        labelHours: z.number(),
        laidAt: z.string(),
        element: z.string().nullable(),
        readyAt: z.string().nullable(),
        decides: z.string(),
        airRead: z.boolean(),
        bridgedHours: z.number(),
        lostHours: z.number(),
        assumedHours: z.number(),
      }),
    )
    .default([]),
  /** The air on site as it was read: how many readings, from when to when, coldest and warmest. */
  air: z
    .object({
      readings: z.number().int(),
      from: z.string(),
      to: z.string(),
      coldestC: z.number(),
      warmestC: z.number(),
    })
    .nullable()
    .default(null),
  /** What was used of each item of the take-off, in mm, L, m² or pieces, against what the drawing comes to. */
  materials: z.array(z.object({ item: z.string(), unit: z.string(), net: z.number(), used: z.number() })).default([]),
  /** What was built again. */
  redos: z
    .array(
      z.object({
        entry: z.uuid(),
        stage: z.string(),
        places: z.array(RecordPlace),
        reason: z.string(),
        by: z.string(),
        at: z.string(),
      }),
    )
    .default([]),
  /** Entries that are written down and not counted, with the reason. */
  notCounted: z.array(z.object({ entry: z.uuid(), why: z.enum(ORPHAN_REASONS) })).default([]),
  deviations: z.array(
    z.object({
      stage: z.string(),
      check: z.string(),
      element: z.string(),
      verdict: z.string(),
      reason: z.string(),
      askedBy: z.string(),
      askedAt: z.string(),
      accepted: z.boolean().nullable(),
      decidedBy: z.string().nullable(),
      decidedAt: z.string().nullable(),
      decisionReason: z.string().nullable(),
      ended: z.boolean(),
    }),
  ),
  signatures: z.array(
    z.object({
      name: z.string(),
      by: z.string(),
      at: z.string(),
      ledgerHash: z.string(),
      /** Came in a file whose chain nobody proved. */
      imported: z.boolean().default(false),
    }),
  ),
  /** The firm's signature (RFC 8032) over the canonical JSON of all the rest; there once a person signed. */
  firmSignature: z.object({ algorithm: z.literal('Ed25519'), publicKey: z.string(), signature: z.string() }).optional(),
  deference: z.array(z.string()),
  cautions: z.array(z.string()),
  entries: z.array(
    z.object({
      text: z.string(),
      hash: z.string(),
      ledgerSeq: z.number().int(),
      ledgerHash: z.string(),
      prevLedgerHash: z.string().nullable(),
      receivedAt: z.string(),
      skewMs: z.number(),
    }),
  ),
});
export type ShowerRecord = z.infer<typeof ShowerRecord>;
