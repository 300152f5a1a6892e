// npm run shots: the pictures of docs/screenshots from the demo data, through the real start command.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { clusterFolder, freePort } from './cluster.mjs';
import { PROJECT } from './prepare.mjs';

const data = mkdtempSync('/tmp/careful-seam-shots-');
const env = { ...process.env, PORT: String(await freePort()), CAREFUL_SEAM_DATA: data, RATE_LIMITS: 'off' };
const app = spawn('npm', ['start'], { cwd: PROJECT, env, stdio: ['ignore', 'pipe', 'inherit'], detached: true });
const address = await new Promise((done, fail) => {
  app.stdout.on('data', (part) => {
    const found = /served at\s+(\S+)/.exec(String(part))?.[1];
    if (found) done(found);
  });
  app.once('exit', (code) => fail(new Error(`npm start ended with code ${code}`)));
});
const result = spawnSync('npx', ['playwright', 'test', '--config', 'e2e/screenshots/playwright.config.ts'], {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BASE_URL: address },
});
const gone = new Promise((done) => app.once('exit', done));
app.removeAllListeners('exit');
process.kill(-app.pid, 'SIGTERM');
await Promise.race([gone, new Promise((done) => setTimeout(done, 15_000))]);
rmSync(clusterFolder(data), { recursive: true, force: true });
rmSync(data, { recursive: true, force: true });
process.exit(result.status ?? 1);
