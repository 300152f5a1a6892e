import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { finishStage } from './acting';
import { accessible, fits, smallTargets } from './soundness';
import { freePort, type Running, start, stop } from './starting';

let data = '';
test.describe.configure({ mode: 'serial' });
test.beforeAll(() => {
  data = mkdtempSync('/var/tmp/careful-seam-first-day-');
  chmodSync(data, 0o755);
});
/** What a test that failed left running is stopped all the same. */
const started: Running[] = [];
const begin = async (...args: Parameters<typeof start>): Promise<Running> => {
  const running = await start(...args);
  started.push(running);
  return running;
};
test.afterAll(async () => {
  for (const running of started) if (running.parent.exitCode === null) await stop(running);
  rmSync(data, { recursive: true, force: true });
});

const codeOf = (running: Running) => /with the code {2}(\S+)/.exec(running.said())![1]!;

/** A shower of three feet, begun at its base, and that stage released: what a firm does on its first day. */
async function releaseFirstStage(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill('Our first');
  await page.getByLabel('Job').fill('Own house');
  await page.getByLabel('Width', { exact: true }).fill('36');
  await page.getByLabel('Depth').fill('36');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('tab', { name: 'Method' }).click();
  // The method that the firm builds by was chosen already.
  await expect(page.getByLabel(/^Method, Rule book/).locator('option:checked')).toHaveText(
    'Sealant-jointed foam board',
  );
  await page.getByLabel('Inspection begins at').selectOption({ label: 'Drain rough-in' });
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name: 'Our first' })).toBeVisible();
  await finishStage(page, 'Drain rough-in', '1/8');
  await page.getByRole('button', { name: 'Release: Drain rough-in' }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
  await expect(page.getByText('All entries sent')).toBeVisible();
}

test('an empty folder becomes a firm: set-up page, first manager, first released stage', async ({ page }) => {
  const running = await begin(data, await freePort(), { DEMO: 'off' });
  await expect.poll(running.said).toContain('This installation is empty.');
  expect(running.said()).not.toContain('try-every-seam');
  await page.goto(`${running.address}/`);
  await page.waitForURL(/set-up/);
  await fits(page);
  await accessible(page);
  expect(await smallTargets(page)).toEqual([]);

  await page.getByLabel('Name of the firm').fill('North Tile');
  await page.getByLabel('Address').fill('1 Mill Road');
  await page.getByLabel('Time zone').fill('America/Chicago');
  await page.getByLabel('Sealant-jointed foam board').check();
  await page.getByLabel('Your name').fill('Mae Orr');
  await page.getByLabel('Sign-in name').fill('mae');
  await page.getByLabel(/^New password/).fill('a long password');
  await page.getByLabel('Crews, one in each line').fill('Crew North');
  const people = page.getByLabel(/^People, one in each line/);
  await people.fill('Ada Quill, inspector\nBo Marsh, crew lead, Crew Nrth');
  await expect(page.getByText('Line 2: a crew lead needs one of the crews above.')).toBeVisible();
  await people.fill('Ada Quill, inspector\nBo Marsh, crew lead, Crew North');
  await expect(page.getByTestId('read-people')).toContainText('Ada Quill');

  // A wrong code keeps what was typed, and says where the right one stands.
  await page.getByLabel(/^Code from/).fill('AAAAA-BBBBB-CCCCC-DDDDD');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not the code');
  await page.getByLabel(/^Code from/).fill(codeOf(running));
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Your firm is set up' })).toBeVisible();
  const links = await page.getByLabel('The link').inputValue();
  expect(links).toMatch(/Ada Quill \(ada\): http/);

  await page.getByRole('link', { name: 'Sign in' }).click();
  await page.getByLabel('Sign-in name').fill('mae');
  await page.getByLabel('Password').fill('a long password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('No shower yet')).toBeVisible();
  await releaseFirstStage(page);
  await stop(running);
});

test('the demo is asked for by npm start alone, never through a proxy, and one command takes it away', async () => {
  const port = await freePort();
  const folder = mkdtempSync('/var/tmp/careful-seam-demo-');
  chmodSync(folder, 0o755);
  const demo = await begin(folder, port);
  expect(demo.said()).toContain('try-every-seam');
  expect((await fetch(`${demo.address}/api/set-up`)).status).toBe(200);
  const proxied = await fetch(`${demo.address}/`, { headers: { 'x-forwarded-for': '10.1.2.3' } });
  expect([proxied.status, await proxied.text()]).toEqual([403, expect.stringContaining('real-firm')]);
  const command = (name: string, ...flags: string[]) =>
    execFileSync('node', ['tools/firstDay.mjs', name, ...flags], {
      encoding: 'utf8',
      env: { ...process.env, DATABASE_URL: '', CAREFUL_SEAM_DATA: folder },
    });
  // Nothing is taken from under somebody who works.
  expect(() => command('real-firm', '--yes')).toThrow();
  await stop(demo);
  await expect(begin(folder, port, { HOST: '0.0.0.0', DEMO: 'off' })).rejects.toThrow(/would let others in/);

  expect(command('real-firm', '--yes')).toContain('The demo firm is gone');
  const own = await begin(folder, port);
  await expect.poll(own.said).toContain('This installation is empty.');
  expect(own.said()).not.toContain('try-every-seam');
  expect(await (await fetch(`${own.address}/api/set-up`)).json()).toMatchObject({ needed: true });
  const again = command('first-manager');
  expect(again).toMatch(/with the code {2}([A-Z2-9]{5}-){3}[A-Z2-9]{5}/);
  // What is no demo is left alone.
  await stop(own);
  expect(command('real-firm', '--yes')).toContain('Nothing was changed');
  rmSync(folder, { recursive: true, force: true });
});
