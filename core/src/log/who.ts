import type { Severity } from '../rules/checks/checkBase';
import type { ShowerModel } from '../shower/geometry/showerModel';
import type { Entry, EntryOf } from './entry';
import { orderMs } from './order';
import { mayWrite, type Role } from './roles';

/** As what an entry was written; from before roles were kept it counts as an inspector's, who may less than a manager. */
export const roleOf = (e: Pick<Entry, 'author'>): Role => e.author.role ?? 'inspector';

/** True for an entry that a manager wrote. */
export const byManager = (e: Pick<Entry, 'author'>): boolean => roleOf(e) === 'manager';

/** False for an entry of a kind that its author's role may not write. Without a role the kind itself was let in by the server. */
export const mayBe = (e: Entry): boolean => e.author.role === undefined || mayWrite(e.author.role, e.kind);

/** Higher is milder. */
const MILDNESS: Record<Severity, number> = { stop: 0, fix: 1, note: 2 };

/** True when `next` holds less than `before`. */
export const isMilder = (next: Severity, before: Severity): boolean => MILDNESS[next] > MILDNESS[before];

/** A slip of the finger is taken back within this, ms [common practice, no source]. */
export const SLIP_MS = 10 * 60_000;

/** True when a correction takes a defect back or makes it milder, later than a slip of the finger would. */
function softens(target: EntryOf<'defect-found'>, correction: EntryOf<'correction'>): boolean {
  if (orderMs(correction.orderAt) - orderMs(target.orderAt) <= SLIP_MS) return false;
  if (correction.body.action === 'withdraw') return target.body.severity !== 'note';
  const next = String(correction.body.body?.severity);
  return next in MILDNESS && isMilder(next as Severity, target.body.severity);
}

/** Stages of a shower with the crews that they were handed to, in an order of their own. */
const handedStages = (stageCrews: unknown): string => JSON.stringify(Object.entries(stageCrews ?? {}).sort());

/** True when a correction gives a shower, or a stage of it, to another crew: the office's to decide. */
const handsOver = (target: EntryOf<'shower-created'>, { body }: EntryOf<'correction'>): boolean =>
  body.action === 'replace' &&
  (body.body?.crewId !== target.body.crewId ||
    handedStages(body.body?.stageCrews) !== handedStages(target.body.stageCrews));

/** The same entry as what is asked for it, where it is of that kind. */
const standingOf = <K extends 'defect-found' | 'shower-created'>(
  kind: K,
  standing: Entry,
  target: EntryOf<K>,
): EntryOf<K> => (standing.kind === kind ? (standing as EntryOf<K>) : target);

/**
 * Whether a correction may touch its target: one's own entries, or any as a manager; what makes a defect milder or takes it
 * back is a manager's, apart from a slip of the finger. `standing`: the target as earlier corrections left it. A defect may become
 * milder neither than it was written nor than it stands; a shower stays with the crews that it stands with.
 */
export function mayCorrect(target: Entry, correction: EntryOf<'correction'>, standing: Entry = target): boolean {
  // What was signed was signed: a record that has grown is signed anew.
  if (target.kind === 'record-signed') return false;
  if (byManager(correction)) return true;
  if (target.kind === 'shower-created' && handsOver(standingOf('shower-created', standing, target), correction))
    return false;
  if (correction.author.id !== target.author.id) return false;
  if (target.kind !== 'defect-found') return true;
  return !softens(target, correction) && !softens(standingOf('defect-found', standing, target), correction);
}

/** A niche, bench or curb in the id of an element. */
const THING = /^(niche|bench|curb):([^:]+)/;

/** The one thing that an element belongs to: a niche, a bench, a curb with all its faces and seams; else the element itself. */
export function thingOf(model: ShowerModel, element: string): string {
  const own = THING.exec(element);
  if (own) return own[0];
  const faces = [...model.seams, ...model.corners].find((e) => e.id === element)?.faces ?? [];
  for (const kind of ['niche', 'bench', 'curb'])
    for (const face of faces) if (face.startsWith(`${kind}:`)) return THING.exec(face)![0];
  return element;
}
