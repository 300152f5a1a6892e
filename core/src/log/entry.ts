import { z } from 'zod';
import { issueValues } from '../outcome/issueValues';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { howMany, oneOrMore } from '../units/bounded';
import { BODIES, type Body, ENTRY_KINDS, type EntryKind, VERSIONS } from './bodies';
import { id } from './places';
import { ROLES } from './roles';

/** What every entry has, whatever it says. */
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
/** The same with its kind; what it says is read by the schema of the kind. */
const Envelope = z.object({ ...envelope, kind: z.enum(ENTRY_KINDS as [EntryKind, ...EntryKind[]]), body: z.unknown() });
/** Who wrote an entry. */
export type Author = z.infer<typeof Envelope>['author'];
/** What every entry has, whatever it says. */
export type Envelope = Omit<z.infer<typeof Envelope>, 'kind' | 'body'>;

/** One entry as hashed and stored. */
export type EntryOf<K extends EntryKind> = Envelope & { kind: K; body: Body<K> };
/** An entry of any kind. */
export type Entry = { [K in EntryKind]: EntryOf<K> }[EntryKind];

/** What is wrong first, with its field. */
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

/** Refuses what a later version of this program wrote: a kind or a version that this one can't read. Nothing else is looked at. */
export function knownKind(input: unknown): Outcome<null> {
  const kind = (input as { kind?: unknown } | null)?.kind;
  const v = (input as { v?: unknown } | null)?.v;
  if (typeof kind === 'string' && !(kind in BODIES)) {
    return refuse('kind-unknown', 'kind', { kind });
  }
  if (typeof v === 'number' && typeof kind === 'string' && v > VERSIONS[kind as EntryKind]) {
    return refuse('version-too-new', 'v', { kind, version: v });
  }
  return done(null);
}

/** Checks an entry that crosses a boundary: a later version or an unknown kind is named, never guessed at. */
export function readEntry(input: unknown): Outcome<Entry> {
  const known = knownKind(input);
  if (!known.ok) return known;
  const read = Envelope.safeParse(input);
  if (!read.success) return firstIssue(read.error, '');
  const body = readBody(read.data.kind, read.data.body);
  return body.ok ? done({ ...read.data, body: body.value } as Entry) : body;
}
