import { type Remote, wrap } from 'comlink';
import type { CureWork } from './cure.worker';

/** The worker, once somebody asked for it. */
let started: Remote<CureWork> | null = null;

/** The worker that reads files of the air; started when it is first asked. */
export function cureWork(): Remote<CureWork> {
  started ??= wrap<CureWork>(new Worker(new URL('./cure.worker.ts', import.meta.url), { type: 'module' }));
  return started;
}
