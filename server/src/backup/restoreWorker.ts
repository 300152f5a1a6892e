import { setPriority } from 'node:os';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { asRefusal } from '../refusals/asRefusal';
import { Refusal } from '../refusals/refusal';
import { type Restored, restoreBackup } from './restoreBackup';

/** What is to be restored. */
export interface RestoreAsk {
  /** Where it lies. */
  file: string;
  /** Address of the database. */
  url: string;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is made for, ms since 1970. */
  nowMs: number;
}
/** How far it is, what was found, or why it was refused. */
export type RestoreSaid = { done: number; of: number } | { found: Restored } | { refusal: Problem };

if (process.env.LOWEST_PRIORITY === '1') setPriority(19);

/** One restore in a process of its own: it is told once, says how far it is, answers once, and ends. */
process.once('message', async ({ file, url, picturePlace, nowMs }: RestoreAsk) => {
  const say = (said: RestoreSaid, then?: () => void) => process.send?.(said, then ?? (() => undefined));
  const tell = (done: number, of: number) => say({ done, of });
  try {
    const found = await restoreBackup(file, { url, picturePlace, now: new Date(nowMs), tell });
    say({ found }, () => process.exit(0));
  } catch (error) {
    const detail = error instanceof Error ? error.message : String(error);
    const known = asRefusal(error) ?? new Refusal('restore-failed', 'file', { detail });
    say({ refusal: known.problem }, () => process.exit(1));
  }
});
