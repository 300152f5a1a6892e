import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { levelReadings, sendReadings } from '@careful-seam/instruments/levelDevice';
import { expect, type Page, test } from '@playwright/test';
import { inTheList, PASSWORD } from './acting';
import { end, launch } from './ownBrowser';
import { cutPower, freePort, start } from './starting';

/** Where the hole is, mm over the drain's rim: where the curb stands against wall A. */
const HOLE_MM = 60;

/** Signs in where the page stands on a server of its own. */
async function signInAt(page: Page, address: string, who: string): Promise<void> {
  await page.goto(`${address}/sign-in`);
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(inTheList(page, '3B hall')).toBeVisible();
}

/** Opens the instrument on the flood of a shower. */
async function live(page: Page, address: string, shower: string): Promise<void> {
  await page.goto(`${address}/showers/${shower}/flood`);
  await page.getByRole('button', { name: 'Live', exact: true }).click();
  await expect(page.getByRole('dialog', { name: 'An instrument that sends' })).toBeVisible();
}

test('a flood stops at its hole: the height is told within 2 mm and its seam among the first three, though browser and server are killed', async ({
  playwright,
}) => {
  const data = mkdtempSync(join(tmpdir(), 'seam-live-'));
  const profile = mkdtempSync(join(tmpdir(), 'seam-browser-'));
  const port = await freePort();
  let server = await start(data, port);
  const { address } = server;
  let running = await launch(profile);
  const ended = new AbortController();
  try {
    // The office gives the instrument its code.
    const office = await playwright.request.newContext({
      baseURL: address,
      extraHTTPHeaders: { 'x-careful-seam': '1' },
    });
    await office.post('/api/session', { data: { signIn: 'maren', password: PASSWORD } });
    const made = await (
      await office.post('/api/links', { data: { kind: 'device', label: 'Logger 7', days: 30 } })
    ).json();
    const { showers } = await (await office.get('/api/showers')).json();
    const shower = showers.find((s: { name: string }) => s.name === '2A ensuite').id as string;
    const record = await (await office.get(`/api/showers/${shower}/record.json`)).json();
    const startMs = Date.parse(record.floods.at(-1).startedAt);

    await signInAt(running.page, address, 'ines');
    await live(running.page, address, shower);
    await running.page.getByLabel('Which instrument?').selectOption({ label: 'Logger 7' });

    const hours = Math.floor((Date.now() - startMs) / 3_600_000);
    const readings = levelReadings({
      ...{ seed: 7, hours, everyMinutes: 5, startMm: 76.2, holeMm: HOLE_MM, leaks: 0.6 },
      ...{ evaporationMmPerHour: 0.09, scatterMm: 0.1, resolutionMm: 0.1 },
    });
    let sent = 0;
    const sending = sendReadings(readings, {
      to: `${address}${made.path}`,
      startMs,
      perPack: 12,
      everyMs: 250,
      againMs: 700,
      onSent: (n) => {
        sent = n;
      },
      signal: ended.signal,
    });
    // It is drawn as it comes; then the tablet dies, and a moment later the server with its database.
    await expect(running.page.getByTestId('live-chart')).toBeVisible();
    await expect.poll(() => sent).toBeGreaterThan(60);
    end(running.process);
    await expect.poll(() => sent).toBeGreaterThan(110);
    await cutPower(server, data);
    server = await start(data, port);
    await sending;
    expect(sent).toBe(readings.length);

    // All of it is there: the instrument is still chosen, and nothing is missing.
    running = await launch(profile);
    // A browser that was killed may have lost its cookie: what it keeps of its work it has.
    await signInAt(running.page, address, 'ines');
    await live(running.page, address, shower);
    const says = running.page.getByTestId('live-says');
    await expect(says).toContainText(`${readings.length} readings`);
    const height = running.page.getByTestId('leak-height');
    await expect(height).toContainText('It stops falling at');
    const mm = Number(/at ([\d.]+) mm/.exec((await height.textContent())!)![1]);
    console.log(`hole at ${HOLE_MM} mm, told ${mm} mm, of ${readings.length} readings`);
    expect(Math.abs(mm - HOLE_MM)).toBeLessThanOrEqual(2);
    const first = await running.page.getByTestId('at-height').locator('li').allTextContents();
    console.log(first.join(' | '));
    expect(first.slice(0, 3).join(' ')).toContain('Curb D against wall A');
    // Taken into the record, it is judged as a logger's file is.
    await running.page.getByRole('button', { name: `Take ${readings.length} readings into the record` }).click();
    await expect(running.page.getByTestId('flood-verdict')).toContainText(/Leaks|fail|leak/i);

    // A call that is open hears where the level settled: what lies there is suspected first.
    const { page } = running;
    await page.goto(`${address}/showers/${shower}/call`);
    await page.getByLabel(/^What was told/).fill('Damp below');
    for (const said of ['Only inside', 'After long showers', 'Damp'])
      await page.getByRole('radio', { name: said }).click();
    await page.getByRole('button', { name: 'Take the call' }).click();
    await expect(page.getByTestId('next-test')).toBeVisible();
    await live(page, address, shower);
    await page.getByRole('button', { name: 'Tell the call where it settled' }).click();
    await expect(page.getByTestId('tested')).toContainText(/its level settled between .+ and/);
    // What lies there is suspected first, as the live level named it.
    const named = new RegExp(first.map((place) => place.replace(/^[\d.\s%]+/, '').split(',')[0]!).join('|'));
    console.log(await page.getByTestId('suspects').locator('li').first().textContent());
    await expect(page.getByTestId('suspects').locator('li').first()).toContainText(named);
    await office.dispose();
  } finally {
    ended.abort();
    end(running.process);
    await cutPower(server, data);
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
    rmSync(data, { recursive: true, force: true, maxRetries: 5 });
  }
});
