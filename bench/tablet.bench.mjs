// npm run bench, second part: a tablet against the real application. Ratios within one run.
import 'fake-indexeddb/auto';
import { createServer } from 'node:http';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import { v4 } from 'uuid';
import { throttledProxy } from '../tools/throttle.mjs';
import { serverOver } from '../web/src/tablet/api.ts';
import { openDatabase } from '../web/src/tablet/database.ts';
import { append, entriesOf } from '../web/src/tablet/outbox.ts';
import { sendPictures } from '../web/src/tablet/pictures.ts';
import { syncOnce } from '../web/src/tablet/sync.ts';
import { writeSection } from './performanceDoc.ts';

const APP = process.env.BENCH_APPLICATION;
const RATE = 10_000_000;
const [ENTRIES, PICTURES] = [500, 60];
const STARTS = 9;
const ports = { newId: v4, nowMs: () => Date.now(), offsetMinutes: () => 0 };
const median = (times) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

async function timed(work) {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** A pretended uplink of somebody signed in, through an address. */
async function signedIn(address) {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-careful-seam': '1' },
    body: JSON.stringify({ signIn: 'ines', password: 'try-every-seam' }),
  });
  const cookie = answer.headers.get('set-cookie').split(';')[0];
  const { person } = await answer.json();
  const server = serverOver((path, init) => fetch(address + path, { ...init, headers: { ...init.headers, cookie } }));
  return { server, person };
}

async function fillTablet(person) {
  const db = await openDatabase(v4());
  const showerId = v4();
  const write = (kind, body) => ({ showerId, kind, body, person, geometryVersion: 0 });
  await append(db, ports, [
    write('shower-created', { name: 'Bench', job: 'Bench', crewId: 'crew-heron', timeZone: 'UTC' }),
    ...Array.from({ length: ENTRIES - 1 }, (_, k) => write('note', { words: `Note ${k} written in the cellar` })),
  ]);
  let bytes = (await entriesOf(db, showerId)).reduce((n, e) => n + e.text.length, 0);
  for (let k = 0; k < PICTURES; k += 1) {
    const noise = { type: 'gaussian', mean: 100 + k, sigma: 24 };
    const jpeg = await sharp({ create: { width: 1280, height: 960, channels: 3, background: '#777', noise } })
      .jpeg({ quality: 60 })
      .toBuffer();
    const blob = new Blob([jpeg], { type: 'image/jpeg' });
    await db.put('photos', { hash: sha256Hex(jpeg), blob, widthPx: 1280, heightPx: 960, sent: false, takenMs: k });
    bytes += jpeg.length;
  }
  return { db, bytes };
}

/** One plain upload of as many bytes through a proxy of the same rate. */
async function plainUpload(bytes) {
  const sink = createServer((req, res) => req.resume().on('end', () => res.end()));
  await new Promise((ready) => sink.listen(0, '127.0.0.1', ready));
  const proxy = await throttledProxy(new URL(`http://127.0.0.1:${sink.address().port}`), RATE);
  const time = await timed(async () =>
    (await fetch(proxy.address, { method: 'POST', body: Buffer.alloc(bytes, 1) })).text(),
  );
  proxy.stop();
  sink.close();
  return time;
}

async function waitingGoesOut() {
  const proxy = await throttledProxy(new URL(APP), RATE);
  const { server, person } = await signedIn(proxy.address);
  const { db, bytes } = await fillTablet(person);
  // The tablet knew the day's showers before it went into the cellar.
  const direct = await signedIn(APP);
  await syncOnce(db, 'nobody', { server: direct.server, ports });
  const mine = await timed(() => Promise.all([syncOnce(db, person.id, { server, ports }), sendPictures(db, server)]));
  const theirs = await plainUpload(bytes);
  proxy.stop();
  return {
    what: `${ENTRIES} entries and ${PICTURES} pictures (${(bytes / 1e6).toFixed(1)} MB) waiting, through 10 Mbit/s, against one plain upload of the same bytes`,
    mine,
    theirs,
    atMost: 1.5,
  };
}

/** The application opened anew without a network: with a shower, and with a shower's screen that has none. */
async function coldStarts() {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: APP });
  const page = await context.newPage();
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill('ines');
  await page.getByLabel('Password').fill('try-every-seam');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByText('3B hall').waitFor({ timeout: 60_000 });
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload();
  await page.getByText('3B hall').click();
  await page.getByTestId('map').waitFor();
  const full = new URL(page.url()).pathname;
  await context.setOffline(true);
  const [mine, theirs] = [[], []];
  const start = async (path, ready, times) => {
    const fresh = await context.newPage();
    times.push(
      await timed(async () => {
        await fresh.goto(path);
        await ready(fresh).waitFor();
      }),
    );
    await fresh.close();
  };
  for (let k = 0; k < STARTS; k += 1) {
    await start(full, (p) => p.getByTestId('map'), mine);
    // "Opening…" is a heading too: the screen stands when it says that the shower isn't there.
    await start('/showers/00000000-0000-4000-8000-000000000000', (p) => p.getByText(/is not on this tablet/), theirs);
  }
  await browser.close();
  return {
    what: 'cold start without a network to the map of a shower, against the same shell with an empty Shower screen',
    mine: median(mine),
    theirs: median(theirs),
    atMost: 1.5,
  };
}

const rows = [await waitingGoesOut(), await coldStarts()];
const table = [
  '| what | ms | reference ms | ratio | at most |',
  '|---|---|---|---|---|',
  ...rows.map(
    (r) =>
      `| ${r.what} | ${r.mine.toFixed(0)} | ${r.theirs.toFixed(0)} | **${(r.mine / r.theirs).toFixed(2)}** | ${r.atMost} |`,
  ),
].join('\n');
console.log(table);
writeSection('A tablet against the application', `Ratios within one run, made by \`npm run bench\`.\n\n${table}`);
process.exit(rows.some((r) => r.mine / r.theirs > r.atMost) ? 1 : 0);
