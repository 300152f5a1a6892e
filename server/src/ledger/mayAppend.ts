import type { Person } from '@careful-seam/contract/api/messages';
import { type Entry, readBody } from '@careful-seam/core/log/entry';
import { orderMs } from '@careful-seam/core/log/order';
import { mayActAs, mayWrite } from '@careful-seam/core/log/roles';
import { foldShower } from '@careful-seam/core/proof/fold/foldShower';
import type { QueryRunner } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { arrivalsOf } from '../showers/loadShower';
import { loadRuleBooks } from '../showers/ruleBooks';
import { EntryEntity, ShowerEntity } from '../store/entities/showers';
import type { Head } from './appendEntries';

/** Who hands entries in, and when. */
export interface AppendContext {
  /** Who asks. */
  person: Person;
  /** The moment it is asked at. */
  now: Date;
  /** What the clock of the device is off by, ms. */
  skewMs: number;
  /** `record-signed` comes only through the signing route, which checked the password. */
  signing?: boolean;
  /** From a file of whole showers: entries keep their authors, and the manager who takes it in answers for it. */
  importing?: boolean;
  /** Of a file that this firm itself signed: its chains are proved. */
  proved?: boolean;
  /** A manager hands in what this author wrote and can't send any more; the rights are the author's. */
  handingIn?: boolean;
}
/** Who wrote something is called by the name of the account, whatever the entry says: nobody writes in another's name. */
function checkName(entry: Entry, person: Person, handingIn: boolean): void {
  if (handingIn) return;
  const field = entry.author.name !== person.name ? 'author.name' : null;
  const signed = entry.kind === 'record-signed' && entry.body.name !== person.name ? 'body.name' : null;
  if (field === null && signed === null) return;
  throw new Refusal('author-renamed', field ?? signed!, { written: entry.author.name, name: person.name });
}
/** Refuses what this person may not write. */
export function checkRights(
  entry: Entry,
  shower: Pick<Head, 'crewId' | 'alsoCrews'>,
  head: Head | null,
  { person, signing, importing, handingIn }: AppendContext,
): void {
  if (importing) return;
  if (entry.author.id !== person.id && !handingIn) {
    throw new Refusal('written-by-another', 'author', { name: entry.author.name });
  }
  if (entry.author.role !== undefined && !mayActAs(person.role, entry.author.role))
    throw new Refusal('role-changed', 'author.role', { written: entry.author.role, role: person.role });
  if (!mayWrite(entry.author.role ?? person.role, entry.kind) || (entry.kind === 'record-signed' && !signing)) {
    throw new Refusal('role-may-not-write', 'kind', { role: person.role, kind: entry.kind });
  }
  checkName(entry, person, handingIn === true);
  if (
    person.role === 'crew-lead' &&
    shower.crewId !== person.crewId &&
    !shower.alsoCrews.includes(person.crewId ?? '')
  ) {
    throw new Refusal('another-crews-shower', 'showerId');
  }
  // What was told offline for a crew that became part of the lead's own meanwhile is the lead's to tell.
  const told = entry.kind === 'work-done' ? (head?.workInto ?? entry.body.crewId) : null;
  if (told !== null && person.role === 'crew-lead' && told !== person.crewId) {
    throw new Refusal('another-crews-work', 'body.crewId');
  }
  if (
    entry.kind === 'correction' &&
    person.role !== 'manager' &&
    head?.targetAuthor &&
    head.targetAuthor !== entry.author.id
  ) {
    throw new Refusal('another-persons-entry', 'body.target');
  }
}
/** An entry that claims to be written so far after the server's own time would order all later ones behind it. */
export const CLOCK_AHEAD_MS = 10 * 60_000;
/** Refuses an entry whose clock runs ahead: the tablet seals it anew with a sound one, and nothing typed is lost. */
export function checkClock(entry: Entry, { now, importing }: AppendContext): void {
  const aheadMs = Math.max(orderMs(entry.orderAt), importing ? 0 : Date.parse(entry.observedAt)) - now.getTime();
  if (aheadMs <= CLOCK_AHEAD_MS) return;
  throw new Refusal('clock-ahead', 'orderAt', { minutes: Math.round(aheadMs / 60_000) });
}
/** A signature is over the record as it stands at this moment, under the lock: nothing comes in between. */
export function checkSignature(entry: Entry, head: Head, { signing }: AppendContext): void {
  if (!signing || entry.kind !== 'record-signed' || entry.body.ledgerHash === head.headHash) return;
  throw new Refusal('head-moved', 'entry.body.ledgerHash');
}
/** Refuses a correction of what is not theirs, or can not be corrected. */
export function checkCorrection(entry: Entry, head: Head): void {
  if (entry.kind === 'correction' && head.targetKind === 'record-signed')
    throw new Refusal('signature-stands', 'body.target');
  if (entry.kind !== 'correction' || entry.body.action !== 'replace' || head.targetKind === null) return;
  const body = readBody(head.targetKind, entry.body.body);
  if (!body.ok) throw Refusal.of(body.problem);
  if (
    head.targetKind === 'shower-created' &&
    entry.author.role !== 'manager' &&
    entry.body.body?.crewId !== head.crewId
  )
    throw new Refusal('manager-hands-over', 'body.body.crewId');
}
/** Kinds whose right depends on what stands in the shower, and not on the author's role alone. */
const DECISIONS: readonly Entry['kind'][] = [
  'defect-found',
  'defect-closed',
  'rules-pinned',
  'stage-released',
  'deviation-decided',
  'correction',
];
/**
 * Refuses what the fold would not count because it is a manager's to decide: one rule, asked of the one place that has it.
 * A shower's entries are read only for the few kinds that need it.
 */
export async function checkDecision(runner: QueryRunner, entry: Entry, { importing }: AppendContext): Promise<void> {
  if (importing || !DECISIONS.includes(entry.kind)) return;
  // Both answers are asked of everybody who closes; all else is a manager's own to decide.
  if (entry.author.role === 'manager' && entry.kind !== 'defect-closed') return;
  if (entry.kind === 'stage-released' && entry.body.upholds === undefined) return;
  if (entry.kind === 'defect-found' && entry.body.about === undefined) return;
  const rows = await runner.manager.getRepository(EntryEntity).findBy({ showerId: entry.showerId });
  const { bookOrigin } = await runner.manager.getRepository(ShowerEntity).findOneByOrFail({ id: entry.showerId });
  const find = (await loadRuleBooks(runner.manager))(bookOrigin);
  const stored = rows.map((r) => JSON.parse(r.text) as Entry);
  const { orphans } = foldShower([...stored, entry], find, arrivalsOf(rows));
  const why = orphans.find((o) => o.entry === entry.id)?.why;
  if (why === 'answers-missing') throw new Refusal('answers-missing', 'body.cause');
  if (why === 'not-allowed') throw new Refusal(REFUSED[entry.kind] ?? 'manager-decides', 'body');
}
/** Why a decision is refused, and the way out. */
const REFUSED: Partial<
  Record<
    Entry['kind'],
    'manager-makes-milder' | 'defect-stops-work' | 'manager-pins' | 'manager-upholds' | 'manager-takes-back'
  >
> = {
  'defect-found': 'manager-makes-milder',
  'defect-closed': 'defect-stops-work',
  'rules-pinned': 'manager-pins',
  'stage-released': 'manager-upholds',
  correction: 'manager-takes-back',
};
