import { ledgerHash } from '@careful-seam/core/log/chain';
import { alsoCrews, createdAsItStands } from '@careful-seam/core/log/created';
import type { Entry } from '@careful-seam/core/log/entry';
import type { ShowerState } from '@careful-seam/core/log/state';
import { type FindRuleBook, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { FLOOD_CALCULATION } from '@careful-seam/core/water/floodVerdict';
import { arrivalsOf } from '../showers/loadShower';
import type { EntryRow } from '../store/entities/showers';
import { sha256 } from '../store/sha256';
import type { Finding } from './verifyLedger';

/** A shower's row with its head; a head that is not there is null. */
export interface ShowerToVerify {
  id: string;
  name: string;
  job: string;
  crewId: string;
  /** Crews that a stage of it was handed to. */
  alsoCrews: string[];
  bookOrigin: string;
  headSeq: number | null;
  headHash: string | null;
  isSigned: boolean | null;
}

/** The entry that a row's text holds, or null where it holds none. */
function entryIn(text: string): Entry | null {
  try {
    const entry: unknown = JSON.parse(text);
    return typeof entry === 'object' && entry !== null && 'kind' in entry ? (entry as Entry) : null;
  } catch {
    return null;
  }
}

function columnFaults(row: EntryRow, entry: Entry): string[] {
  const faults: string[] = [];
  const same = (name: string, stored: unknown, written: unknown) => {
    if (stored !== written) faults.push(`column ${name} differs from the entry's text`);
  };
  same('id', row.id, entry.id);
  same('shower_id', row.showerId, entry.showerId);
  same('kind', row.kind, entry.kind);
  same('author_id', row.authorId, entry.author?.id);
  same('device_id', row.deviceId, entry.deviceId);
  same('device_seq', row.deviceSeq, entry.deviceSeq);
  same('order_at', row.orderAt, entry.orderAt);
  return faults;
}

function entryFaults(
  row: EntryRow,
  entry: Entry | null,
  expected: { seq: number; prev: string | null; devicePrev: string | null },
): string[] {
  const faults: string[] = [];
  if (sha256(row.text) !== row.hash) faults.push('its text does not have its hash');
  if (!entry) return [...faults, 'its text is not an entry'];
  faults.push(...columnFaults(row, entry));
  if (entry.prevDeviceHash !== expected.devicePrev) faults.push("it does not follow its tablet's last entry");
  if (row.ledgerSeq !== expected.seq) faults.push(`ledger place ${row.ledgerSeq} where ${expected.seq} was due`);
  if (row.prevLedgerHash !== expected.prev) faults.push('it does not follow the entry before it in the ledger');
  const { ledgerSeq, hash: entryHash, prevLedgerHash, skewMs } = row;
  const link = ledgerHash({
    ledgerSeq,
    entryHash,
    prevLedgerHash,
    receivedAt: row.receivedAt.toISOString(),
    skewMs,
  });
  if (link !== row.ledgerHash) faults.push('its ledger hash does not match');
  if (!row.imported) faults.push(...signatureFaults(entry, expected.prev));
  return faults;
}

/** A signature is over everything before it, in its author's own name. One from a file was given over another ledger. */
function signatureFaults(entry: Entry, prev: string | null): string[] {
  if (entry.kind !== 'record-signed') return [];
  return [
    ...(entry.body?.ledgerHash === prev ? [] : ['its signature is not over the entries before it']),
    ...(entry.body?.name === entry.author?.name ? [] : ['its signature is in another name than its own']),
  ];
}

/** The row says what the first entry said, and where the last one stands. */
function rowFaults(shower: ShowerToVerify, rows: readonly EntryRow[], entries: readonly (Entry | null)[]): string[] {
  const faults: string[] = [];
  const created = createdAsItStands(entries.filter((e) => e !== null));
  if (created)
    for (const key of ['name', 'job', 'crewId'] as const)
      if (created.body?.[key] !== shower[key])
        faults.push(`its ${key} is not what its first entry says, with the corrections of it`);
  if (created && alsoCrews(created.body).join() !== [...shower.alsoCrews].sort().join())
    faults.push('its stages are not those crews’ that its first entry says, with the corrections of it');
  const last = rows.at(-1);
  if (shower.headSeq === null) return [...faults, 'it has no head'];
  if (shower.headHash !== (last?.ledgerHash ?? null) || shower.headSeq !== rows.length)
    faults.push('its head is not its last entry');
  if (shower.isSigned !== (last?.kind === 'record-signed'))
    faults.push('it says wrongly whether its last entry is a signature');
  return faults;
}

/** Rule books that its entries name and nobody has. */
function bookFaults(entries: readonly (Entry | null)[], find: FindRuleBook): string[] {
  return entries.flatMap((e) => {
    if (e?.kind !== 'rules-pinned' || typeof e.body?.ruleBook !== 'string') return [];
    const { ruleBook, version } = e.body;
    return find(ruleBook, version) ? [] : [`its rule book ${ruleBook}, version ${version}, is not here`];
  });
}

/** Floods whose stated verdict is not what their own readings say by the calculation that it names. What is shown anywhere is what the readings say. */
function floodFaults(rows: readonly EntryRow[], entries: readonly (Entry | null)[], find: FindRuleBook): string[] {
  let state: ShowerState;
  try {
    state = foldShower(
      entries.filter((e) => e !== null),
      find,
      arrivalsOf(rows),
    );
  } catch {
    return [];
  }
  return [...state.earlierFloods, ...(state.flood ? [state.flood] : [])].flatMap(({ end }) => {
    if (!end || end.stated === end.verdict || end.calculation !== FLOOD_CALCULATION) return [];
    return [`its flood ended as "${end.stated}", and its readings say "${end.verdict}"`];
  });
}

/** Everything that is not as it was written in one shower, named. Never throws for what it reads. */
export function verifyShower(shower: ShowerToVerify, rows: readonly EntryRow[], find: FindRuleBook): Finding[] {
  const here = `shower ${shower.name} (${shower.id})`;
  const entries = rows.map((row) => entryIn(row.text));
  const findings: Finding[] = [];
  const devices = new Map<string, string>();
  let prev: string | null = null;
  rows.forEach((row, i) => {
    const expected = { seq: i + 1, prev, devicePrev: devices.get(row.deviceId) ?? null };
    let faults: string[];
    try {
      faults = entryFaults(row, entries[i]!, expected);
    } catch (error) {
      faults = [`it can't be read: ${error instanceof Error ? error.message : String(error)}`];
    }
    findings.push(...faults.map((what) => ({ where: `${here}, entry ${row.id}`, what })));
    prev = row.ledgerHash;
    devices.set(row.deviceId, row.hash);
  });
  const whole = [
    ...rowFaults(shower, rows, entries),
    ...bookFaults(entries, find),
    ...floodFaults(rows, entries, find),
  ];
  return [...findings, ...whole.map((what) => ({ where: here, what }))];
}
