import { setPriority } from 'node:os';
import { resolve } from 'node:path';
import { picturePlaceOf } from '../photos/picturePlace';
import { Refusal } from '../refusals/refusal';
import { openStore } from '../store/dataSource';
import { makeBackup } from './makeBackup';
import { restoreBackup } from './restoreBackup';

if (process.env.LOWEST_PRIORITY === '1') setPriority(19);

/** What `npm run backup`, `npm run restore` and `npm run restore-drill` call: backup FILE, restore FILE, or drill FILE. */
async function main([what, file]: readonly string[]): Promise<string> {
  const url = process.env.DATABASE_URL;
  const picturePlace = picturePlaceOf(process.env.PHOTO_FOLDER ?? 'data/photos');
  if (!url) throw new Error('DATABASE_URL is not set. Use "npm run backup" or "npm run restore".');
  if (!file) throw new Error(`Name the file: npm run ${what ?? 'backup'} -- FILE`);
  const counts = ({ showers, entries, photos }: { showers: number; entries: number; photos: number }) =>
    `${showers} showers, ${entries} entries, ${photos} pictures`;
  if (what === 'restore' || what === 'drill') {
    const place = { url, picturePlace, now: new Date(), byCommand: true, drill: what === 'drill' };
    const found = await restoreBackup(resolve(file), place);
    for (const { where, what } of found.findings) console.log(`CHANGED ${where}: ${what}`);
    const { length } = found.findings;
    const checked = length === 0 ? 'every one as it was written' : `${length} not as written, named above`;
    if (what === 'drill')
      return `The backup of ${found.madeAt} can be restored: ${counts(found)}, ${checked}; ${found.sameHeads} of its showers stand in the ledger in force as they stand in it. Nothing was changed.`;
    return `In force again as of ${found.madeAt}: ${counts(found)}, ${checked}. Tablets send again what came later.`;
  }
  const store = await openStore(url, 2);
  const made = await makeBackup(store, picturePlace, resolve(file), new Date());
  await store.destroy();
  return `Backup written to ${resolve(file)}: ${counts(made)}.`;
}

try {
  console.log(await main(process.argv.slice(2)));
} catch (error) {
  console.error(error instanceof Refusal || error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
