import { expect, test } from '@playwright/test';
import { finishStage, open, signIn, stage } from './acting';

/** Stages of the sealant-jointed board with values that keep each of its limits. */
const STAGES: [string, string | [RegExp, string][]][] = [
  ['Drain rough-in', '1/8'],
  [
    'Base',
    [
      [/Gap round the pan/, '1/8'],
      [/Drop under a 24 in level/, '3/4'],
    ],
  ],
  [
    'Boards',
    [
      [/Bead on the edge/, '1/2'],
      [/fastener/i, '12'],
    ],
  ],
  ['Penetrations', '1'],
  ['Curb', '6'],
  [
    'Seams and mesh',
    [
      [/Sealant spread/, '1 1/8'],
      [/Mesh ends/, '2 1/2'],
    ],
  ],
  ['Drain hub', '1'],
  ['Cure', '1'],
];

test('a sealant-board shower is climbed by its own rules, and may be flooded at once', async ({ page }) => {
  test.setTimeout(280_000);
  await signIn(page, 'ines');
  const name = `Board ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Method, Rule book 2').selectOption({ label: 'Sealant-jointed foam board' });
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByLabel('Width', { exact: true }).fill('36');
  await page.getByLabel('Depth').fill('36');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await stage(page, 'Boards');
  await open(page, 'Wall A');
  await expect(page.getByTestId('fasteners')).toContainText(
    'Count: 32 fasteners, 8 rows from 12 in up every 12 in, on 4 studs',
  );
  for (const [label, value] of STAGES) {
    await finishStage(page, label, value);
    await page.getByRole('button', { name: `Release: ${label}` }).click();
    await expect(page.getByText('This stage is released.')).toBeVisible();
  }
  await stage(page, 'Flood test');
  await page.getByRole('link', { name: 'Prepare the flood test' }).click();
  await expect(page.getByTestId('flood-figures')).toContainText('Would prove');
  await expect(page.getByText(/Too early/)).toHaveCount(0);
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await page.getByRole('button', { name: 'The water is in: start now' }).click();
  await expect(page.getByTestId('flood-verdict')).toContainText('Not decided yet');
});
