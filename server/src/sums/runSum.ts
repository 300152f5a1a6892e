import { findCalculation } from '@careful-seam/core/calc/registry';
import Piscina from 'piscina';
import { Refusal } from '../people/refusal';

/** No sum of the trade takes a second; what takes so long is a slip or an attack, ms. */
export const SUM_MS = 5000;
const MEGABYTES = 256;
/** Sums that may wait for the others; more at once nobody types. */
const WAITING = 20;

const isSource = import.meta.url.endsWith('.ts');
let pool: Piscina | null = null;

/** Threads that sums run in; made on first use. As TypeScript in tests, as the bundle beside this one in service. */
function threads(): Piscina {
  pool ??= new Piscina({
    filename: new URL(isSource ? './sumWorker.ts' : './sumWorker.js', import.meta.url).href,
    execArgv: isSource ? ['--import', 'tsx'] : [],
    minThreads: 0,
    maxThreads: 2,
    maxQueue: WAITING,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
  });
  return pool;
}

/** Runs a sum in a thread with limits of time and memory; one that goes beyond them is stopped, and nothing else notices. */
export async function runSum(name: string, input: unknown, ms = SUM_MS): Promise<{ ok: boolean; json: unknown }> {
  // An unknown name needs no thread.
  if (!findCalculation(name))
    throw new Refusal('input-invalid', 'name', `There is no calculation "${name}". Ask for the list.`);
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), ms);
  try {
    return await threads().run({ name, input }, { signal: stop.signal });
  } catch (error) {
    const { name: kind, code, message } = error as { name?: string; code?: string; message?: string };
    if (kind === 'AbortError' || code === 'ERR_WORKER_OUT_OF_MEMORY')
      throw new Refusal(
        'too-heavy',
        'input',
        `This sum was stopped after ${ms / 1000} seconds or ${MEGABYTES} MB. Ask for less: fewer readings, a coarser grid, a shorter time.`,
      );
    if (message === 'Task queue is at limit')
      throw new Refusal('busy', 'request', 'Many sums are being worked out. Try again in a moment.');
    throw error;
  } finally {
    clearTimeout(timer);
  }
}

/** Ends the threads: for the end of the server, and of tests. */
export async function endSums(): Promise<void> {
  await pool?.destroy();
  pool = null;
}
