import type { ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeGate } from '../programs/gate';
import { beginProgram } from '../programs/programs';
import { Refusal } from '../refusals/refusal';
import type { Paper } from './makePaper';
import type { PaperAnswer, PaperAsk } from './paperWorker';

/** A record takes a second or two; what takes so long is stuck, ms. */
const PAPER_MS = 120_000;
/** More memory than this ends the process, MB. */
const MEGABYTES = 768;
/** A worker that nobody needs ends by itself, ms. */
const IDLE_MS = 60_000;
/** Papers that may wait for a worker; more at once nobody prints. */
const WAITING = 60;

/** A process that makes papers. */
interface Worker {
  /** The process. */
  child: ChildProcess;
  /** It can be asked. */
  ready: Promise<void>;
  /** Ends it when nobody asks for a while. */
  idle: NodeJS.Timeout | null;
}

/** Where a made paper lies; `done` takes it away. */
export interface MadePaper {
  /** Where it lies. */
  file: string;
  /** Takes the file away. */
  done: () => Promise<void>;
}

/** Papers made beside the server. */
export interface Papers {
  /** Makes one. */
  make: (paper: Paper, now: Date) => Promise<MadePaper>;
  /** Ends the processes. */
  stop: () => void;
}

/**
 * Makes papers in processes of their own, one fewer than the machine has cores: a record that is printed keeps no tablet
 * waiting. A worker that dies or is stuck takes its paper with it and nothing else.
 */
export function makePapers(databaseUrl: string, picturePlace: string): Papers {
  const most = Math.max(1, availableParallelism() - 1);
  const gate = makeGate(most, WAITING);
  const free: Worker[] = [];
  const all = new Set<Worker>();
  let asked = 0;

  function begin(): Worker {
    const child = beginProgram('paperWorker', {
      megabytes: MEGABYTES,
      env: { PAPER_DATABASE_URL: databaseUrl, PAPER_PICTURE_PLACE: picturePlace },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const ready = new Promise<void>((done, fail) => {
      child.once('message', () => done());
      child.once('error', fail);
      child.once('exit', () => fail(new Error('a paper worker ended before it began')));
    });
    // Whoever waits for it hears of it.
    ready.catch(() => undefined);
    const worker: Worker = { child, ready, idle: null };
    all.add(worker);
    child.once('exit', () => {
      all.delete(worker);
      const at = free.indexOf(worker);
      if (at >= 0) free.splice(at, 1);
    });
    return worker;
  }

  function rest(worker: Worker): void {
    if (!all.has(worker)) return;
    free.push(worker);
    worker.idle = setTimeout(() => worker.child.kill(), IDLE_MS);
    worker.idle.unref();
    worker.child.unref();
    worker.child.channel?.unref();
  }

  function wake(): Worker {
    const worker = free.pop() ?? begin();
    if (worker.idle) clearTimeout(worker.idle);
    worker.child.ref();
    worker.child.channel?.ref();
    return worker;
  }

  async function ask(worker: Worker, paper: Paper, file: string, now: Date): Promise<PaperAnswer | null> {
    await worker.ready;
    asked += 1;
    const message: PaperAsk = { id: asked, paper, file, nowMs: now.getTime() };
    return new Promise((done) => {
      const end = (answer: PaperAnswer | null) => {
        clearTimeout(timer);
        worker.child.off('message', hear);
        worker.child.off('exit', gone);
        done(answer);
      };
      const hear = (answer: PaperAnswer) => answer.id === message.id && end(answer);
      const gone = () => end(null);
      const timer = setTimeout(() => worker.child.kill('SIGKILL'), PAPER_MS);
      worker.child.on('message', hear);
      worker.child.once('exit', gone);
      worker.child.send(message, (error) => error && end(null));
    });
  }

  async function make(paper: Paper, now: Date): Promise<MadePaper> {
    const folder = await mkdtemp(join(tmpdir(), 'seam-paper-'));
    const done = () => rm(folder, { recursive: true, force: true });
    const file = join(folder, 'paper');
    try {
      if (gate.isFull()) throw new Refusal('papers-busy', 'request');
      const answer = await gate.run(async () => {
        const worker = wake();
        try {
          return await ask(worker, paper, file, now);
        } finally {
          rest(worker);
        }
      });
      if (answer?.ok) return { file, done };
      if (answer?.refusal) throw Refusal.of(answer.refusal);
      if (answer) throw new Error(answer.error);
      throw new Refusal('paper-too-heavy', 'request');
    } catch (error) {
      await done();
      throw error;
    }
  }

  return {
    make,
    stop: () => {
      for (const { child } of all) child.kill();
    },
  };
}
