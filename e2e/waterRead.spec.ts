import type { Page } from '@playwright/test';
import { expect, test } from './acting';
import { endDry, openFlood, prepareDry, printed, releaseToTile, takeFile, toStage, verdict } from './waterActing';

const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

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

  // The address names the place whose card is open: the manager meets the question at once.
  await manager.goto(address);
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

test('a refill in the middle is asked about; once told, the same file passes', async ({ tablet: page }) => {
  await openFlood(page, 'B9');
  await takeFile(page, 'b9-logger.csv', 'cm', 148);
  await expect(verdict(page)).toContainText('Not decided yet');
  await expect(verdict(page)).toContainText(/the level rose by 0\.\d+ in\. Did someone add water\?/);
  await key(page, 'Something happened').click();
  await page.getByRole('radio', { name: 'Water added' }).click();
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
  // A test begins as one that can pass; one that can not says what it takes, and takes it by a tap.
  const plan = page.getByTestId('flood-plan');
  await expect(plan).toContainText('a tight shower can pass');
  await page.getByRole('radio', { name: 'Marks by hand' }).click();
  await expect(plan).toContainText('even a tight shower will not pass');
  await page.getByRole('button', { name: /^Plan \d+ h$/ }).click();
  await expect(plan).toContainText('a tight shower can pass');
  await page.getByRole('radio', { name: 'Level logger' }).click();
  await page.getByLabel('Water over the drain', { exact: true }).fill('7');
  await page.getByLabel('Water over the drain', { exact: true }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('would run over the curb');
  await page.getByRole('slider').focus();
  for (let k = 0; k < 20; k += 1) await page.keyboard.press('ArrowDown');
  await expect(page.getByLabel('Water over the drain', { exact: true })).toHaveValue('4 1/2');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await prepareDry(page);
  await page.getByRole('radio', { name: 'Marks by hand' }).click();
  await page.getByRole('button', { name: 'The water is in: start now' }).click();

  await key(page, 'Read a mark').click();
  await page.getByLabel('Distance from the first mark').fill('75');
  await page.getByRole('button', { name: /^Keep 75/ }).click();
  await expect(page.getByRole('alert')).toContainText('deeper than any shower is filled');
  await page.getByRole('radio', { name: 'Above the first mark' }).click();
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
    .first()
    .setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('hello') });
  await expect(page.getByRole('alert')).toContainText('no readings in it');
});
