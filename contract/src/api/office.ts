import { ROLES } from '@careful-seam/core/log/roles';
import { z } from 'zod';
import { TimeZone } from './firm';
import { ShowerRow, ToldProblem } from './messages';

/** What the office page and the server say to each other. Managers only, except where a route says otherwise. */
const name = z.string().trim().min(1).max(120);
const email = z.email().max(200).nullable();
const signIn = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9._-]{2,40}$/, 'sign-in-letters');

export const PersonRow = z.object({
  id: z.uuid(),
  name: z.string(),
  signIn: z.string(),
  role: z.enum(ROLES),
  crewId: z.string().nullable(),
  email: z.string().nullable(),
  disabled: z.boolean(),
});
export type PersonRow = z.infer<typeof PersonRow>;
export const PeopleAnswer = z.object({ people: z.array(PersonRow) });
export const NewPerson = z.object({ name, signIn, role: z.enum(ROLES), crewId: z.string().nullable(), email });
export const ChangePerson = z.object({
  name,
  role: z.enum(ROLES),
  crewId: z.string().nullable(),
  email,
  disabled: z.boolean(),
});
export const Inspectors = z.object({ inspectors: z.array(z.object({ id: z.uuid(), name: z.string() })) });

/** A password needs this many characters; nothing else is asked of it. */
export const PASSWORD_AT_LEAST = 10;
export const SetPassword = z.object({
  code: z.string().min(1).max(100),
  password: z.string().min(PASSWORD_AT_LEAST, `use at least ${PASSWORD_AT_LEAST} characters`).max(200),
});

/** One's own password, changed by whoever knows the one in force. */
/** The language in which mail is written to this person. */
export const OwnLanguage = z.object({ language: z.enum(['en', 'es']) });
export const OwnPassword = z.object({ old: z.string().min(1).max(200), password: SetPassword.shape.password });

export const CrewName = z.object({ name });
/** The crew that another becomes part of. */
export const CrewInto = z.object({ into: z.string().min(1).max(120) });

export const LINK_KINDS = ['crew', 'record', 'password', 'calendar', 'device'] as const;
/** A crew's link lives at most this long, hours. */
export const CREW_LINK_HOURS_AT_MOST = 7 * 24;
export const NewLink = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('crew'),
    crewId: z.string().min(1),
    label: name,
    hours: z.number().min(1).max(CREW_LINK_HOURS_AT_MOST),
    email,
  }),
  z.object({ kind: z.literal('record'), showerId: z.uuid(), label: name, days: z.number().min(1).max(365), email }),
  z.object({ kind: z.literal('password'), userId: z.uuid() }),
  // A calendar of one person or of one job.
  z.object({
    kind: z.literal('calendar'),
    of: z.discriminatedUnion('what', [
      z.object({ what: z.literal('person'), userId: z.uuid() }),
      z.object({ what: z.literal('job'), job: name }),
    ]),
    days: z.number().min(1).max(365),
  }),
  // An instrument that sends by itself.
  z.object({ kind: z.literal('device'), label: name, days: z.number().min(1).max(3650) }),
]);
export type NewLink = z.infer<typeof NewLink>;
/** The code is told once; only its hash is kept. `path` is the page that it opens. */
export const MadeLink = z.object({ id: z.uuid(), path: z.string(), expiresAt: z.string(), mailed: z.boolean() });
export type MadeLink = z.infer<typeof MadeLink>;
export const LinkLine = z.object({
  id: z.uuid(),
  kind: z.enum(LINK_KINDS),
  label: z.string(),
  about: z.string(),
  madeBy: z.string(),
  createdAt: z.string(),
  expiresAt: z.string(),
  revokedAt: z.string().nullable(),
  lastUsedAt: z.string().nullable(),
  uses: z.number().int(),
});
export type LinkLine = z.infer<typeof LinkLine>;
export const LinkList = z.object({ links: z.array(LinkLine) });
export const LinkCode = z.object({ code: z.string().min(1).max(100) });

export const JobLine = z.object({
  name: z.string(),
  address: z.string(),
  timeZone: z.string(),
  showers: z.number().int(),
});
export type JobLine = z.infer<typeof JobLine>;
/** One page of jobs by name; the next one is asked for after the last of it. */
export const JobList = z.object({ jobs: z.array(JobLine), more: z.boolean() });
export const PutJob = z.object({ address: z.string().trim().max(300), timeZone: TimeZone });

