import { defineConfig } from '@playwright/test';

/** Chromium without windows: what no one looks at is not painted either. */
const CHROMIUM = '/usr/bin/chromium-headless-shell';
const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** One application for each worker, so that the files of tests run side by side without meeting each other's showers. */
const applications = (process.env.BASE_URL ?? 'http://127.0.0.1:4310').split(',');

/** The longest begin first, so that none of them is left to run alone at the end. They work in showers of their own. */
const LONG = ['acrossCrews', 'lifeOfDefect', 'filmAndCure', 'killed', 'wholeJob'].map((name) => `**/${name}.spec.ts`);
/** What changes showers of the demo that other files look at: a worker comes to it when it has done all else that it does. */
const LAST = ['waterIn', 'waterRead', 'lastOfAll'].map((name) => `**/${name}.spec.ts`);

export default defineConfig({
  projects: [
    { name: 'long', testMatch: LONG },
    { name: 'others', testIgnore: [...LONG, ...LAST] },
    { name: 'last', testMatch: LAST },
  ],
  // Minutes of a hand's whole showers and of every office page at every size: SLOW=1, `npm run taps` and `npm run sizes`.
  ...(process.env.SLOW ? {} : { grepInvert: /@slow/ }),
  testDir: '.',
  outputDir: '../test-results/playwright',
  // Wide, because a machine that others share may stand still for a minute: a limit is here to end what hangs, and what passes waits for none of it.
  timeout: 600_000,
  expect: { timeout: 120_000 },
  workers: applications.length,
  reporter: [['line'], ['json']],
  use: {
    baseURL: applications[Number(process.env.TEST_PARALLEL_INDEX ?? 0)],
    viewport: { width: 1280, height: 800 },
    // Moving water is painted over and over without a graphics card; what moves has a test of its own.
    contextOptions: { reducedMotion: 'reduce' },
    // Only the tests of the time without a signal want the service worker; for the others it is work beside the point.
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
    // A trace copies the page at every step, which costs as much as the step: TRACE=1 where one is needed.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    launchOptions: { executablePath: CHROMIUM, args },
  },
});
