import { resolve } from 'node:path';
import { makeDataSource } from '../store/dataSource';
import { verifyLedger } from './verifyLedger';

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set. Use "npm run verify".');
const store = await makeDataSource(url, 2).initialize();
const { showers, entries, photos, findings } = await verifyLedger(
  store,
  resolve(process.env.PHOTO_FOLDER ?? 'data/photos'),
);
await store.destroy();
for (const { where, what } of findings) console.log(`CHANGED ${where}: ${what}`);
console.log(
  `${showers} showers, ${entries} entries, ${photos} pictures walked: ${findings.length === 0 ? 'all as written' : `${findings.length} faults`}`,
);
process.exitCode = findings.length === 0 ? 0 : 1;
