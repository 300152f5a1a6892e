// Ends the four demo floods: runs after the tests that look at them while the water stands (files run in the order of their names).
import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { expect, test } from './acting';
import { endDry, openFlood, prepareDry, takeFile } from './waterActing';

const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });
const verdict = (page: Page) => page.getByTestId('flood-verdict');

async function toStage(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('link', { name: 'Shower', exact: true }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name }).click();
}

async function releaseToTile(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Release: Flood test' }).click();
  await expect(page.getByText('This stage is released.')).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /release to tile/ })
    .click();
  for (const part of ['Drain', 'Floor']) {
    await page.getByRole('complementary').getByRole('button', { name: part }).click();
    await page.getByRole('button', { name: 'Sound', exact: true }).click();
    await page.getByRole('button', { name: 'Stage', exact: true }).click();
  }
  await page.getByRole('button', { name: /^Release: Protection/ }).click();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('may begin');
}

async function printed(page: Page): Promise<string> {
  await page.getByRole('link', { name: 'Record' }).click();
  await expect(page.getByText('All entries sent')).toBeVisible();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Print (PDF)' }).click();
  return execFileSync('pdftotext', ['-layout', (await (await downloading).path())!, '-'])
    .toString()
    .replaceAll(/\s+/g, ' ');
}

test('evaporation only, from a logger file with its pan: passes, proves seams, releases to tile', async ({
  tablet: page,
}) => {
  await openFlood(page, '2A ensuite');
  await takeFile(page, '2a-ensuite-logger.csv', 'mm', 148);
  await expect(verdict(page)).toContainText('Tight');
  await expect(page.getByTestId('flood-chart').locator('svg')).toBeVisible();
  await endDry(page, 'Tight');
  await expect(page.getByTestId('proved')).toContainText('Proved by water:');
  await expect(page.getByTestId('proved')).toContainText('by readings: Lap');
  await toStage(page, /Flood test/);
  await expect(page.locator('[data-line=water]').first()).toBeAttached();
  await releaseToTile(page);
  const text = await printed(page);
  expect(text).toContain('23.4 gal (88.5 L), 195 lb');
  expect(text).toMatch(/Tight\. Beside what the air took, at most 0\.0\d in a day can have leaked/);
  expect(text).toMatch(/Net loss -?0\.0\d in a day; 95 % interval -?0\.0\d in to 0\.0\d in/);
  expect(text).toMatch(/Flood test: released by Ines Corrigan/);
  expect(text).toContain('Proved by water, below');
});

