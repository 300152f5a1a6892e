// npm run shots: the pictures of docs/screenshots from the demo data, through the real start command.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { startApplication } from './application.mjs';
import { freePort, temporaryFolder } from './cluster.mjs';
import { PROJECT } from './prepare.mjs';

const data = temporaryFolder('shots');
const app = await startApplication({ PORT: String(await freePort()), CAREFUL_SEAM_DATA: data, DEMO_YEARS: 'on' });
const args = ['playwright', 'test', '--config', 'e2e/screenshots/playwright.config.ts'];
const result = spawnSync('npx', args, {
  cwd: PROJECT,
  stdio: 'inherit',
  env: { ...process.env, BASE_URL: app.address },
});
await app.stop();
rmSync(data, { recursive: true, force: true });
process.exit(result.status ?? 1);
