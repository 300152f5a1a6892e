// The real start command as a child, for tests and pictures. Node built-ins only.
import { spawn } from 'node:child_process';
import { PROJECT } from './prepare.mjs';

/** Runs "npm start" with the given settings; gives its address and a stop function that ends what it started. */
export async function startApplication(settings) {
  const app = spawn('npm', ['start'], {
    cwd: PROJECT,
    env: { ...process.env, RATE_LIMITS: 'off', DEMO_YEARS: 'off', ...settings },
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  });
  const address = await new Promise((done, fail) => {
    app.stdout.on('data', (part) => {
      const found = /served at\s+(\S+)/.exec(String(part))?.[1];
      if (found) done(found);
    });
    app.once('exit', (code) => fail(new Error(`npm start ended with code ${code}`)));
  });
  const stop = () =>
    new Promise((done) => {
      app.removeAllListeners('exit');
      app.once('exit', done);
      process.kill(-app.pid, 'SIGTERM');
      setTimeout(done, 15_000).unref();
    });
  return { address, stop };
}
