import type { Request } from 'express';
import type { Paper } from '../papers/makePaper';
import { PaperAsk } from './asks';
import { FileOut } from './fileOut';
import { type Call, readQuery } from './route';

/** The unit that a paper is asked for in. */
export const unitAsked = (req: Request): 'in' | 'mm' => readQuery(PaperAsk, req.query).unit;

/** Has a paper made beside the server, and gives it under its name. What can't be made is a `Refusal`. */
export async function paperOut({ services }: Call, paper: Paper, name: string): Promise<FileOut> {
  const { file, done } = await services.papers.make(paper, services.now());
  return new FileOut(name, { file }, done);
}
