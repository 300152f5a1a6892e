import { readEnvironment } from '../environment/environment';
import { picturePlaceOf } from '../photos/picturePlace';
import { picturesAt } from '../photos/picturesAt';
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

/** Takes the demo firm away with all of its showers and pictures; anything but the demo firm is left as it is. */
async function realFirm(url: string, picturePlace: string): Promise<string> {
  const store = await openStore(url, 2);
  const isDemo = await holdsDemo(store);
  await store.destroy();
  if (!isDemo) return 'This database does not hold the demo firm. Nothing was changed.';
  const bare = await makeDataSource(url, 1).initialize();
  // One statement: all of it goes, or nothing.
  await bare.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public');
  await bare.destroy();
  await picturesAt(picturePlace).clear();
  return 'The demo firm is gone with its showers and pictures. Start again: the set-up page asks for your own firm.';
}

/** What `npm run first-manager` and `npm run real-firm` call. */
async function main([what]: readonly string[]): Promise<string> {
  const { DATABASE_URL, PUBLIC_URL, HOST, PORT, PHOTO_FOLDER } = readEnvironment(process.env);
  if (what === 'real-firm') return realFirm(DATABASE_URL, picturePlaceOf(PHOTO_FOLDER));
  return firstManager(DATABASE_URL, PUBLIC_URL ?? `http://${HOST}:${PORT}`);
}

try {
  console.log(await main(process.argv.slice(2)));
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
