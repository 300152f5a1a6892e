// npm run test:e2e -- PATTERN: the tests in a browser, all or some, against applications of their own. Node built-ins only.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { applicationsFor, ensureBrowser } from './browser.mjs';
import { clusterFolder, startCluster, temporaryFolder } from './cluster.mjs';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

checkNode();
installPackages();
ensureBrowser();
build();
const base = temporaryFolder('e2e');
const cluster = await startCluster({ folder: clusterFolder(base), say });
let code = 1;
try {
  const applications = await applicationsFor(cluster, base);
  const args = [
    'playwright',
    'test',
    '--config',
    'e2e/playwright.config.ts',
    '--reporter=line',
    ...process.argv.slice(2),
  ];
  const env = { ...process.env, BASE_URL: applications.map((app) => app.address).join(',') };
  code = spawnSync('npx', args, { cwd: PROJECT, stdio: 'inherit', env }).status ?? 1;
  await Promise.all(applications.map((app) => app.stop()));
} finally {
  await cluster.stop();
  rmSync(base, { recursive: true, force: true });
}
process.exit(code);
