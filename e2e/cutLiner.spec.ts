import { closeDefect, expect, open, somePicture, stage, test } from './acting';

test('a cut liner, of which only its picture is asked, has its keys: a defect with a picture, redone, and sound again', async ({
  tablet: page,
}) => {
  const name = `Liner ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel(/^Method, /).selectOption({ label: 'Liner and two mortar beds' });
  await page.getByLabel('Inspection begins at').selectOption({ label: 'Membrane' });
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await stage(page, 'Membrane');
  await open(page, /^Floor/);
  const answers = page.getByRole('region', { name: 'Answer by looking' });
  const liner = page.getByRole('group', { name: /^Liner whole/ });
  await expect(liner).toBeVisible();
  for (const key of ['Does not apply', "Can't see", 'Defect'])
    await expect(answers.getByRole('button', { name: key, exact: true })).toBeEnabled();

  await answers.getByRole('button', { name: 'Defect', exact: true }).click();
  await expect(page.getByLabel('Kind')).toHaveValue('hole-tear');
  await page.getByRole('radio', { name: 'Stop', exact: true }).click();
  await page.getByLabel('What is wrong').fill('Cut by a knife, 2 in from the drain');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('cut.jpg'));
  await page.getByRole('button', { name: 'Keep this defect' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.locator('aside')).toContainText(/· Stop/);

  await page.getByRole('button', { name: 'Give it to a crew' }).click();
  await page.getByRole('button', { name: 'Was redone' }).click();
  await page.getByLabel('What was done').fill('Patch welded over it');
  await page.getByRole('button', { name: 'It was redone' }).click();
  await page.getByRole('button', { name: 'Look again' }).click();
  await closeDefect(page, 'workmanship');
  await expect(page.locator('aside').getByText(/· Stop/)).toHaveCount(0);

  // What was built again is shown anew.
  await expect(page.locator('aside ul').first()).toContainText(/Not looked at yet: Liner whole/);
  // What shows it is a picture, and not a word about where one is kept.
  await expect(liner.getByRole('textbox')).toHaveCount(0);
  await liner
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('patch.jpg'));
  await expect(page.locator('aside ul').first()).toContainText(/^Liner whole.*: sound/);
});

test('why something does not apply is kept by Enter, for one check alone', async ({ tablet: page }) => {
  const name = `Apply ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel('Inspection begins at').selectOption({ label: 'Membrane' });
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await stage(page, 'Membrane');
  await open(page, /^Foot of wall A/);
  await page.getByRole('button', { name: 'Does not apply' }).click();
  await page.getByLabel('What does not apply').selectOption({ label: 'Lap' });
  await page.getByLabel('Why it does not apply').fill('Kept membrane of the room');
  await page.getByLabel('Why it does not apply').press('Enter');
  await expect(page.getByLabel('Why it does not apply')).toHaveCount(0);
  await expect(page.locator('aside ul').first()).toContainText(/Lap: (does not apply|.*manager)/i);
  await expect(page.locator('aside ul').first()).toContainText(/Bedded.*: not looked at|Not looked at yet: Bedded/);
});
