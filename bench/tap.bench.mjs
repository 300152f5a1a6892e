// npm run bench, a part: the answer of a look, from the tap until the map stands drawn, in showers of three lengths.
import { existsSync, readFileSync } from 'node:fs';
import 'fake-indexeddb/auto';
import { PUSH_AT_MOST } from '@careful-seam/contract/api/messages';
import { chromium } from '@playwright/test';
import { v4 } from 'uuid';
import { serverOver } from '../web/src/tablet/api.ts';
import { openDatabase } from '../web/src/tablet/database.ts';
import { fold, readBooks } from '../web/src/tablet/localShower.ts';
import { append, entriesOf } from '../web/src/tablet/outbox.ts';
import { syncOnce } from '../web/src/tablet/sync.ts';
import { writeSection } from './performanceDoc.ts';

const APP = process.env.BENCH_APPLICATION;
const NAME = '3C guest';
/** Entries of the shower, and how much script the tap may take, ms. */
const SIZES = [
  [93, 17],
  [500, 17],
  [2000, 40],
];
const TAPS = 40;
const ports = { newId: v4, nowMs: () => Date.now(), offsetMinutes: () => 0 };
const at = (list, share) => {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];
};

/** Ticks that the host of this machine gave to others while a program here could have run; 0 where it does not say. */
function stolenTicks() {
  const [line = ''] = existsSync('/proc/stat') ? readFileSync('/proc/stat', 'utf8').split('\n') : [];
  return Number(line.split(/\s+/)[8] ?? 0);
}
/** Taps that are tried at most until enough of them had the machine to themselves. */
const TRIED_AT_MOST = 6;

