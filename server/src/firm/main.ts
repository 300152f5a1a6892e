import { readdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { readEnvironment } from '../environment';
import { makeDataSource, openStore } from '../store/dataSource';
import { holdsDemo } from './demoHere';
import { makeSetUpCode } from './setUp';

/** A new code for the set-up page, where nobody can sign in yet. */
async function firstManager(url: string, publicUrl: string): Promise<string> {
  const store = await openStore(url, 2);
  const code = await makeSetUpCode(store, new Date());
  await store.destroy();
  if (code) return `Set the firm up at ${publicUrl}/set-up with the code  ${code}  It is good for a day, and once.`;
  return 'Somebody can sign in here already: a manager adds others under Office, People. Nothing was changed.';
}

/** Pictures lie by the first two digits of their hash; nothing else in the folder is touched. */
function removePictures(folder: string): void {
  let names: string[] = [];
  try {
    names = readdirSync(folder);
  } catch {
    return;
  }
  for (const name of names.filter((n) => /^[0-9a-f]{2}$/.test(n))) rmSync(join(folder, name), { recursive: true });
}

/** Takes the demo firm away with all of its showers and pictures; anything but the demo firm is left as it is. */
async function realFirm(url: string, photoFolder: string): Promise<string> {
  const store = await openStore(url, 2);
  const isDemo = await holdsDemo(store);
  await store.destroy();
  if (!isDemo) return 'This database does not hold the demo firm. Nothing was changed.';
  const bare = await makeDataSource(url, 1).initialize();
  // One statement: all of it goes, or nothing.
  await bare.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public');
  await bare.destroy();
  removePictures(photoFolder);
  return 'The demo firm is gone with its showers and pictures. Start again: the set-up page asks for your own firm.';
}

/** What `npm run first-manager` and `npm run real-firm` call. */
async function main([what]: readonly string[]): Promise<string> {
  const { DATABASE_URL, PUBLIC_URL, HOST, PORT, PHOTO_FOLDER } = readEnvironment(process.env);
  if (what === 'real-firm') return realFirm(DATABASE_URL, resolve(PHOTO_FOLDER));
  return firstManager(DATABASE_URL, PUBLIC_URL ?? `http://${HOST}:${PORT}`);
}

try {
  console.log(await main(process.argv.slice(2)));
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
