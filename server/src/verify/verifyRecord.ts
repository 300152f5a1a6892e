import { ShowerRecord } from '@careful-seam/contract/record/record';
import { ledgerHash, sha256Hex } from '@careful-seam/core/log/chain';
import { recordIsSigned } from '../firm/firmKey';

/** What is wrong with a record file; an empty list means that it is what the firm signed. */
export type RecordFault = 'not-a-record' | 'not-signed' | 'other-key' | 'signature' | 'entry-hash' | 'ledger';

/**
 * Checks a record file without the server: the firm's signature over every word of it, each entry's hash, and the
 * ledger that they form. With `publicKey`, known from elsewhere, the record must carry that very key.
 */
export function verifyRecord(file: unknown, publicKey: string | null): RecordFault[] {
  const read = ShowerRecord.safeParse(file);
  if (!read.success) return ['not-a-record'];
  const { firmSignature, ...record } = file as ShowerRecord;
  if (!firmSignature) return ['not-signed'];
  const faults: RecordFault[] = [];
  if (publicKey !== null && firmSignature.publicKey.trim() !== publicKey.trim()) faults.push('other-key');
  if (!recordIsSigned(record, firmSignature.signature, firmSignature.publicKey)) faults.push('signature');
  let previous: string | null = null;
  for (const e of record.entries) {
    if (sha256Hex(e.text) !== e.hash) faults.push('entry-hash');
    const { ledgerSeq, hash: entryHash, receivedAt, skewMs } = e;
    if (
      e.prevLedgerHash !== previous ||
      ledgerHash({ ledgerSeq, entryHash, prevLedgerHash: previous, receivedAt, skewMs }) !== e.ledgerHash
    )
      faults.push('ledger');
    previous = e.ledgerHash;
  }
  if (record.head.hash !== previous) faults.push('ledger');
  return [...new Set(faults)];
}
