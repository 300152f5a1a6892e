import { expect, finishStage, open, stage, test } from './acting';
import { prepareDry } from './waterActing';

/** The first stages of the sealant-jointed board with values that keep each of its limits. The whole ladder is climbed in core's tests. */
const STAGES: [string, string | [RegExp, string][]][] = [
  ['Drain rough-in', '1/8'],
  [
    'Base',
    [
      [/Gap round the pan/, '1/8'],
      [/Drop under a 24 in level/, '3/4'],
    ],
  ],
];

test('a sealant-board shower is begun by its own rules, counts its fasteners, and waits for no mortar before the water', async ({
  tablet: page,
}) => {
  const name = `Board ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByLabel('Width', { exact: true }).fill('36');
  await page.getByLabel('Depth').fill('36');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel(/^Method, Rule book/).selectOption({ label: 'Sealant-jointed foam board' });
  await page.getByLabel('Inspection begins at').selectOption({ label: 'Drain rough-in' });
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await stage(page, 'Boards');
  await open(page, /^Wall A(?![a-z])/);
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
  await prepareDry(page);
  await page.getByRole('radio', { name: 'Marks by hand' }).click();
  await page.getByRole('button', { name: 'The water is in: start now' }).click();
  // The line is marked once the water has settled: nothing is read before.
  await expect(page.getByRole('button', { name: 'The line is marked' })).toBeDisabled();
});
