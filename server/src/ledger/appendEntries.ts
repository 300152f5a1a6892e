import type { Person, PushAnswer } from '@careful-seam/contract/api/messages';
import { admitEntry } from '@careful-seam/core/log/admitEntry';
import { ledgerHash } from '@careful-seam/core/log/chain';
import { type Entry, readBody } from '@careful-seam/core/log/entry';
import { orderMs } from '@careful-seam/core/log/order';
import { readText as readSealed } from '@careful-seam/core/log/readText';
import { mayActAs, mayWrite } from '@careful-seam/core/log/roles';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { foldShower } from '@careful-seam/core/proof/fold/foldShower';
import type { DataSource, QueryRunner } from 'typeorm';
import { Refusal } from '../people/refusal';
import { arrivalsOf } from '../showers/loadShower';
import { loadRuleBooks } from '../showers/ruleBooks';
import { EntryEntity, ShowerEntity } from '../store/entities';
import { sha256 } from '../store/sha256';

export interface AppendContext {
  person: Person;
  now: Date;
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

interface Head {
  crewId: string | null;
  headSeq: number;
  headHash: string | null;
  lastDeviceSeq: number | null;
  lastDeviceHash: string | null;
  sameId: string | null;
  sameSeq: number | null;
  sameLedgerHash: string | null;
  sameReceivedAt: Date | null;
  targetAuthor: string | null;
  targetKind: Entry['kind'] | null;
}

/** Whoever holds the head of a ledger is the only one that appends to it. */
const LOCK_SQL = 'SELECT 1 FROM shower_head WHERE shower_id = $1 FOR UPDATE';

/**
 * One read under that lock tells everything an append needs. It is a question of its own after the lock was had: one that waited for
 * the lock itself would still see the entries as they were before it waited.
 */
const HEAD_SQL = `
  SELECT s.crew_id AS "crewId", h.head_seq AS "headSeq", encode(h.head_hash, 'hex') AS "headHash",
    d.device_seq AS "lastDeviceSeq", encode(d.hash, 'hex') AS "lastDeviceHash",
    encode(x.hash, 'hex') AS "sameId", x.ledger_seq AS "sameSeq", encode(x.ledger_hash, 'hex') AS "sameLedgerHash",
    x.received_at AS "sameReceivedAt",
    t.author_id AS "targetAuthor", t.kind AS "targetKind"
  FROM shower_head h JOIN shower s ON s.id = h.shower_id
  LEFT JOIN LATERAL (SELECT device_seq, hash FROM entry WHERE shower_id = s.id AND device_id = $2 ORDER BY device_seq DESC LIMIT 1) d ON true
  LEFT JOIN entry x ON x.shower_id = s.id AND x.id = $3
  LEFT JOIN entry t ON t.id = $4 AND t.shower_id = s.id
  WHERE h.shower_id = $1`;

const INSERT_SQL = `
  INSERT INTO entry (id, shower_id, ledger_seq, kind, author_id, device_id, device_seq, hash, text, order_at, received_at, prev_ledger_hash, ledger_hash, skew_ms, imported)
  VALUES ($1,$2,$3,$4,$5,$6,$7,decode($8,'hex'),$9,$10,$11,decode($12,'hex'),decode($13,'hex'),$14,$15)`;

/** Reads one canonical text; the text itself must be canonical, since it is what is hashed. */
export function readText(text: string): Entry {
  const read = readSealed(text);
  if (!read.ok) throw Refusal.of(read.problem);
  return read.value;
}

/** Who wrote something is called by the name of the account, whatever the entry says: nobody writes in another's name. */
function checkName(entry: Entry, person: Person, handingIn: boolean): void {
  if (handingIn) return;
  const field = entry.author.name !== person.name ? 'author.name' : null;
  const signed = entry.kind === 'record-signed' && entry.body.name !== person.name ? 'body.name' : null;
  if (field === null && signed === null) return;
  throw new Refusal('author-renamed', field ?? signed!, { written: entry.author.name, name: person.name });
}

function checkRights(
  entry: Entry,
  crewId: string,
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
  if (person.role === 'crew-lead' && crewId !== person.crewId) {
    throw new Refusal('another-crews-shower', 'showerId');
  }
  if (entry.kind === 'work-done' && person.role === 'crew-lead' && entry.body.crewId !== person.crewId) {
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
function checkClock(entry: Entry, { now, importing }: AppendContext): void {
  const aheadMs = Math.max(orderMs(entry.orderAt), importing ? 0 : Date.parse(entry.observedAt)) - now.getTime();
  if (aheadMs <= CLOCK_AHEAD_MS) return;
  throw new Refusal('clock-ahead', 'orderAt', { minutes: Math.round(aheadMs / 60_000) });
}

/** A signature is over the record as it stands at this moment, under the lock: nothing comes in between. */
function checkSignature(entry: Entry, head: Head, { signing }: AppendContext): void {
  if (!signing || entry.kind !== 'record-signed' || entry.body.ledgerHash === head.headHash) return;
  throw new Refusal('head-moved', 'entry.body.ledgerHash');
}

function checkCorrection(entry: Entry, head: Head): void {
  if (entry.kind === 'correction' && head.targetKind === 'record-signed')
    throw new Refusal('signature-stands', 'body.target');
  if (entry.kind !== 'correction' || entry.body.action !== 'replace' || head.targetKind === null) return;
  const body = readBody(head.targetKind, entry.body.body);
  if (!body.ok) throw Refusal.of(body.problem);
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
async function checkDecision(runner: QueryRunner, entry: Entry, { importing }: AppendContext): Promise<void> {
  if (importing || !DECISIONS.includes(entry.kind) || entry.author.role === 'manager') return;
  if (entry.kind === 'stage-released' && entry.body.upholds === undefined) return;
  if (entry.kind === 'defect-found' && entry.body.about === undefined) return;
  const rows = await runner.manager.getRepository(EntryEntity).findBy({ showerId: entry.showerId });
  const { bookOrigin } = await runner.manager.getRepository(ShowerEntity).findOneByOrFail({ id: entry.showerId });
  const find = (await loadRuleBooks(runner.manager))(bookOrigin);
  const stored = rows.map((r) => JSON.parse(r.text) as Entry);
  const { orphans } = foldShower([...stored, entry], find, arrivalsOf(rows));
  if (orphans.some((o) => o.entry === entry.id && o.why === 'not-allowed'))
    throw new Refusal(REFUSED[entry.kind] ?? 'manager-decides', 'body');
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

async function readHead(runner: QueryRunner, showerId: string, entry: Entry): Promise<Head | null> {
  const target = entry.kind === 'correction' ? entry.body.target : null;
  await runner.query(LOCK_SQL, [showerId]);
  const rows: Head[] = await runner.query(HEAD_SQL, [showerId, entry.deviceId, entry.id, target]);
  return rows[0] ?? null;
}

async function createShower(runner: QueryRunner, entry: Entry, context: AppendContext): Promise<void> {
  if (entry.kind !== 'shower-created') throw new Refusal('shower-not-sent-first', 'showerId');
  checkRights(entry, entry.body.crewId, null, context);
  const { name, job, crewId } = entry.body;
  await runner.query('INSERT INTO shower (id, name, job, crew_id) VALUES ($1,$2,$3,$4) ON CONFLICT DO NOTHING', [
    entry.showerId,
    name,
    job,
    crewId,
  ]);
  await runner.query('INSERT INTO shower_head (shower_id, updated_at) VALUES ($1,$2) ON CONFLICT DO NOTHING', [
    entry.showerId,
    context.now,
  ]);
  await runner.query(`INSERT INTO job (name, address, time_zone) VALUES ($1, '', $2) ON CONFLICT DO NOTHING`, [
    job,
    entry.body.timeZone,
  ]);
}

type Taken = PushAnswer['taken'][number];

/** What was taken of several entries, and the first that was refused; its sentence is made where it is sent. */
export type Appended = Omit<PushAnswer, 'refused'> & { refused: (Problem & { id: string }) | null };

async function appendOne(runner: QueryRunner, showerId: string, text: string, context: AppendContext): Promise<Taken> {
  const entry = readText(text);
  if (entry.showerId !== showerId) throw new Refusal('entry-of-another-shower', 'showerId');
  let head = await readHead(runner, showerId, entry);
  if (!head) {
    await createShower(runner, entry, context);
    head = (await readHead(runner, showerId, entry))!;
  }
  const hash = sha256(text);
  if (head.sameId !== hash) {
    checkRights(entry, head.crewId!, head, context);
    checkSignature(entry, head, context);
  }
  const admitted = admitEntry(entry, hash, {
    sameIdHash: head.sameId,
    lastOfDevice: head.lastDeviceSeq === null ? null : { deviceSeq: head.lastDeviceSeq, hash: head.lastDeviceHash! },
  });
  if (!admitted.ok) throw Refusal.of(admitted.problem);
  if (admitted.value === 'known')
    return {
      id: entry.id,
      ledgerSeq: head.sameSeq!,
      ledgerHash: head.sameLedgerHash!,
      receivedAt: head.sameReceivedAt!.toISOString(),
    };
  checkClock(entry, context);
  checkCorrection(entry, head);
  await checkDecision(runner, entry, context);
  return insert(runner, entry, text, hash, head, context);
}

async function insert(
  runner: QueryRunner,
  entry: Entry,
  text: string,
  hash: string,
  head: Head,
  { now, skewMs, importing, proved }: AppendContext,
): Promise<Taken> {
  const receivedAt = now.toISOString();
  const ledgerSeq = head.headSeq + 1;
  const link = ledgerHash({ ledgerSeq, entryHash: hash, prevLedgerHash: head.headHash, receivedAt, skewMs });
  await runner.query(INSERT_SQL, [
    entry.id,
    entry.showerId,
    ledgerSeq,
    entry.kind,
    entry.author.id,
    entry.deviceId,
    entry.deviceSeq,
    hash,
    text,
    entry.orderAt,
    receivedAt,
    head.headHash,
    link,
    skewMs,
    importing === true && proved !== true,
  ]);
  await runner.query(
    `UPDATE shower_head SET head_seq = $2, head_hash = decode($3,'hex'), updated_at = $4, is_signed = $5 WHERE shower_id = $1`,
    [entry.showerId, ledgerSeq, link, now, entry.kind === 'record-signed'],
  );
  return { id: entry.id, ledgerSeq, ledgerHash: link, receivedAt };
}

/** The id of an entry that was refused, as far as its text can be read. */
function idIn(text: string): string {
  try {
    return String((JSON.parse(text) as { id?: unknown }).id ?? '');
  } catch {
    return '';
  }
}

/**
 * Appends entries in the order given, each in its own transaction under the shower's row lock, so that what was
 * acknowledged is stored. Stops at the first one refused and says which.
 */
export async function appendEntries(
  store: DataSource,
  showerId: string,
  texts: readonly string[],
  context: AppendContext,
): Promise<Appended> {
  const taken: Taken[] = [];
  const runner = store.createQueryRunner();
  try {
    for (const text of texts) {
      await runner.startTransaction();
      try {
        taken.push(await appendOne(runner, showerId, text, context));
        await runner.commitTransaction();
      } catch (error) {
        // A connection that is gone can't roll back; the database did it, and what went wrong first is what is told.
        await runner.rollbackTransaction().catch(() => undefined);
        if (!(error instanceof Refusal)) throw error;
        return {
          taken,
          refused: { id: idIn(text), ...error.problem },
          skewMs: context.skewMs,
        };
      }
    }
  } finally {
    await runner.release();
  }
  return { taken, refused: null, skewMs: context.skewMs };
}
