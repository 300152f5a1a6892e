import { writeFile } from 'node:fs/promises';
import { setPriority } from 'node:os';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { asRefusal } from '../refusals/asRefusal';
import { makeDataSource } from '../store/dataSource';
import { makePaper, type Paper } from './makePaper';

/** What a worker is asked, and what it answers. The paper itself goes by a file, whatever its size. */
export interface PaperAsk {
  /** Number of the asking. */
  id: number;
  /** Which paper. */
  paper: Paper;
  /** Where it lies. */
  file: string;
  /** The moment it is made for, ms since 1970. */
  nowMs: number;
}
/** It lies in its file, or why it does not. */
export type PaperAnswer = { id: number; ok: true } | { id: number; ok: false; refusal: Problem | null; error: string };

/** What this process may see, and no more. */
const { PAPER_DATABASE_URL = '', PAPER_PICTURE_PLACE = '' } = process.env;

// Whoever waits for a tablet's answer comes first: papers are made with what is left of the machine.
if (process.env.LOWEST_PRIORITY === '1') setPriority(19);
/** For reading alone. */
const store = await makeDataSource(PAPER_DATABASE_URL, 1).initialize();

/** Makes one paper. */
async function answer({ id, paper, file, nowMs }: PaperAsk): Promise<PaperAnswer> {
  try {
    const made = await makePaper(paper, { store, picturePlace: PAPER_PICTURE_PLACE, now: new Date(nowMs) });
    await writeFile(file, made, { mode: 0o600 });
    return { id, ok: true };
  } catch (error) {
    // What the database or a library says is known here as it is in the server.
    const known = asRefusal(error);
    const refusal = known?.problem ?? null;
    return { id, ok: false, refusal, error: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
}

process.on('message', (ask: PaperAsk) => {
  void answer(ask).then((said) => process.send?.(said));
});
// The server that it worked for is gone.
process.once('disconnect', () => process.exit(0));
process.send?.({ ready: true });
