import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';

export interface Running {
  parent: ChildProcess;
  address: string;
  said: () => string;
}

/** The real start command with a private database of its own, in a folder of its own. */
export function start(data: string, port: number, extra: Record<string, string> = {}): Promise<Running> {
  const { DATABASE_URL: _other, DEMO: _demo, ...env } = process.env;
  const parent = spawn('node', ['tools/start.mjs'], {
    env: { ...env, PORT: String(port), CAREFUL_SEAM_DATA: data, RATE_LIMITS: 'off', DEMO_YEARS: 'off', ...extra },
    detached: true,
  });
  let said = '';
  return new Promise((done, fail) => {
    const hear = (part: Buffer) => {
      said += String(part);
      const address = /served at\s+(\S+)/.exec(said)?.[1];
      if (address) done({ parent, address, said: () => said });
    };
    parent.stdout!.on('data', hear);
    parent.stderr!.on('data', hear);
    parent.once('exit', () => fail(new Error(said)));
  });
}

/** Stops what was started, and waits until it has ended. */
export async function stop({ parent }: Running, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  const ended = new Promise((done) => parent.once('exit', done));
  process.kill(parent.pid!, signal);
  await ended;
}

export function freePort(): Promise<number> {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });
}
