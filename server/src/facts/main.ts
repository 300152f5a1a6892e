import { type ChildProcess, spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { parseArgs } from 'node:util';
import { openStore } from '../store/dataSource';
import { countBehind } from './behind';
import { followToTheEnd, forgetFacts } from './projector';

const { values } = parseArgs({
  options: { rebuild: { type: 'boolean', default: false }, alone: { type: 'boolean', default: false } },
});
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set. Use "npm run facts".');
const store = await openStore(url, 2);
/** How far it is, where somebody looks on. */
const tell = (done: number) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${done} showers counted `);
};

/** Fewer showers than this are counted before a helper has begun. */
const WORTH_HELP = 200;

/** One more process for each core but this one's: what one is at, the others leave. */
function helpers(): ChildProcess[] {
  if (values.alone) return [];
  const args = [...process.execArgv, process.argv[1]!, '--alone'];
  return Array.from({ length: availableParallelism() - 1 }, () => spawn(process.execPath, args, { stdio: 'ignore' }));
}

/** Waits until a helper has ended; one that failed leaves its showers to this process. */
const ended = (helper: ChildProcess) =>
  new Promise<void>((done) => {
    if (helper.exitCode !== null || helper.signalCode !== null) done();
    helper.once('exit', () => done());
    helper.once('error', () => done());
  });

try {
  if (values.rebuild) await forgetFacts(store);
  const behind = await countBehind(store);
  const beside = behind > WORTH_HELP ? helpers() : [];
  await followToTheEnd(store, tell);
  await Promise.all(beside.map(ended));
  // What a helper that failed was at.
  await followToTheEnd(store, tell);
  const left = await countBehind(store);
  console.log(`${behind - left} showers counted${values.rebuild ? ' anew' : ''}, ${left} still to be counted.`);
} finally {
  await store.destroy();
}
