import { readFileSync } from 'node:fs';
import { expect, test } from './acting';

test('a manager takes a whole job out as a file and in again: nothing is doubled, and a changed file is refused', async ({
  office: page,
}) => {
  await page.goto('/office/firm');
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Quarry Steps: whole job as a file' }).click();
  const path = (await (await downloading).path())!;
  const input = page.locator('input[type=file][accept*=json]');
  await input.setInputFiles({ name: 'job.json', mimeType: 'application/json', buffer: readFileSync(path) });
  await expect(page.getByRole('status')).toContainText('1 showers read: 0 new entries and 0 new pictures taken in');
  const changed = readFileSync(path, 'utf8').replaceAll('1 wet corner', '1 dry corner');
  await input.setInputFiles({ name: 'job.json', mimeType: 'application/json', buffer: Buffer.from(changed) });
  await expect(page.getByRole('alert')).toContainText('was changed: its hash does not fit');
  await input.setInputFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"other"}'),
  });
  await expect(page.getByRole('alert')).toContainText('format');
});

test('the readings of a shower open as CSV, and the flood as a calendar file', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^9 garden/ }).click();
  const events = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Readings as calendar file' }).click();
  const calendar = readFileSync((await (await events).path())!, 'utf8');
  expect(calendar).toContain('BEGIN:VEVENT');
  expect(calendar).toContain('Flood\\, read: 9 garden');
  await page.getByRole('link', { name: 'Record' }).click();
  const readings = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Readings (CSV)' }).click();
  const lines = readFileSync((await (await readings).path())!, 'utf8')
    .trim()
    .split('\n');
  expect(lines.filter((l) => l.includes('level of the water')).length).toBe(148);
});
