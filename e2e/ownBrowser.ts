import { type ChildProcess, spawn } from 'node:child_process';
import { type Browser, chromium, type Page } from '@playwright/test';

const ARGS = ['--headless=new', '--no-sandbox', '--disable-gpu', '--no-first-run', '--remote-debugging-port=0'];
/** Kills a browser with all that it started; one that is gone already is left. */
export function end({ pid }: ChildProcess): void {
  try {
    globalThis.process.kill(-pid!, 'SIGKILL');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error;
  }
}

/** Beginnings of a browser on a profile that was killed: a start that hangs is not what is tried here. */
const STARTS = 3;

/** A browser of our own with a profile on disk, so that it can be killed as a tablet's system or an empty battery would. */
export async function launch(profile: string): Promise<{ process: ChildProcess; browser: Browser; page: Page }> {
  for (let start = 1; ; start += 1) {
    const process = spawn('/usr/bin/chromium', [...ARGS, `--user-data-dir=${profile}`, '--window-size=1280,800'], {
      stdio: ['ignore', 'ignore', 'pipe'],
      detached: true,
    });
    try {
      const browser = await chromium.connectOverCDP(await addressOf(process));
      const context = browser.contexts()[0]!;
      const page = context.pages()[0] ?? (await context.newPage());
      return { process, browser, page };
    } catch (error) {
      end(process);
      if (start === STARTS) throw error;
    }
  }
}

/** Where a browser that was just started can be spoken to. */
function addressOf(process: ChildProcess): Promise<string> {
  return new Promise((found, failed) => {
    let said = '';
    process.once('exit', () => failed(new Error(`the browser ended by itself: ${said}`)));
    process.stderr!.on('data', (part) => {
      said += String(part);
      const ws = /DevTools listening on (ws:\S+)/.exec(said)?.[1];
      if (ws) found(ws);
    });
  });
}
