// A process of its own that counts what is behind when it is told to: the bench of the projector starts one a core, as `npm run facts` does.
import { followToTheEnd } from '@careful-seam/server/facts/projector';
import { openStore } from '@careful-seam/server/store/dataSource';

const store = await openStore(process.env.BENCH_DATABASE_URL!, 2);
process.on('message', async () => {
  const counted = await followToTheEnd(store, () => undefined);
  process.send!(counted);
});
process.on('disconnect', () => void store.destroy().then(() => process.exit()));
process.send!('ready');
