import type { Request } from 'express';
import type { Paper } from '../papers/makePaper';
import { PaperAsk } from './asks';
import { type Call, readQuery } from './route';

/** The unit that a paper is asked for in. */
export const unitAsked = (req: Request): 'in' | 'mm' => readQuery(PaperAsk, req.query).unit;

/** Has a paper made beside the server, and sends it under its name. What can't be made is a `Refusal`. */
export async function sendPaper({ res, services }: Call, paper: Paper, name: string): Promise<undefined> {
  const { file, done } = await services.papers.make(paper, services.now());
  try {
    res.set('Cache-Control', 'no-store').attachment(name);
    await new Promise<void>((sent, fail) =>
      res.sendFile(file, { cacheControl: false, etag: false, lastModified: false, dotfiles: 'allow' }, (error) =>
        // Somebody who went away in the middle is no failure.
        error && !res.headersSent ? fail(error) : sent(),
      ),
    );
  } finally {
    await done();
  }
  return undefined;
}
