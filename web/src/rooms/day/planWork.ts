import { type Remote, wrap } from 'comlink';
import type { PlanWork } from './plan.worker';

/** The worker, once somebody asked for it. */
let started: Remote<PlanWork> | null = null;

/** The worker that plans a day; started when it is first asked. */
export function planWork(): Remote<PlanWork> {
  started ??= wrap<PlanWork>(new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' }));
  return started;
}