/** Another tablet, whose person inspects the same shower until it has so many entries. */
async function otherTablet() {
  const answer = await fetch(`${APP}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-careful-seam': '1' },
    body: JSON.stringify({ signIn: 'tomas', password: 'try-every-seam' }),
  });
  const cookie = answer.headers.get('set-cookie').split(';')[0];
  const { person } = await answer.json();
  const server = serverOver((path, init) => fetch(APP + path, { ...init, headers: { ...init.headers, cookie } }));
  const db = await openDatabase(v4());
  await syncOnce(db, person.id, { server, ports });
  const showerId = (await db.getAll('showers')).find((s) => s.row?.name === NAME).id;
  const { state } = await fold(db, await readBooks(db, 'en'), showerId);
  const laps = state.requirements.filter(
    (r) => r.stage.key === 'membrane' && r.check.kind === 'measured' && r.lengthMm > 100,
  );
  const reading = (k) => {
    const { stage, check, element, side, lengthMm } = laps[k % laps.length];
    const body = {
      stage: stage.key,
      check: check.id,
      place: { element, ...(side ? { side } : {}) },
      atMm: Math.round((lengthMm * ((k * 37) % 97)) / 97),
      valueMm: 60,
      typed: '60',
      instrument: 'tape',
    };
    return { showerId, kind: 'reading', body, person, geometryVersion: state.geometry.version };
  };
  let made = 0;
  return {
    showerId,
    async growTo(count) {
      for (;;) {
        const missing = count - (await entriesOf(db, showerId)).length;
        if (missing <= 0) return;
        const some = Array.from({ length: Math.min(missing, PUSH_AT_MOST) }, (_, k) => reading(made + k));
        made += some.length;
        await append(db, ports, some);
        await syncOnce(db, person.id, { server, ports });
      }
    },
    count: async () => (await entriesOf(db, showerId)).length,
  };
}

/** Script of the page so far, ms, by the clock of its own thread: what other programs of this machine take away is not the page's. */
async function scripted(cdp) {
  const { metrics } = await cdp.send('Performance.getMetrics');
  return metrics.find((m) => m.name === 'ScriptDuration').value * 1000;
}

/** One tap on the number of the first stop of the day, which opens its keys: ms of script and of wall clock until they stand drawn. */
async function tapOnTheDay(page, cdp) {
  await page.waitForTimeout(300);
  const before = await scripted(cdp);
  const wall = await page.evaluate(async () => {
    const row = document.querySelector('li[data-stop]');
    const start = performance.now();
    const drawn = new Promise((done) => {
      const watch = new MutationObserver(() => {
        watch.disconnect();
        requestAnimationFrame(() => done(performance.now() - start));
      });
      watch.observe(row, { subtree: true, childList: true });
    });
    row.querySelector('button').click();
    return drawn;
  });
  return { script: (await scripted(cdp)) - before, wall };
}

/** One tap on "Sound": ms of script and of wall clock until the list of what is missing and the map stand drawn. */
async function tap(page, cdp) {
  await page.locator('aside li button', { hasText: 'Corner: ' }).first().click();
  await page.getByRole('button', { name: /^Sound(, no picture)?$/ }).waitFor();
  await page.getByText('All entries sent').waitFor();
  await page.waitForTimeout(500);
  const before = await scripted(cdp);
  const wall = await page.evaluate(async () => {
    const key = [...document.querySelectorAll('button')].find((b) => /^Sound(, no picture)?$/.test(b.textContent));
    const map = document.querySelector('[data-testid=map]');
    const start = performance.now();
    const drawn = new Promise((done) => {
      const watch = new MutationObserver(() => {
        watch.disconnect();
        requestAnimationFrame(() => done(performance.now() - start));
      });
      watch.observe(map, { subtree: true, childList: true, attributes: true, characterData: true });
    });
    key.click();
    return drawn;
  });
  const script = (await scripted(cdp)) - before;
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Take back/ }).click();
  return { script, wall };
}

const other = await otherTablet();
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  baseURL: APP,
  serviceWorkers: 'block',
});
const page = await context.newPage();
const cdp = await context.newCDPSession(page);
await cdp.send('Performance.enable', { timeDomain: 'threadTicks' });
await page.goto('/sign-in');
await page.getByLabel('Sign-in name').fill('ines');
await page.getByLabel('Password').fill('try-every-seam');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByText(NAME).waitFor({ timeout: 60_000 });
await page.getByText('All entries sent').waitFor();

/** Taps of one kind until enough had the machine to themselves: medians and 95 % of script and wall clock, ms. */
async function timed(once, about) {
  // The first ones are compiled.
  for (let k = 0; k < 3; k += 1) await once(page, cdp);
  const counted = [];
  const disturbed = [];
  while (counted.length < TAPS && counted.length + disturbed.length < TAPS * TRIED_AT_MOST) {
    const before = stolenTicks();
    const taken = await once(page, cdp);
    // While the host gives the processor to others, the clock of a thread runs on.
    (stolenTicks() === before ? counted : disturbed).push(taken);
  }
  // Where it never had the machine to itself, what there is is told.
  if (counted.length < TAPS / 2) counted.push(...disturbed);
  const row = { ...about, of: counted.length, disturbed: disturbed.length };
  for (const what of ['script', 'wall'])
    row[what] = [0.5, 0.95].map((share) =>
      at(
        counted.map((t) => t[what]),
        share,
      ),
    );
  console.log(JSON.stringify(row));
  return row;
}

await page.locator('li[data-stop]').first().waitFor();
await page.waitForTimeout(7000);
const rows = [await timed(tapOnTheDay, { size: 'Day: the keys of a stop', goal: 17 })];
for (const [size, goal] of SIZES) {
  await other.growTo(size);
  await page.goto(`/showers/${other.showerId}?stage=membrane`);
  await page.getByTestId('map').waitFor();
  await page.waitForTimeout(7000);
  rows.push(await timed(tap, { size: await other.count(), goal }));
}
await browser.close();

const table = [
  '| the tap; entries of the shower | script, median | script, 95 % | goal | tap to map drawn, median | 95 % |',
  '|---|---|---|---|---|---|',
  ...rows.map(
    ({ size, goal, script, wall }) =>
      `| ${size} | ${script[0].toFixed(1)} ms | **${script[1].toFixed(1)} ms** | ${goal} ms | ${wall[0].toFixed(1)} ms | ${wall[1].toFixed(1)} ms |`,
  ),
].join('\n');
console.log(table);
writeSection(
  'The answer of a look, tap to map drawn',
  `Made by \`npm run bench\`: ${TAPS} looks in one shower, each answered with "Sound" in Chromium on this machine without a graphics card, while the tablet sends what it was told; by the clock of the page's own thread. Taps during which the host took the processor away are made again. Before this was worked on, measured by others on another machine: 34 ms in a shower of 93 entries, 84 at 500, 252 at 2,000.\n\n${table}`,
);
process.exitCode = rows.some(({ goal, script }) => script[1] > goal) ? 1 : 0;
