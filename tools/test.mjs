// npm test: format, lint, types, unit, API on PostgreSQL, Playwright through the real start command. One cluster, one build.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { applicationsFor, ensureBrowser } from './browser.mjs';
import { clusterFolder, startCluster, temporaryFolder } from './cluster.mjs';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

const OUT = join(PROJECT, 'test-results');
let passed = 0;
let failed = 0;

function step(name, file, args, env = {}) {
  const start = Date.now();
  say(name);
  const { status } = spawnSync(file, args, {
    cwd: PROJECT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });
  say(`${name}: ${status === 0 ? 'ok' : 'FAILED'} in ${Math.round((Date.now() - start) / 1000)} s`);
  return status === 0;
}

function check(name, file, args) {
  if (step(name, file, args)) passed += 1;
  else failed += 1;
}

/** A suite counts its own tests; one that dies without a report counts as one failure. */
function suite(name, args, report, count, env) {
  rmSync(report, { force: true });
  const ok = step(name, 'npx', args, env);
  const counted = existsSync(report) ? count(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 0 };
  passed += counted.passed;
  failed += counted.failed + (!ok && counted.failed === 0 ? 1 : 0);
  if (ok && counted.passed === 0) failed += 1;
}

const vitestCount = (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests });
const playwrightCount = (r) => ({ passed: r.stats.expected, failed: r.stats.unexpected + r.stats.flaky });

async function main() {
  checkNode();
  installPackages();
  ensureBrowser();
  mkdirSync(OUT, { recursive: true });
  check('format and lint', 'npx', ['biome', 'check', '--error-on-warnings', '.']);
  check('types', 'npx', ['tsc', '-b']);
  check('rooms', 'node', ['tools/house.mjs', '--check']);
  check('unused files and exports', 'npx', ['knip', '--no-progress']);
  build();
  const base = temporaryFolder('test');
  const folder = clusterFolder(base);
  const cluster = await startCluster({ folder, say });
  try {
    const units = join(OUT, 'vitest.json');
    suite(
      'unit and API tests',
      ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${units}`],
      units,
      vitestCount,
      // Programs that the server starts beside itself are the bundles that were just built, as in service.
      { TEST_DATABASE_URL: cluster.url('postgres'), BUILT_PROGRAMS: join('dist', 'server') },
    );
    const applications = await applicationsFor(cluster, base);
    const browser = join(OUT, 'playwright.json');
    suite('browser tests', ['playwright', 'test', '--config', 'e2e/playwright.config.ts'], browser, playwrightCount, {
      BASE_URL: applications.map((app) => app.address).join(','),
      PLAYWRIGHT_JSON_OUTPUT_NAME: browser,
    });
    await Promise.all(applications.map((app) => app.stop()));
  } finally {
    await cluster.stop();
    rmSync(base, { recursive: true, force: true });
  }
}

await main().catch((error) => {
  console.error(error);
  failed += 1;
});
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
