import { type ChildProcess, spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

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

/** Process ids whose command line or environment has the text: those this test started. */
export function processesWith(text: string): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        return (
          readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(text) ||
          readFileSync(`/proc/${pid}/environ`, 'utf8').includes(text)
        );
      } catch {
        return false;
      }
    })
    .map(Number)
    .filter((pid) => pid !== process.pid);
}

/** Kills a server with its database and all that started them, as a power cut would. */
export async function cutPower({ parent }: Running, data: string): Promise<void> {
  const ended =
    parent.exitCode !== null || parent.signalCode !== null
      ? Promise.resolve()
      : new Promise<void>((done) => parent.once('exit', () => done()));
  const database = /:(\d+)\//.exec(readFileSync(join(data, 'database.url'), 'utf8'))![1]!;
  for (const pid of [...processesWith(`CAREFUL_SEAM_DATA=${data}\0`), ...processesWith(`port=${database}`)])
    try {
      process.kill(pid, 'SIGKILL');
    } catch {}
  await ended;
}
