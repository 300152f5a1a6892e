import { writeFile } from 'node:fs/promises';
import { setPriority } from 'node:os';
import type { Problem } from '@careful-seam/core/outcome/outcome';
import { asRefusal } from '../refusals/asRefusal';
import { makeDataSource } from '../store/dataSource';
import { makePaper, type Paper } from './makePaper';

/** What a worker is asked, and what it answers. The paper itself goes by a file, whatever its size. */
export interface PaperAsk {
  id: number;
  paper: Paper;
  file: string;
  nowMs: number;
}
export type PaperAnswer = { id: number; ok: true } | { id: number; ok: false; refusal: Problem | null; error: string };

const { PAPER_DATABASE_URL = '', PAPER_PICTURE_PLACE = '' } = process.env;

// Whoever waits for a tablet's answer comes first: papers are made with what is left of the machine.
if (process.env.LOWEST_PRIORITY === '1') setPriority(19);
const store = await makeDataSource(PAPER_DATABASE_URL, 1).initialize();

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
