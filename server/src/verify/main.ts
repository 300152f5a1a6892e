import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import type { DataSource } from 'typeorm';
import { makeDataSource } from '../store/dataSource';
import { verifyHead } from './verifyHead';
import { verifyLedger } from './verifyLedger';
import { verifyRecord } from './verifyRecord';

const { values } = parseArgs({
  options: { head: { type: 'string' }, record: { type: 'string' }, key: { type: 'string' } },
});

async function withStore(work: (store: DataSource) => Promise<boolean>): Promise<boolean> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set. Use "npm run verify".');
  const store = await makeDataSource(url, 2).initialize();
  try {
    return await work(store);
  } finally {
    await store.destroy();
  }
}

/** Everything: each entry, each picture, each anchor. */
async function all(store: DataSource): Promise<boolean> {
  const found = await verifyLedger(store, resolve(process.env.PHOTO_FOLDER ?? 'data/photos'));
  const { showers, entries, photos, findings } = found;
  for (const { where, what } of findings) console.log(`CHANGED ${where}: ${what}`);
  console.log(
    `${showers} showers, ${entries} entries, ${photos} pictures walked: ${findings.length === 0 ? 'all as written' : `${findings.length} faults`}`,
  );
  return findings.length === 0;
}

/** One head, as a record was printed with. */
async function head(store: DataSource, hash: string): Promise<boolean> {
  const answer = await verifyHead(store, hash);
  if (!answer.found) {
    console.log('NOT FOUND: no ledger here has this head. Check that it was typed whole: 64 letters and digits.');
    return false;
  }
  const { shower, job, place, of, receivedAt, whole } = answer;
  console.log(
    `${whole ? 'PART OF THE LEDGER' : 'CHANGED'}: entry ${place} of ${of} of ${shower}, ${job}, received ${receivedAt}; ` +
      `${whole ? 'every entry up to it is as it was' : 'an entry before it is not as it was'}.`,
  );
  return whole;
}

/** A record file, without any database. */
function record(path: string, keyPath: string | undefined): boolean {
  const faults = verifyRecord(JSON.parse(readFileSync(path, 'utf8')), keyPath ? readFileSync(keyPath, 'utf8') : null);
  console.log(
    faults.length === 0
      ? `SIGNED BY THE FIRM and unchanged${keyPath ? '' : ' (by the key in the file; name the one you know with --key)'}.`
      : `NOT AS SIGNED: ${faults.join(', ')}`,
  );
  return faults.length === 0;
}

const right = values.record
  ? record(values.record, values.key)
  : await withStore((store) => (values.head ? head(store, values.head) : all(store)));
process.exitCode = right ? 0 : 1;
