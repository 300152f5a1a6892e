import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import type { DataSource } from 'typeorm';
import { picturePlaceOf } from '../photos/picturePlace';
import { makeDataSource } from '../store/dataSource';
import { verifyHead } from './verifyHead';
import { type Verification, verifyLedger } from './verifyLedger';
import { verifyRecord } from './verifyRecord';

const { values } = parseArgs({
  options: {
    head: { type: 'string' },
    record: { type: 'string' },
    key: { type: 'string' },
    /** So many processes share the work. */
    parts: { type: 'string', default: '1' },
    /** Only showers that moved since the last anchor. */
    'since-anchor': { type: 'boolean', default: false },
    /** Which part this process does; the one that shares the work out asks for it. */
    part: { type: 'string' },
  },
});

// A night's work leaves the machine to whoever waits for an answer.
if (process.env.LOWEST_PRIORITY === '1') setPriority(19);

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

/** How far it is, where somebody looks on. */
const tell = (done: number, of: number) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${done} of ${of} showers and pictures `);
};

/** Since when showers are looked at: the anchor before the last one, so that no shower falls between; null: all. */
async function movedSince(store: DataSource): Promise<Date | null> {
  if (!values['since-anchor']) return null;
  const [row] = await store.query('SELECT day::text AS day FROM anchor ORDER BY seq DESC OFFSET 1 LIMIT 1');
  return row ? new Date(`${row.day}T00:00:00Z`) : null;
}

async function onePart(store: DataSource, k: number, of: number): Promise<Verification> {
  const since = await movedSince(store);
  return verifyLedger(store, picturePlaceOf(process.env.PHOTO_FOLDER ?? 'data/photos'), {
    part: { k, of },
    tell: (done, all) => {
      if (values.part === undefined) tell(done, all);
      else process.send?.({ done, all });
    },
    ...(since ? { movedSince: since } : {}),
  });
}

/** The same work shared out to several processes, each of which reads its own part. */
async function inParts(of: number): Promise<Verification> {
  const far = Array.from({ length: of }, () => ({ done: 0, all: 0 }));
  const results = await Promise.all(
    far.map(
      (mine, k) =>
        new Promise<Verification>((done, fail) => {
          const child = fork(fileURLToPath(import.meta.url), [...process.argv.slice(2), '--part', String(k)], {
            execArgv: process.execArgv,
          });
          let found: Verification | null = null;
          child.on('message', (told: { done: number; all: number } | { found: Verification }) => {
            if ('found' in told) found = told.found;
            else Object.assign(mine, told);
            tell(
              far.reduce((n, f) => n + f.done, 0),
              far.reduce((n, f) => n + f.all, 0),
            );
          });
          child.once('error', fail);
          child.once('exit', (code) => (found ? done(found) : fail(new Error(`a part ended with code ${code}`))));
        }),
    ),
  );
  const sum = (what: 'showers' | 'entries' | 'photos') => results.reduce((n, r) => n + r[what], 0);
  return {
    showers: sum('showers'),
    entries: sum('entries'),
    photos: sum('photos'),
    findings: results.flatMap((r) => r.findings),
  };
}

/** Everything: each entry, each picture, each rule book, each anchor. */
async function all(store: DataSource): Promise<boolean> {
  const of = Math.max(1, Math.min(32, Number(values.parts) || 1));
  if (values.part !== undefined) {
    const found = await onePart(store, Number(values.part), of);
    await new Promise<void>((sent) => process.send?.({ found }, () => sent()));
    return true;
  }
  const { showers, entries, photos, findings } = of === 1 ? await onePart(store, 0, 1) : await inParts(of);
  if (process.stderr.isTTY) process.stderr.write('\n');
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
