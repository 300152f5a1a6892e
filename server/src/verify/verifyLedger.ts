import { canonicalText, ledgerHash, sha256Hex } from '@careful-seam/core/entries/chain';
import type { Entry } from '@careful-seam/core/entries/entry';
import { FLOOD_CALCULATION } from '@careful-seam/core/flood/floodVerdict';
import { type FindRuleBook, foldShower } from '@careful-seam/core/proof/foldShower';
import type { ShowerState } from '@careful-seam/core/proof/state';
import type { DataSource } from 'typeorm';
import { AnchorText } from '../ledger/anchors';
import { photoPath, readPhoto } from '../photos/photoStore';
import { arrivalsOf, loadRuleBooks } from '../showers/loadShower';
import { AnchorEntity, EntryEntity, type EntryRow, PhotoEntity, ShowerEntity } from '../store/entities';

/** One thing that is not as it was written, named. */
export interface Finding {
  where: string;
  what: string;
}

export interface Verification {
  showers: number;
  entries: number;
  photos: number;
  findings: Finding[];
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
  same('body', canonicalText(row.body ?? null), canonicalText(entry.body ?? null));
  return faults;
}

function entryFaults(
  row: EntryRow,
  expected: { seq: number; prev: string | null; devicePrev: string | null },
): string[] {
  const faults: string[] = [];
  if (sha256Hex(row.text) !== row.hash) faults.push('its text does not have its hash');
  let entry: Entry;
  try {
    entry = JSON.parse(row.text) as Entry;
  } catch {
    return [...faults, 'its text is not JSON'];
  }
  faults.push(...columnFaults(row, entry));
  if (entry.prevDeviceHash !== expected.devicePrev) faults.push("it does not follow its tablet's last entry");
  if (row.ledgerSeq !== expected.seq) faults.push(`ledger place ${row.ledgerSeq} where ${expected.seq} was due`);
  if (row.prevLedgerHash !== expected.prev) faults.push('it does not follow the entry before it in the ledger');
  const link = ledgerHash({
    ledgerSeq: row.ledgerSeq,
    entryHash: row.hash,
    prevLedgerHash: row.prevLedgerHash,
    receivedAt: row.receivedAt.toISOString(),
    skewMs: row.skewMs,
  });
  if (link !== row.ledgerHash) faults.push('its ledger hash does not match');
  return faults;
}

/** Floods whose stated verdict is not what their own readings say by the calculation that it names. What is shown anywhere is what the readings say. */
function floodFaults(rows: readonly EntryRow[], find: FindRuleBook): string[] {
  let state: ShowerState;
  try {
    state = foldShower(
      rows.map((r) => JSON.parse(r.text) as Entry),
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

async function verifyShower(
  store: DataSource,
  books: (origin: string) => FindRuleBook,
  shower: { id: string; name: string; headSeq: number; headHash: string | null; bookOrigin: string },
  findings: Finding[],
): Promise<number> {
  const rows = await store
    .getRepository(EntryEntity)
    .find({ where: { showerId: shower.id }, order: { ledgerSeq: 'ASC' } });
  const devices = new Map<string, string>();
  let prev: string | null = null;
  rows.forEach((row, i) => {
    for (const what of entryFaults(row, { seq: i + 1, prev, devicePrev: devices.get(row.deviceId) ?? null })) {
      findings.push({ where: `shower ${shower.name} (${shower.id}), entry ${row.id}`, what });
    }
    prev = row.ledgerHash;
    devices.set(row.deviceId, row.hash);
  });
  for (const what of floodFaults(rows, books(shower.bookOrigin)))
    findings.push({ where: `shower ${shower.name} (${shower.id})`, what });
  if (shower.headHash !== prev || shower.headSeq !== rows.length)
    findings.push({ where: `shower ${shower.name} (${shower.id})`, what: 'its head is not its last entry' });
  return rows.length;
}

/** Anchors that were changed, do not follow each other, or name a head that the ledger does not have. */
async function anchorFaults(store: DataSource): Promise<Finding[]> {
  const findings: Finding[] = [];
  let previous: string | null = null;
  for (const row of await store.getRepository(AnchorEntity).find({ order: { seq: 'ASC' } })) {
    const where = `anchor ${row.seq} of ${row.day}`;
    const read = AnchorText.safeParse(JSON.parse(row.text));
    if (!read.success || sha256Hex(row.text) !== row.hash)
      findings.push({ where, what: 'its text does not have its hash' });
    else if (read.data.previous !== previous) findings.push({ where, what: 'it does not follow the anchor before it' });
    else {
      const lost: { id: string }[] = await store.query(
        `SELECT a.head->>0 AS id FROM jsonb_array_elements($1::jsonb) AS a(head)
        LEFT JOIN entry e ON e.shower_id = (a.head->>0)::uuid AND e.ledger_seq = (a.head->>1)::int AND e.ledger_hash = a.head->>2
        WHERE e.id IS NULL`,
        [JSON.stringify(read.data.heads)],
      );
      findings.push(
        ...lost.map(({ id }) => ({ where, what: `the head it names of shower ${id} is not in the ledger` })),
      );
    }
    previous = row.hash;
  }
  return findings;
}

/** Walks every entry and every picture and names each one that changed. */
export async function verifyLedger(store: DataSource, photoFolder: string): Promise<Verification> {
  const findings: Finding[] = [];
  const showers = await store.getRepository(ShowerEntity).find({ order: { id: 'ASC' } });
  const find = await loadRuleBooks(store);
  let entries = 0;
  for (const shower of showers) entries += await verifyShower(store, find, shower, findings);
  const photos = await store.getRepository(PhotoEntity).find();
  for (const photo of photos) {
    const bytes = await readPhoto(photoFolder, photo.hash).catch(() => null);
    if (!bytes)
      findings.push({ where: `picture ${photo.hash}`, what: `missing at ${photoPath(photoFolder, photo.hash)}` });
    else if (sha256Hex(bytes) !== photo.hash || bytes.length !== photo.bytes)
      findings.push({ where: `picture ${photo.hash}`, what: 'its bytes do not have its hash' });
  }
  const orphans: { id: string }[] = await store.query(
    'SELECT e.id FROM entry e LEFT JOIN shower s ON s.id = e.shower_id WHERE s.id IS NULL',
  );
  findings.push(...(await anchorFaults(store)));
  findings.push(...orphans.map(({ id }) => ({ where: `entry ${id}`, what: 'belongs to no shower' })));
  return { showers: showers.length, entries, photos: photos.length, findings };
}
