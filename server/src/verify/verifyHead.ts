import { ledgerHash } from '@careful-seam/core/log/chain';
import type { DataSource } from 'typeorm';
import { oneShowerRow } from '../showers/showerRows';
import { EntryEntity } from '../store/entities/showers';

/** Where a printed head stands, and whether everything up to it is still as it was when it was printed. */
export type HeadAnswer =
  | { found: false }
  | { found: true; shower: string; job: string; place: number; of: number; receivedAt: string; whole: boolean };

/** Looks for a head that a record was printed with, and walks its shower's ledger from the first entry up to it. */
export async function verifyHead(store: DataSource, head: string): Promise<HeadAnswer> {
  const entries = store.getRepository(EntryEntity);
  const end = await entries.findOneBy({ ledgerHash: head });
  if (!end) return { found: false };
  const rows = await entries.find({ where: { showerId: end.showerId }, order: { ledgerSeq: 'ASC' } });
  let prevLedgerHash: string | null = null;
  let whole = true;
  rows.slice(0, end.ledgerSeq).forEach((row, i) => {
    const { ledgerSeq, hash: entryHash, skewMs } = row;
    const receivedAt = row.receivedAt.toISOString();
    const link = ledgerHash({ ledgerSeq, entryHash, prevLedgerHash, receivedAt, skewMs });
    whole &&= ledgerSeq === i + 1 && link === row.ledgerHash;
    prevLedgerHash = row.ledgerHash;
  });
  const shower = await oneShowerRow(store, end.showerId);
  if (!shower) return { found: false };
  const { name, job, headSeq } = shower;
  return {
    found: true,
    shower: name,
    job,
    place: end.ledgerSeq,
    of: headSeq,
    receivedAt: end.receivedAt.toISOString(),
    whole,
  };
}
