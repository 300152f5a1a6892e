import { parseArgs } from 'node:util';
import { openStore } from '../store/dataSource';
import { countBehind } from './behind';
import { followLedgers, rebuildFacts } from './projector';

const { values } = parseArgs({ options: { rebuild: { type: 'boolean', default: false } } });
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set. Use "npm run facts".');
const store = await openStore(url, 2);
/** How far it is, where somebody looks on. */
const tell = (done: number) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${done} showers counted `);
};
try {
  let done = 0;
  if (values.rebuild) done = await rebuildFacts(store, tell);
  else for (let some = 1; some > 0; done += some) some = await followLedgers(store, Date.now() + 1000);
  console.log(
    `${done} showers counted${values.rebuild ? ' anew' : ''}, ${await countBehind(store)} still to be counted.`,
  );
} finally {
  await store.destroy();
}
