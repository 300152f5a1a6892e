import { findCalculation } from '@careful-seam/core/calc/registry';
import type { Outcome } from '@careful-seam/core/outcome/outcome';
import { makeGate } from '../programs/gate';
import { beginProgram } from '../programs/programs';
import { Refusal } from '../refusals/refusal';

/** No sum of the trade takes a second; what takes so long is a slip or an attack, ms. */
const SUM_MS = 5000;
/** A process that is not there by then does not come, ms. */
const STARTS_MS = 30_000;
const MEGABYTES = 256;
/** Sums at work at once, and those that may wait for them; more at once nobody types. */
const gate = makeGate(2, 20);

type Answer = Outcome<unknown>;

/**
 * A sum in a process of its own, not in a thread: one that runs out of memory takes its whole process with it. Null when it was
 * stopped, by its time or by its memory.
 */
function inProcess(name: string, input: unknown, ms: number): Promise<Answer | null> {
  return new Promise((done) => {
    // What a sum may see is its input: no address of a database, no password of a mail server. It is waited for: usual priority.
    const child = beginProgram('sumWorker', {
      megabytes: MEGABYTES,
      env: { LOWEST_PRIORITY: '0' },
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    const stopAfter = (limit: number) => setTimeout(() => child.kill('SIGKILL'), limit);
    let timer = stopAfter(STARTS_MS);
    // Its time counts from when it can begin: on a machine that is busy a process takes a while to be there.
    child.once('message', () => {
      clearTimeout(timer);
      timer = stopAfter(ms);
      child.once('message', (answer) => done(answer as Answer));
      child.send({ name, input }, () => {});
    });
    child.once('error', () => done(null));
    child.once('exit', () => {
      clearTimeout(timer);
      done(null);
    });
  });
}

/** Runs a sum with limits of time and memory; one that goes beyond them is stopped, and nothing else notices. */
export async function runSum(name: string, input: unknown, ms = SUM_MS): Promise<Answer> {
  // An unknown name needs no process.
  if (!findCalculation(name)) throw new Refusal('calculation-unknown', 'name', { name });
  if (gate.isFull()) throw new Refusal('sums-busy', 'request');
  const answer = await gate.run(() => inProcess(name, input, ms));
  if (answer) return answer;
  throw new Refusal('sum-too-heavy', 'input', { seconds: ms / 1000, megabytes: MEGABYTES });
}
