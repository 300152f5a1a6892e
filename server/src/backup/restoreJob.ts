import type { RestoreState } from '@careful-seam/contract/api/office';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { beginProgram } from '../programs/programs';
import { Refusal } from '../refusals/refusal';
import type { RestoreAsk, RestoreSaid } from './restoreWorker';

/** Faults of a restore that its answer names; the command line names them all. */
const FOUND_AT_MOST = 20;

/** How a restore stands; what went wrong has no language yet. */
export type RestoreStands = Omit<RestoreState, 'problem'> & { problem: Problem | null };

/** No restore runs. */
const NOTHING: RestoreStands = { state: 'none', done: 0, of: 0, found: null, problem: null };
/** How the restore that runs stands. */
let now: RestoreStands = NOTHING;

/** How the restore stands that this server was last asked for. */
export const restoreState = (): RestoreStands => now;

/**
 * Begins a restore beside the server and gives at once; one at a time. `ended` is called with what came back, or null, when it is
 * over, and takes away what it was read from.
 */
export function beginRestore(ask: RestoreAsk, ended: (found: RestoreState['found']) => Promise<void>): RestoreStands {
  if (now.state === 'running') throw new Refusal('restore-running', 'file');
  now = { ...NOTHING, state: 'running' };
  const child = beginProgram('restoreWorker', { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
  child.on('message', (said: RestoreSaid) => {
    if ('done' in said) now = { ...now, ...said };
    else if ('refusal' in said) now = { ...now, state: 'failed', problem: said.refusal };
    else {
      const { findings, madeAt, showers, entries, photos } = said.found;
      const found = {
        madeAt,
        showers,
        entries,
        photos,
        faults: findings.length,
        findings: findings.slice(0, FOUND_AT_MOST),
      };
      now = { ...now, state: 'done', found };
    }
  });
  child.once('exit', () => {
    if (now.state === 'running') {
      now = { ...now, state: 'failed', problem: { code: 'restore-broken-off', field: 'file', values: {} } };
    }
    void ended(now.found);
  });
  child.send(ask, () => undefined);
  return now;
}