/** Who looks at a shower next, and on which day. */
export const Visit = z.object({ inspectorId: z.uuid().nullable(), visitOn: z.iso.date().nullable() });
export const FoundShowers = z.object({ showers: z.array(ShowerRow), more: z.boolean() });

/** Problem of a mail whose link a backup did not keep: the link has to be made again. */
export const LINK_NOT_KEPT = 'link-not-kept';

export const MailLine = z.object({
  id: z.uuid(),
  recipient: z.string(),
  subject: z.string(),
  words: z.string(),
  /** The language it is written in; null in mail of older versions. */
  language: z.string().nullable(),
  madeAt: z.string(),
  sentAt: z.string().nullable(),
  /** Why it was not sent: LINK_NOT_KEPT, or what the mail server said, in its words. */
  problem: z.string().nullable(),
});
export type MailLine = z.infer<typeof MailLine>;
/** `real` is false while no mail server is set: then everything stays in the outbox to be read there. */
export const Outbox = z.object({ real: z.boolean(), mail: z.array(MailLine) });

export const AuditLine = z.object({
  id: z.uuid(),
  at: z.string(),
  who: z.string(),
  did: z.string(),
  about: z.string(),
});
export type AuditLine = z.infer<typeof AuditLine>;
export const AuditPage = z.object({ lines: z.array(AuditLine), more: z.boolean() });

/** What a backup was found to hold when it was put in force. */
export const RestoreAnswer = z.object({
  madeAt: z.string(),
  showers: z.number().int(),
  entries: z.number().int(),
  photos: z.number().int(),
  /** What in it is not as it was written: how much, and the first of it. */
  faults: z.number().int(),
  findings: z.array(z.object({ where: z.string(), what: z.string() })),
});
export type RestoreAnswer = z.infer<typeof RestoreAnswer>;
/** How a restore stands: showers and pictures checked of how many, what came back, or why it did not. */
export const RestoreState = z.object({
  state: z.enum(['none', 'running', 'done', 'failed']),
  done: z.number().int(),
  of: z.number().int(),
  found: RestoreAnswer.nullable(),
  problem: ToldProblem.nullable(),
});
export type RestoreState = z.infer<typeof RestoreState>;

/** How the server stands, for whoever looks after it. Sizes in bytes. */
export const ServerState = z.object({
  versions: z.object({ program: z.string(), node: z.string(), database: z.string(), tables: z.string() }),
  showers: z.number().int(),
  entries: z.number().int(),
  pictures: z.number().int(),
  databaseBytes: z.number(),
  pictureBytes: z.number(),
  /** What both grew by in the last 30 days; null while it is younger. */
  grewBytes: z.number().nullable(),
  /** Free room where pictures lie; null: in a store that does not say. */
  disk: z.object({ freeBytes: z.number(), totalBytes: z.number(), nearlyFull: z.boolean() }).nullable(),
  /** Where backups go by themselves, and when; null: nowhere. */
  backups: z.object({ folder: z.string(), at: z.string() }).nullable(),
  chores: z.array(
    z.object({
      what: z.enum(['backup', 'verify', 'purge']),
      beganAt: z.string(),
      endedAt: z.string().nullable(),
      ok: z.boolean().nullable(),
      words: z.string(),
    }),
  ),
});
export type ServerState = z.infer<typeof ServerState>;

/** The smallest leak that a flood test must exclude, by method; null: none is set and no test can pass. */
export const LeakLimit = z.object({ smallestLeakMmPerDay: z.number().positive().max(20).nullable() });

export const BookList = z.object({
  books: z.array(
    z.object({ id: z.string(), version: z.number().int(), title: z.string(), shipped: z.number().int().nullable() }),
  ),
});
/** A draft as JSON, and the version that it was begun on. The draft itself is checked by the trade's own rules. */
export const PublishBook = z.object({ book: z.looseObject({}), basedOn: z.number().int() });

export const FirmKeyAnswer = z.object({ algorithm: z.literal('Ed25519'), publicKey: z.string() });
