import { closeSheet, expect, type Page, test } from './acting';

/** The keys that the help of the screen that is open names, step by step. */
async function helpOf(page: Page): Promise<string[][]> {
  await page.getByRole('button', { name: 'Help', exact: true }).click();
  const steps = page.getByTestId('help-steps').getByRole('listitem');
  await expect(steps.first()).toBeVisible();
  const keys = await steps.evaluateAll((items) =>
    items.map((item) => [...item.querySelectorAll('strong')].map((key) => key.textContent ?? '')),
  );
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  return keys;
}

/** Somebody who knows nothing but what the help says: only keys that it names are tapped, and values that the screen offers. */
test('the help alone leads a newcomer from the day to a first released stage', async ({ tablet: page }) => {
  const name = `Newcomer ${Date.now()}`;
  const day = await helpOf(page);
  expect(day.flat()).toContain('New shower');
  await page.getByRole('link', { name: day[1]![0]!, exact: true }).click();

  const made = await helpOf(page);
  const [nameField, jobField] = made[0]!;
  await page.getByLabel(nameField!, { exact: true }).fill(name);
  await page.getByLabel(jobField!, { exact: true }).fill('Test house');
  await page.getByRole('button', { name: made[2]![0]!, exact: true }).click();
  await page.getByRole('button', { name: made.at(-1)![0]!, exact: true }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();

  const shower = await helpOf(page);
  const [walkKey, soundKey, releaseKey] = [shower[1]![0]!, shower[3]![0]!, shower[5]![0]!];
  // The lowest stage is begun first: the stages are built from the bottom up.
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button').last().click();
  await page.getByRole('button', { name: walkKey, exact: true }).click();
  const walk = page.getByTestId('walk');
  for (let k = 0; k < 60; k += 1) {
    const release = walk.getByRole('button', { name: new RegExp(`^${releaseKey}: `) });
    if (await release.isVisible()) {
      await release.click();
      break;
    }
    const asks = await walk.getAttribute('data-asks');
    const values = walk.getByRole('group', { name: 'Values around the limit' }).getByRole('button', { name: /\w$/ });
    if (asks === 'look')
      await walk
        .getByText(new RegExp(`^(${soundKey}|All \\d+ sound|Sound, no picture)$`))
        .first()
        .click();
    else if ((await values.count()) > 0)
      await values.locator('xpath=self::*[not(contains(@aria-label, "outside"))]').first().click();
    else {
      await walk.getByRole('textbox').fill('Paper 12');
      await walk.getByRole('textbox').press('Enter');
    }
    await expect(walk.locator('[aria-disabled=true]')).toHaveCount(0);
  }
  // After a release the next stage begins by itself.
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('released');
});

test('a tour of a screen points at what is there, goes on by its keys and ends by Escape', async ({ tablet: page }) => {
  await page.getByRole('button', { name: 'Help', exact: true }).click();
  await page.getByRole('button', { name: 'Show me round' }).click();
  const tour = page.locator('.driver-popover');
  await expect(tour).toContainText('1 / 4');
  await tour.getByRole('button', { name: 'Next' }).click();
  await expect(tour).toContainText('2 / 4');
  await closeSheet(page);
  await expect(tour).toHaveCount(0);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('The day');
  await page.getByRole('button', { name: 'All words' }).click();
  await page.getByLabel('Find a word').fill('weep');
  await expect(page.getByRole('dialog').locator('dt')).toHaveText(['Liner', 'Weep holes']);
  await closeSheet(page);
});
