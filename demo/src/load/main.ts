import { readEnvironment } from '@careful-seam/server/environment/environment';
import { picturePlaceOf } from '@careful-seam/server/photos/picturePlace';
import { oneAtATime, openStore } from '@careful-seam/server/store/dataSource';
import { loadDemoFirm } from './loadDemoFirm';

/** The same address, on which nothing waits for the disk: what is invented can be made again. The last step does wait, and all before it with it. */
function hurried(address: string): string {
  const url = new URL(address);
  url.searchParams.set('options', '-c synchronous_commit=off');
  return url.toString();
}

/** Loads the demo firm into the database of the environment, if nobody is there yet. A server that is asked for the demo begins this. */
async function main(): Promise<string> {
  const { DATABASE_URL, PHOTO_FOLDER, DEMO_YEARS } = readEnvironment(process.env);
  const store = await openStore(hurried(DATABASE_URL), 2);
  try {
    const picturePlace = picturePlaceOf(PHOTO_FOLDER);
    const loaded = await oneAtATime(store, () =>
      loadDemoFirm({ store, picturePlace, now: () => new Date(), years: DEMO_YEARS === 'on' }),
    );
    return loaded ? 'The demo firm is loaded.' : 'Somebody is here already. Nothing was changed.';
  } finally {
    await store.destroy();
  }
}

try {
  console.log(await main());
} catch (error) {
  console.error(error instanceof Error && error.constructor === Error ? error.message : error);
  process.exitCode = 1;
}
