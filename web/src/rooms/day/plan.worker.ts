import { expose } from 'comlink';
import { moveStop, planDay } from './planDay';

/** Ways are searched off the interface's thread. */
const work = { planDay, moveStop };
/** What this worker can be asked. */
export type PlanWork = typeof work;

expose(work);
