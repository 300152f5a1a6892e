import { once } from 'node:events';
import { beginProgram } from '../programs/programs';

/**
 * Has the demo firm loaded by the program of the demo, in a process of its own with this one's environment: the server knows
 * nothing of what is invented. Of several that begin it at once, one loads it. Throws when it could not; why it has said itself.
 */
export async function loadDemo(): Promise<void> {
  const env = Object.fromEntries(Object.entries(process.env).flatMap(([k, v]) => (v === undefined ? [] : [[k, v]])));
  const [code] = await once(beginProgram('demo', { env, stdio: ['ignore', 'ignore', 'inherit', 'ipc'] }), 'exit');
  if (code !== 0) throw new Error('The demo firm could not be loaded; why stands above.');
}
