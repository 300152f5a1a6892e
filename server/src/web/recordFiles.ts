import type { ShowerRecord } from '@careful-seam/contract/record/record';
import { firmKey, signRecord } from '../firm/firmKey';
import { readPhoto } from '../photos/photoStore';
import { buildRecord } from '../record/buildRecord';
import type { LoadedShower } from '../showers/loadShower';
import type { Call, Services } from './route';

/** The record as data. Once a person signed it, the firm's key stands behind every word of it. */
export async function signedRecord(shower: LoadedShower, services: Services): Promise<ShowerRecord> {
  const now = services.now();
  const record = buildRecord(shower, now);
  if (record.signatures.length === 0) return record;
  const key = await firmKey(services.store, now);
  const firmSignature = { algorithm: 'Ed25519' as const, publicKey: key.publicKey, signature: signRecord(record, key) };
  return { ...record, firmSignature };
}

/** Sends the record as it is printed, in the unit asked for. */
export async function printRecord({ req, res, services }: Call, shower: LoadedShower): Promise<undefined> {
  const { paintRecord } = await import('../record/paintRecord');
  const pdf = await paintRecord(buildRecord(shower, services.now()), shower.state, {
    unit: req.query.unit === 'mm' ? 'mm' : 'in',
    picture: (hash) => readPhoto(services.photoFolder, hash).catch(() => null),
  });
  res.attachment(`record-${shower.row.id}.pdf`).type('application/pdf').send(pdf);
  return undefined;
}