test('evaporation only, two marks: undecided holds until a manager accepts it', async ({
  tablet: page,
  office: manager,
}) => {
  await openFlood(page, '2B ensuite');
  await key(page, 'Read a mark').click();
  for (const water of ['water', 'pan']) {
    await page.getByLabel('Distance from the first mark').fill('1/8');
    await page.getByRole('button', { name: new RegExp(`^Keep 1/8: ${water}`, 'i') }).click();
  }
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(verdict(page)).toContainText('Not decided yet');
  await expect(verdict(page)).toContainText(
    'may lose anything from 0.00 in to 0.12 in a day. A pass must rule out 0.04 in',
  );
  await expect(verdict(page)).toContainText('Read with a finer gauge');
  await endDry(page, 'Not decided yet');
  await toStage(page, /Flood test/);
  await expect(page.getByRole('button', { name: 'Hold: 1 thing missing' })).toBeDisabled();
  await page
    .getByRole('complementary')
    .getByRole('button', { name: /whole shower/ })
    .click();
  await page.getByRole('button', { name: 'Ask a manager to accept' }).click();
  await page.getByLabel('Why it may be accepted').fill('Owner moves in; logger is on another job');
  await page.getByRole('button', { name: 'Ask a manager', exact: true }).click();
  await expect(page.getByTestId('deviation')).toContainText('Waits for a manager');
  const address = page.url();
  await expect(page.getByText('All entries sent')).toBeVisible();

  await manager.goto(address);
  await manager
    .getByRole('complementary')
    .getByRole('button', { name: /whole shower/ })
    .click();
  await manager.getByLabel('Why, in words for the record').fill('Looked at it together');
  await manager.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(manager.getByText('accepted by Maren Oduya')).toBeVisible();
  await expect(manager.getByText('All entries sent')).toBeVisible();

  await page.getByRole('button', { name: 'Stage', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Release: Flood test' })).toBeEnabled();
  await releaseToTile(page);
  const text = await printed(page);
  expect(text).toContain('Not decided yet. Beside what the air took');
  expect(text).toContain('Owner moves in; logger is on another job; accepted by Maren Oduya');
  expect(text).toContain('Looked at it together');
  expect(text).not.toContain('Proved by water, below');
});

test('a slow leak fails with litres and cups a day, opens a defect and holds the tile', async ({ tablet: page }) => {
  await openFlood(page, '9 garden');
  await expect(verdict(page)).toContainText('Leaks');
  await expect(verdict(page)).toContainText(/about 4\.\d L or (18|19|20) cups of water a day/);
  await endDry(page, 'Leaks');
  await toStage(page, /Flood test/);
  await expect(page.getByText('Hold: it loses water that the air did not take.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Hold:/ })).toBeDisabled();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('held below');
  const text = await printed(page);
  expect(text).toMatch(/Leaks\. It loses 0\.1\d in a day more than the air takes/);
  expect(text).toMatch(/lower bound for a fail 0\.(09|1\d) in/);
});

test('a refill in the middle is asked about; once told, the same file passes', async ({ tablet: page }) => {
  await openFlood(page, 'B9');
  await takeFile(page, 'b9-logger.csv', 'cm', 148);
  await expect(verdict(page)).toContainText('Not decided yet');
  await expect(verdict(page)).toContainText(/the level rose by 0\.\d+ in\. Did someone add water\?/);
  await key(page, 'Something happened').click();
  await key(page, 'Water added').click();
  await key(page, 'Keep').click();
  await expect(verdict(page)).toContainText('Tight');
  await endDry(page, 'Tight');
  await toStage(page, /Flood test/);
  await releaseToTile(page);
  const text = await printed(page);
  expect(text).toMatch(/Happened: Water added/);
});

test('bad input on the flood screen is named, and nothing is kept', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^B7/ }).click();
  await page.goto(`${page.url()}/flood`);
  await expect(page.getByTestId('flood-plan')).toContainText('even a tight shower will not pass');
  await page.getByRole('button', { name: 'Level logger' }).click();
  await expect(page.getByTestId('flood-plan')).toContainText('a tight shower can pass');
  await page.getByLabel('Water over the drain', { exact: true }).fill('7');
  await page.getByLabel('Water over the drain', { exact: true }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('would run over the curb');
  await page.getByRole('slider').focus();
  for (let k = 0; k < 20; k += 1) await page.keyboard.press('ArrowDown');
  await expect(page.getByLabel('Water over the drain', { exact: true })).toHaveValue('4 1/2');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await prepareDry(page);
  await page.getByRole('button', { name: 'Marks by hand' }).click();
  await page.getByRole('button', { name: 'The water is in: start now' }).click();

  await key(page, 'Read a mark').click();
  await page.getByLabel('Distance from the first mark').fill('75');
  await page.getByRole('button', { name: /^Keep 75/ }).click();
  await expect(page.getByRole('alert')).toContainText('deeper than any shower is filled');
  await key(page, 'Above the first mark').click();
  await page.getByLabel('Distance from the first mark').fill('1/4');
  await page.getByRole('button', { name: /^Keep 1\/4/ }).click();
  await expect(page.getByRole('alert')).toContainText('Was water added?');
  await page.getByRole('button', { name: 'No, let me correct the reading' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await key(page, 'Temperatures').click();
  await page.getByRole('button', { name: 'Keep these' }).click();
  await expect(page.getByRole('alert')).toContainText('all three needed');
  await page.getByRole('button', { name: 'Close' }).click();
  await key(page, 'Logger file').click();
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('hello') });
  await expect(page.getByRole('alert')).toContainText('no readings in it');
});
