import type { PushAnswer } from '@careful-seam/contract/api/messages';
import { admitEntry } from '@careful-seam/core/log/admitEntry';
import { ledgerHash } from '@careful-seam/core/log/chain';
import { alsoCrews, createdAsItStands } from '@careful-seam/core/log/created';
import type { Entry } from '@careful-seam/core/log/entry';
import { readText as readSealed } from '@careful-seam/core/log/readText';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import type { DataSource, QueryRunner } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { sha256 } from '../store/sha256';
import {
  type AppendContext,
  checkClock,
  checkCorrection,
  checkDecision,
  checkRights,
  checkSignature,
} from './mayAppend';

/** What must be known of a shower before an entry is appended. */
export interface Head {
  /** The crew of the shower; null before its first entry. */
  crewId: string | null;
  /** Crews that a stage of it was handed to. */
  alsoCrews: string[];
  /** Entries in its ledger. */
  headSeq: number;
  /** Hash of its last link; null before the first. */
  headHash: string | null;
  /** Entries of this chain; null for none. */
  lastDeviceSeq: number | null;
  /** Hash of its last one. */
  lastDeviceHash: string | null;
  /** An entry with this id that is here already. */
  sameId: string | null;
  /** Its place. */
  sameSeq: number | null;
  /** Hash of its link. */
  sameLedgerHash: string | null;
  /** When it was taken. */
  sameReceivedAt: Date | null;
  /** Of work that is told: the crew that its crew has become part of; null where that stands. */
  workInto: string | null;
  /** Who wrote the entry that this one corrects. */
  targetAuthor: string | null;
  /** What it is. */
  targetKind: Entry['kind'] | null;
}

/** Whoever holds the head of a ledger is the only one that appends to it. */
const LOCK_SQL = 'SELECT 1 FROM shower_head WHERE shower_id = $1 FOR UPDATE';

/**
 * One read under that lock tells everything an append needs. It is a question of its own after the lock was had: one that waited for
 * the lock itself would still see the entries as they were before it waited.
 */
const HEAD_SQL = `
  SELECT s.crew_id AS "crewId", s.also_crews AS "alsoCrews", h.head_seq AS "headSeq", encode(h.head_hash, 'hex') AS "headHash",
    d.device_seq AS "lastDeviceSeq", encode(d.hash, 'hex') AS "lastDeviceHash",
    encode(x.hash, 'hex') AS "sameId", x.ledger_seq AS "sameSeq", encode(x.ledger_hash, 'hex') AS "sameLedgerHash",
    x.received_at AS "sameReceivedAt",
    t.author_id AS "targetAuthor", t.kind AS "targetKind",
    (SELECT into_crew FROM crew WHERE id = $5) AS "workInto"
  FROM shower_head h JOIN shower s ON s.id = h.shower_id
  LEFT JOIN LATERAL (SELECT device_seq, hash FROM entry WHERE shower_id = s.id AND device_id = $2 ORDER BY device_seq DESC LIMIT 1) d ON true
  LEFT JOIN entry x ON x.shower_id = s.id AND x.id = $3
  LEFT JOIN entry t ON t.id = $4 AND t.shower_id = s.id
  WHERE h.shower_id = $1`;

/** One entry with its link, in one statement. */
const INSERT_SQL = `
  INSERT INTO entry (id, shower_id, ledger_seq, kind, author_id, device_id, device_seq, hash, text, order_at, received_at, prev_ledger_hash, ledger_hash, skew_ms, imported)
  VALUES ($1,$2,$3,$4,$5,$6,$7,decode($8,'hex'),$9,$10,$11,decode($12,'hex'),decode($13,'hex'),$14,$15)`;

/** Reads one canonical text; the text itself must be canonical, since it is what is hashed. */
export function readText(text: string): Entry {
  const read = readSealed(text);
  if (!read.ok) throw Refusal.of(read.problem);
  return read.value;
}

/** Reads it, and holds the shower for this writer. */
async function readHead(runner: QueryRunner, showerId: string, entry: Entry): Promise<Head | null> {
  const target = entry.kind === 'correction' ? entry.body.target : null;
  await runner.query(LOCK_SQL, [showerId]);
  const worker = entry.kind === 'work-done' ? entry.body.crewId : null;
  const rows: Head[] = await runner.query(HEAD_SQL, [showerId, entry.deviceId, entry.id, target, worker]);
  return rows[0] ?? null;
}

/** The row of a shower, with its first entry. */
async function createShower(runner: QueryRunner, entry: Entry, context: AppendContext): Promise<void> {
  if (entry.kind !== 'shower-created') throw new Refusal('shower-not-sent-first', 'showerId');
  const { name, job, crewId } = entry.body;
  const also = alsoCrews(entry.body);
  checkRights(entry, { crewId, alsoCrews: also }, null, context);
  await runner.query(
    'INSERT INTO shower (id, name, job, crew_id, also_crews) VALUES ($1,$2,$3,$4,$5) ON CONFLICT DO NOTHING',
    [entry.showerId, name, job, crewId, also],
  );
  await runner.query('INSERT INTO shower_head (shower_id, updated_at) VALUES ($1,$2) ON CONFLICT DO NOTHING', [
    entry.showerId,
    context.now,
  ]);
  await runner.query(`INSERT INTO job (name, address, time_zone) VALUES ($1, '', $2) ON CONFLICT DO NOTHING`, [
    job,
    entry.body.timeZone,
  ]);
}

/** Name, job and crew of a shower as its first entry says them with all corrections of it: it may have been handed to another crew. */
async function followCreation(runner: QueryRunner, showerId: string): Promise<void> {
  const rows: { text: string }[] = await runner.query(
    `SELECT text FROM entry WHERE shower_id = $1 AND kind IN ('shower-created', 'correction')`,
    [showerId],
  );
  const created = createdAsItStands(rows.map((r) => JSON.parse(r.text) as Entry));
  if (!created) return;
  const { name, job, crewId, timeZone } = created.body;
  await runner.query('UPDATE shower SET name = $2, job = $3, crew_id = $4, also_crews = $5 WHERE id = $1', [
    showerId,
    name,
    job,
    crewId,
    alsoCrews(created.body),
  ]);
  await runner.query(`INSERT INTO job (name, address, time_zone) VALUES ($1, '', $2) ON CONFLICT DO NOTHING`, [
    job,
    timeZone,
  ]);
}

/** What is answered for an entry. */
type Taken = PushAnswer['taken'][number];

/** What was taken of several entries, and the first that was refused; its sentence is made where it is sent. */
export type Appended = Omit<PushAnswer, 'refused'> & { refused: (Problem & { id: string }) | null };

/** Appends one entry, or refuses it. */
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
    checkRights(entry, head, head, context);
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
  const taken = await insert(runner, entry, text, hash, head, context);
  // A correction of a correction may be one of the first entry.
  if (entry.kind === 'correction' && (head.targetKind === 'shower-created' || head.targetKind === 'correction'))
    await followCreation(runner, showerId);
  return taken;
}

/** Writes it. */
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
