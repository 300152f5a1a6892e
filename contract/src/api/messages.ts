import { ROLES } from '@careful-seam/core/log/roles';
import { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { z } from 'zod';

/** What crosses the wire between tablet and server. Both sides validate with these. */
export const SignIn = z.object({ signIn: z.string().trim().min(1).max(120), password: z.string().min(1).max(200) });
export const Person = z.object({
  id: z.string(),
  name: z.string(),
  role: z.enum(ROLES),
  crewId: z.string().nullable(),
});
export type Person = z.infer<typeof Person>;
export const SessionAnswer = z.object({ person: Person, expiresAt: z.iso.datetime() });

export const Crew = z.object({
  id: z.string(),
  name: z.string(),
  /** The crew that it has become part of: it is chosen no more, and its past counts as that crew's. Null for one that stands. */
  into: z.string().nullable().default(null),
});
export type Crew = z.infer<typeof Crew>;

export const ShowerRow = z.object({
  id: z.uuid(),
  name: z.string(),
  job: z.string(),
  crewId: z.string(),
  headSeq: z.number().int(),
  headHash: z.string().nullable(),
  updatedAt: z.string(),
  /** Who looks at it; null: whoever comes. */
  inspectorId: z.string().nullable(),
  /** ISO day of the next planned visit, or null. */
  visitOn: z.string().nullable(),
  /** Whose rule books it was judged by, where it came from elsewhere; empty: the firm's own. */
  bookOrigin: z.string().default(''),
  /** The last entry is the signature of its record: nothing is open here. */
  isSigned: z.boolean().default(false),
});
export type ShowerRow = z.infer<typeof ShowerRow>;
/** One page of showers; `next` asks for the one after it, null after the last. */
export const ShowerList = z.object({ showers: z.array(ShowerRow), next: z.string().nullable() });

/** At most this many entries in one push. */
export const PUSH_AT_MOST = 500;
/** `entries` are canonical texts, in the order of the device's chain; `clock` is the device's time of sending. */
export const Push = z.object({
  clock: z.iso.datetime(),
  entries: z.array(z.string().max(400_000)).min(1).max(PUSH_AT_MOST),
  /** Ids of those that a server had acknowledged before it was restored: nobody is told of them twice. */
  again: z.array(z.uuid()).max(PUSH_AT_MOST).default([]),
});
/** An expected failure: its code, the field, what its sentence is made of, and the sentence in the language that was asked for. */
export const ToldProblem = z.object({
  code: z.string(),
  field: z.string(),
  values: z.record(z.string(), z.union([z.string(), z.number()])).default({}),
  message: z.string(),
});
export type ToldProblem = z.infer<typeof ToldProblem>;

export const Taken = z.object({
  id: z.string(),
  ledgerSeq: z.number().int(),
  ledgerHash: z.string(),
  receivedAt: z.string(),
});
export const PushAnswer = z.object({
  taken: z.array(Taken),
  /** The first entry refused; the ones after it were not looked at. */
  refused: ToldProblem.extend({ id: z.string() }).nullable(),
  /** Server time less device time, ms. */
  skewMs: z.number(),
});
export type PushAnswer = z.infer<typeof PushAnswer>;

export const PulledEntry = z.object({
  text: z.string(),
  hash: z.string(),
  ledgerSeq: z.number().int(),
  ledgerHash: z.string(),
  receivedAt: z.string(),
  /** Server time less the device's time when it was sent, ms; whether it came in a file whose chain nobody proved. */
  skewMs: z.number().optional(),
  imported: z.boolean().optional(),
});
export type PulledEntry = z.infer<typeof PulledEntry>;
export const PullAnswer = z.object({ entries: z.array(PulledEntry), more: z.boolean() });

export const SignRecord = z.object({
  password: z.string().min(1).max(200),
  clock: z.iso.datetime(),
  entry: z.string().max(400_000),
});
export const PhotoTaken = z.object({ hash: z.string(), widthPx: z.number(), heightPx: z.number() });
export const RuleBookAnswer = z.object({ book: RuleBook });
export const ErrorAnswer = z.object({
  error: ToldProblem.extend({ id: z.string().optional() }),
});
export type ErrorAnswer = z.infer<typeof ErrorAnswer>;

/** Largest picture taken, bytes. */
export const PHOTO_BYTES_AT_MOST = 12 * 1024 * 1024;
/** A tablet whose clock is off by more than this is told so. */
export const CLOCK_OFF_MS = 5 * 60_000;
