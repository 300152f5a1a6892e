// npm run bench, a part: what a first visit waits for, over the real application in the real browser. Script as it is sent, and the
// time until the first words on a slow phone. Budgets are the project's own.
import { chromium } from '@playwright/test';
import { writeSection } from './performanceDoc.ts';

const APP = process.env.BENCH_APPLICATION;
const PASSWORD = 'try-every-seam';
/** A phone on a poor network: 1.6 Mbit/s down, 750 kbit/s up, 150 ms, a processor four times slower. */
const SLOW = { offline: false, downloadThroughput: 200_000, uploadThroughput: 93_750, latency: 150 };
const SLOWER_CPU = 4;
const WORDS_WITHIN_MS = 3000;

/** Opens pages one after the other in a fresh browser and counts the script that comes; `visit` gives nothing. */
async function scriptOf(browser, visit) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
  const page = await context.newPage();
  const network = await context.newCDPSession(page);
  await network.send('Network.enable');
  const scripts = new Set();
  let bytes = 0;
  network.on('Network.responseReceived', ({ requestId, type }) => type === 'Script' && scripts.add(requestId));
  network.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength;
  });
  // What a screen loads for later, once it stands, is not waited for.
  await page.addInitScript(() => {
    window.requestIdleCallback = () => 0;
  });
  await visit(page);
  await context.close();
  return bytes / 1000;
}

/** Time until a page says its first words on a slow phone, ms. */
async function wordsOn(browser, path, words) {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.emulateNetworkConditions', SLOW);
  await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWER_CPU });
  const begun = Date.now();
  await page.goto(APP + path, { waitUntil: 'commit' });
  await page.locator(words).first().waitFor({ timeout: 60_000 });
  const ms = Date.now() - begun;
  await context.close();
  return ms;
}

async function signIn(page, who) {
  await page.goto(`${APP}/sign-in`);
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByText('3B hall').first().waitFor();
}

/** A link to one record, as a manager gives it to a homeowner; its path. */
async function recordLink(browser) {
  const page = await browser.newPage();
  await signIn(page, 'maren');
  await page.goto(`${APP}/office/links`);
  await page.getByRole('radio', { name: 'One record, to read' }).click();
  await page.getByLabel('Shower').selectOption({ index: 1 });
  await page.getByLabel('For whom (this stands in the record)').fill('Bench');
  await page.getByRole('button', { name: 'Make the link' }).click();
  const { pathname } = new URL(await page.getByLabel('The link').inputValue());
  await page.close();
  return pathname;
}

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox'] });
const link = await recordLink(browser);
const onSite = async (page) => {
  await signIn(page, 'ines');
  await page.getByText('3B hall').click();
  await page.getByRole('button', { name: /^(Walk it|Go on walking)$/ }).click();
  await page.getByTestId('walk').waitFor();
};
const crew = async (page) => {
  await signIn(page, 'pavel');
  await page.getByText('3B hall').first().click();
  await page.getByTestId('map').waitFor();
};
const sent = [
  ['on site: day, shower, walk', await scriptOf(browser, onSite), 250],
  ['crew’s phone: day, hold', await scriptOf(browser, crew), 160],
  ['a record’s link', await scriptOf(browser, (page) => page.goto(APP + link, { waitUntil: 'networkidle' })), 90],
];
const words = [
  ['sign-in', await wordsOn(browser, '/sign-in', 'label')],
  ['a record’s link', await wordsOn(browser, link, 'h1')],
];
await browser.close();
const rows = [
  ...sent.map(([what, kB, most]) => [what, `${kB.toFixed(0)} kB of script`, `${most} kB`, kB <= most]),
  ...words.map(([what, ms]) => [
    `first words, slow phone: ${what}`,
    `${(ms / 1000).toFixed(1)} s`,
    '3 s',
    ms <= WORDS_WITHIN_MS,
  ]),
];
for (const [what, found, most, holds] of rows)
  console.log(`${holds ? 'ok  ' : 'OVER'} ${what}: ${found} (at most ${most})`);
writeSection(
  'What a first visit waits for',
  [
    `Script as it is sent; first words on a phone at 1.6 Mbit/s with a processor ${SLOWER_CPU} times slower.`,
    '',
    '| What | Found | At most |',
    '|---|---|---|',
    ...rows.map(([what, found, most]) => `| ${what} | ${found} | ${most} |`),
  ].join('\n'),
);
process.exit(rows.every(([, , , holds]) => holds) ? 0 : 1);
