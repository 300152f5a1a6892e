// npm test: format, lint, types, unit, API on PostgreSQL, Playwright through the real start command. One cluster, one build.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { aptInstall, clusterFolder, freePort, startCluster } from './cluster.mjs';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

const OUT = join(PROJECT, 'test-results');
let passed = 0;
let failed = 0;

function ensureBrowser() {
  const missing = [
    ['/usr/bin/chromium', 'chromium'],
    ['/usr/bin/pdftotext', 'poppler-utils'],
  ]
    .filter(([path]) => !existsSync(path))
    .map(([, name]) => name);
  if (missing.length > 0) aptInstall(missing, say);
}

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

/** The real start command on a database of its own in the same cluster. */
async function startApplication(cluster, data) {
  cluster.createDatabase('e2e');
  const port = await freePort();
  const env = {
    ...process.env,
    PORT: String(port),
    DATABASE_URL: cluster.url('e2e'),
    CAREFUL_SEAM_DATA: data,
    RATE_LIMITS: 'off',
  };
  const app = spawn('npm', ['start'], { cwd: PROJECT, env, stdio: ['ignore', 'pipe', 'inherit'], detached: true });
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
      setTimeout(done, 8000).unref();
    });
  return { address, stop };
}

async function main() {
  checkNode();
  installPackages();
  ensureBrowser();
  mkdirSync(OUT, { recursive: true });
  check('format and lint', 'npx', ['biome', 'check', '--error-on-warnings', '.']);
  check('types', 'npx', ['tsc', '-b']);
  check('unused files and exports', 'npx', ['knip', '--no-progress']);
  build();
  const base = mkdtempSync('/tmp/careful-seam-test-');
  const folder = clusterFolder(base);
  const cluster = await startCluster({ folder, say });
  try {
    const units = join(OUT, 'vitest.json');
    suite(
      'unit and API tests',
      ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${units}`],
      units,
      vitestCount,
      { TEST_DATABASE_URL: cluster.url('postgres') },
    );
    const app = await startApplication(cluster, join(base, 'data'));
    const browser = join(OUT, 'playwright.json');
    suite('browser tests', ['playwright', 'test', '--config', 'e2e/playwright.config.ts'], browser, playwrightCount, {
      BASE_URL: app.address,
      PLAYWRIGHT_JSON_OUTPUT_NAME: browser,
    });
    await app.stop();
  } finally {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
    rmSync(base, { recursive: true, force: true });
  }
}

await main().catch((error) => {
  console.error(error);
  failed += 1;
});
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
