import { readFileSync } from 'node:fs';
import { expect, makeShower, open, read, stage, test } from './acting';

test('dimensions change with what can’t be kept told before; showers of one type are offered its change', async ({
  tablet: page,
}) => {
  const name = `Type ${Date.now()}`;
  await makeShower(page, name);
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'on wall B' }).click();
  await read(page, '2 1/4', '6');

  // Two more of the type, each with a record of its own; a name that is taken is refused.
  await page.getByRole('link', { name: 'Dimensions' }).click();
  await expect(page.getByTestId('kept')).toContainText('1 look or reading keeps its place');
  await page.getByRole('link', { name: 'More like this' }).click();
  const names = page.getByLabel(/^Names on site/);
  await names.fill(`${name} b\n${name}`);
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('alert')).toContainText('is there already in Test house');
  await names.fill(`${name} b\n${name} c`);
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByText(`${name} c`)).toBeVisible();

  // A longer back wall: its foot was measured and does not fit any more; the rest does.
  await page.getByText(name, { exact: true }).click();
  await page.getByTestId('map').waitFor();
  await page.getByRole('link', { name: 'Dimensions' }).click();
  await page.getByLabel('Width', { exact: true }).fill('60 1/2');
  await expect(page.getByTestId('kept')).toContainText('1 look or reading keeps its place');
  await page.getByLabel('Width', { exact: true }).fill('64');
  await expect(page.getByTestId('kept')).toContainText('must be made again: Foot of wall B');
  await page.getByRole('button', { name: 'Keep these dimensions' }).click();
  await expect(page.getByText('64 in x 36 in')).toBeVisible();

  await page.getByRole('link', { name: 'Day' }).click();
  await page.getByText(`${name} b`).click();
  await expect(page.getByText('60 in x 36 in')).toBeVisible();
  await page.getByRole('button', { name: 'Type changed' }).click();
  await page.getByRole('button', { name: 'Take the new dimensions' }).click();
  await expect(page.getByText('64 in x 36 in')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Type changed' })).toHaveCount(0);
});

test('a drawing goes out as JSON, SVG and DXF, and comes in again; a broken file is named', async ({
  tablet: page,
}) => {
  await page.goto('/new');
  await page.getByRole('radio', { name: 'L-shape' }).click();
  await page.getByRole('button', { name: 'Files' }).click();
  const files: Record<string, string> = {};
  for (const [key, button] of [
    ['json', 'Dimensions as JSON'],
    ['svg', 'The shower laid open as SVG'],
    ['dxf', /DXF/],
  ] as const) {
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: button }).click();
    files[key] = readFileSync(await (await downloading).path(), 'utf8');
  }
  expect(files.svg).toContain('<svg');
  expect(files.dxf).toContain('wall-wall-outside');
  const input = page.locator('input[type=file][accept*=json]');
  const file = (text: string) => ({ name: 'room.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await input.setInputFiles(file(files.json!.replace('"footprint"', '"footprints"')));
  await expect(page.getByRole('alert')).toContainText('footprint');
  await input.setInputFiles(file(files.json!));
  await expect(page.getByText('The dimensions come from a file')).toBeVisible();
  await page.getByLabel('Name on site').fill(`From a file ${Date.now()}`);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByText('72 in x 60 in')).toBeVisible();
});
