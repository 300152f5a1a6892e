// What tests in a browser need: Chromium, and applications with the demo firm. Node built-ins only.
import { cpSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { aptInstall, freePort } from './cluster.mjs';
import { say } from './prepare.mjs';

/** Each runs against an application and a database of its own. One more than the smallest machine has cores: a good part of a test is waiting. */
const BROWSER_WORKERS = 3;

export function ensureBrowser() {
  const missing = [
    ['/usr/bin/chromium', 'chromium'],
    ['/usr/bin/chromium-headless-shell', 'chromium-headless-shell'],
    ['/usr/bin/pdftotext', 'poppler-utils'],
  ]
    .filter(([path]) => !existsSync(path))
    .map(([, name]) => name);
  if (missing.length > 0) aptInstall(missing, say);
}

/** One application for each worker. The first writes the demo firm; the others begin with a copy of it. */
export async function applicationsFor(cluster, base) {
  const start = async (worker) =>
    startApplication({
      PORT: String(await freePort()),
      DATABASE_URL: cluster.url(`e2e${worker}`),
      DEMO: 'with-public-passwords',
      CAREFUL_SEAM_DATA: join(base, `data${worker}`),
    });
  cluster.createDatabase('e2e0');
  const first = await start(0);
  await first.stop();
  for (let worker = 1; worker < BROWSER_WORKERS; worker += 1) {
    cluster.createDatabase(`e2e${worker}`, 'e2e0');
    cpSync(join(base, 'data0'), join(base, `data${worker}`), { recursive: true });
  }
  const applications = [];
  for (let worker = 0; worker < BROWSER_WORKERS; worker += 1) applications.push(await start(worker));
  return applications;
}
