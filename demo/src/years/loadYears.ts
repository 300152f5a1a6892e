import { ledgerHash } from '@careful-seam/core/log/chain';
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { CrewEntity } from '@careful-seam/server/store/entities/people';
import type { DataSource } from 'typeorm';
import { v5 } from 'uuid';
import { PEOPLE } from '../firm';
import type { DemoWriter } from '../writer';
import { YEARS_CREWS, yearsCalendar } from './truths';
import { yearsShowers } from './yearsShowers';

/** Namespace of the marks: the same in each demo. */
const MARKS = '6f0a3c52-1d0e-4f9b-8a34-92f2a1c7d0b5';
/** The mark of the training. */
export const TRAINING_MARK = v5('training', MARKS);

/** Showers that are written in one statement. */
const AT_ONCE = 25;
/** A tablet sends what it was told a minute later, ms. */
const SENT_AFTER_MS = 60_000;

/** An entry as a row, with its link in the ledger. */
interface Row {
  id: string;
  shower_id: string;
  ledger_seq: number;
  kind: string;
  author_id: string;
  device_id: string;
  device_seq: number;
  hash: string;
  text: string;
  order_at: string;
  received_at: string;
  prev_ledger_hash: string | null;
  ledger_hash: string;
}

/** The entries of a shower as the server would have linked them, and its signature as the last of them. */
function linked(w: DemoWriter): Row[] {
  const rows: Row[] = [];
  const link = (): void => {
    const { sealed } = w.sealed[rows.length]!;
    const { entry, hash, text } = sealed;
    const last = rows.at(-1)?.ledger_hash ?? null;
    const receivedAt = new Date(Date.parse(entry.observedAt) + SENT_AFTER_MS).toISOString();
    const ledgerSeq = rows.length + 1;
    rows.push({
      id: entry.id,
      shower_id: w.showerId,
      ledger_seq: ledgerSeq,
      kind: entry.kind,
      author_id: entry.author.id,
      device_id: entry.deviceId,
      device_seq: entry.deviceSeq,
      hash,
      text,
      order_at: entry.orderAt,
      received_at: receivedAt,
      prev_ledger_hash: last,
      ledger_hash: ledgerHash({ ledgerSeq, entryHash: hash, prevLedgerHash: last, receivedAt, skewMs: 0 }),
    });
  };
  while (rows.length < w.sealed.length) link();
  const signer = PEOPLE.find((p) => p.key === 'inspector')!;
  w.write('inspector', 'record-signed', {
    name: signer.name,
    ledgerHash: rows.at(-1)!.ledger_hash,
    statement: 'What stands here was seen as it stands here.',
  });
  link();
  return rows;
}

/** Some showers with their ledgers, in one statement. */
async function insert(store: DataSource, some: readonly DemoWriter[]): Promise<void> {
  const rows = some.flatMap(linked);
  const last = new Map(rows.map((r) => [r.shower_id, r]));
  const showers = some.map((w) => {
    const created = w.sealed[0]!.sealed.entry;
    if (created.kind !== 'shower-created') throw new Error('a shower begins with its first entry');
    const { name, job, crewId } = created.body;
    const end = last.get(w.showerId)!;
    return {
      id: w.showerId,
      name,
      job,
      crew_id: crewId,
      seq: end.ledger_seq,
      hash: end.ledger_hash,
      at: end.received_at,
    };
  });
  await store.query(
    `WITH s AS (SELECT * FROM jsonb_to_recordset($1::jsonb)
        AS s(id uuid, name text, job text, crew_id text, seq integer, hash text, at timestamptz)),
      made AS (INSERT INTO shower (id, name, job, crew_id) SELECT id, name, job, crew_id FROM s),
      heads AS (INSERT INTO shower_head (shower_id, head_seq, head_hash, updated_at, is_signed)
        SELECT id, seq, decode(hash, 'hex'), at, true FROM s),
      jobs AS (INSERT INTO job (name, address, time_zone)
        SELECT DISTINCT job, 'Demo site of ' || job, 'America/Chicago' FROM s ON CONFLICT DO NOTHING)
    INSERT INTO entry (id, shower_id, ledger_seq, kind, author_id, device_id, device_seq, hash, text, order_at, received_at,
        prev_ledger_hash, ledger_hash, skew_ms, imported)
      SELECT id, shower_id, ledger_seq, kind, author_id, device_id, device_seq, decode(hash, 'hex'), text, order_at, received_at,
        decode(prev_ledger_hash, 'hex'), decode(ledger_hash, 'hex'), 0, false
      FROM jsonb_to_recordset($2::jsonb) AS e(id uuid, shower_id uuid, ledger_seq integer, kind text, author_id text, device_id uuid,
        device_seq integer, hash text, text text, order_at text, received_at timestamptz, prev_ledger_hash text, ledger_hash text)`,
    [JSON.stringify(showers), JSON.stringify(rows)],
  );
}

/** Loads the two years into a database that holds the demo firm. */
export async function loadYears(store: DataSource, todayMs: number, book: RuleBook, find: FindRuleBook): Promise<void> {
  await store.getRepository(CrewEntity).upsert(
    YEARS_CREWS.map(({ id, name }) => ({ id, name })),
    ['id'],
  );
  const { trainingOn, mortarMonth } = yearsCalendar(todayMs);
  await store.query('INSERT INTO firm_mark (id, day, words) VALUES ($1, $2, $3), ($4, $5, $6)', [
    TRAINING_MARK,
    trainingOn,
    'Training: corners',
    v5('new mortar', MARKS),
    `${mortarMonth}-01`,
    'Mortar from another supplier',
  ]);
  // Written as they are made: two years at once would not fit a small machine.
  let some: DemoWriter[] = [];
  for (const shower of yearsShowers(todayMs, book, find)) {
    some.push(shower);
    if (some.length < AT_ONCE) continue;
    await insert(store, some);
    some = [];
  }
  if (some.length > 0) await insert(store, some);
}
