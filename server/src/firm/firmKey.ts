import { createPrivateKey, createPublicKey, generateKeyPairSync, sign, verify } from 'node:crypto';
import { canonicalText } from '@careful-seam/core/log/chain';
import type { DataSource } from 'typeorm';
import { FirmKeyEntity, type FirmKeyRow } from '../store/entities/firm';

/** The one row. */
const ONLY = 'firm';

/** The firm's key pair for Ed25519 (RFC 8032), made on first use and kept with the firm's data and its backups. */
export async function firmKey(store: DataSource, now: Date): Promise<FirmKeyRow> {
  const keys = store.getRepository(FirmKeyEntity);
  const known = await keys.findOneBy({ id: ONLY });
  if (known) return known;
  const pair = generateKeyPairSync('ed25519', {
    publicKeyEncoding: { type: 'spki', format: 'pem' },
    privateKeyEncoding: { type: 'pkcs8', format: 'pem' },
  });
  await keys
    .createQueryBuilder()
    .insert()
    .values({ id: ONLY, ...pair, madeAt: now })
    .orIgnore()
    .execute();
  return keys.findOneByOrFail({ id: ONLY });
}

/** Signs what a record says: base64 over its canonical JSON (RFC 8785). */
export function signRecord(record: object, key: FirmKeyRow): string {
  return sign(null, Buffer.from(canonicalText(record)), createPrivateKey(key.privateKey)).toString('base64');
}

/** True when a record says exactly what was signed with the private key behind this public one. */
export function recordIsSigned(record: object, signature: string, publicKey: string): boolean {
  return verify(null, Buffer.from(canonicalText(record)), createPublicKey(publicKey), Buffer.from(signature, 'base64'));
}
