import { resolve } from 'node:path';
import { Refusal } from '../people/refusal';
import { openStore } from '../store/dataSource';
import { makeBackup } from './makeBackup';
import { restoreBackup } from './restoreBackup';

/** What `npm run backup` and `npm run restore` call: backup FILE, or restore FILE. */
async function main([what, file]: readonly string[]): Promise<string> {
  const url = process.env.DATABASE_URL;
  const photoFolder = resolve(process.env.PHOTO_FOLDER ?? 'data/photos');
  if (!url) throw new Error('DATABASE_URL is not set. Use "npm run backup" or "npm run restore".');
  if (!file) throw new Error(`Name the file: npm run ${what ?? 'backup'} -- FILE`);
  const counts = ({ showers, entries, photos }: { showers: number; entries: number; photos: number }) =>
    `${showers} showers, ${entries} entries, ${photos} pictures`;
  if (what === 'restore') {
    const found = await restoreBackup(resolve(file), { url, photoFolder, now: new Date(), byCommand: true });
    for (const { where, what } of found.findings) console.log(`CHANGED ${where}: ${what}`);
    const { length } = found.findings;
    const checked = length === 0 ? 'every one as it was written' : `${length} not as written, named above`;
    return `In force again as of ${found.madeAt}: ${counts(found)}, ${checked}. Tablets send again what came later.`;
  }
  const store = await openStore(url, 2);
  const made = await makeBackup(store, photoFolder, resolve(file), new Date());
  await store.destroy();
  return `Backup written to ${resolve(file)}: ${counts(made)}.`;
}

try {
  console.log(await main(process.argv.slice(2)));
} catch (error) {
  console.error(error instanceof Refusal || error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
