import { expect, open, stage, test } from './acting';
import { accessible } from './soundness';

test('a neo-angle steam shower of two methods is drawn in, and a published rule is offered to what is open only', async ({
  tablet: page,
  office,
}) => {
  const name = `Steam ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('radio', { name: 'Neo-angle' }).click();
  await page.getByRole('tab', { name: /Niches/ }).click();
  await page.getByRole('radio', { name: 'Sloped' }).click();
  await page.getByRole('button', { name: 'Add a niche' }).click();
  await page.getByRole('button', { name: 'Add a niche' }).click();
  // The second one goes to a wall that has none; put on the first one's place it is refused beside its name.
  const second = page.getByRole('group', { name: 'Niche 2' });
  await expect(page.getByRole('alert')).toHaveCount(0);
  await second.getByLabel('Wall').selectOption('back');
  await expect(page.getByRole('alert')).toContainText('over each other');
  await second.getByLabel('Wall').selectOption('left');
  await page.getByRole('button', { name: 'Add a bench' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel('Floor and drain').selectOption({ label: 'Moulded pan with splash walls' });
  await expect(page.getByText('Two methods meet')).toBeVisible();
  await page.getByLabel('Inspection begins at').selectOption('base');
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await expect(page.getByText('Cement-bonded sheet + Moulded pan with splash walls')).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText(
    'Not inspected: Strip-out to Drain rough-in',
  );
  await stage(page, 'Membrane');
  await expect(page.locator('aside')).toContainText('Transition between two methods');

  // The transition is named, and stays held until a manager accepts it.
  await open(page, 'Foot of wall B');
  const detail = page.getByRole('group', { name: /Transition between two methods/ });
  await detail.getByRole('textbox').fill('Detail T-2, letter of both makers');
  await detail.getByRole('button', { name: 'Keep' }).click();
  await expect(page.locator('aside ul').first()).toContainText('a manager has not accepted it yet');

  // Where the trade disagrees the firm's own way stands, until another one was found.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Ways' }).click();
  await expect(page.getByRole('dialog')).toContainText('How corners are made');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');

  await office.goto('/office/rules');
  await office.getByRole('button', { name: /^10\. Membrane/ }).click();
  const height = office.getByLabel('Membrane above the drain: at least', { exact: true });
  await height.fill('nonsense');
  await expect(height).toHaveAttribute('aria-invalid', 'true');
  await height.fill('81');
  await office.getByLabel('Compare with…').selectOption({ index: 1 });
  await expect(office.getByTestId('compared')).toContainText('at least 70 in');
  await expect(office.getByTestId('compared')).toContainText('at least 81 in');
  await accessible(office);
  await office.getByRole('button', { name: /^Publish version/ }).click();
  const touched = office.getByTestId('touched');
  await expect(touched).toContainText(name);
  // Its membrane is released: it keeps the version that it was judged by.
  await expect(touched).not.toContainText('14 loft');

  await page.getByRole('button', { name: /^Version \d+: \d+ change/ }).click();
  await expect(page.getByRole('dialog')).toContainText('at least 81 in');
  await page.getByRole('button', { name: /^Take version/ }).click();
  await expect(page.getByRole('button', { name: /^Version \d+: \d+ change/ })).toHaveCount(0);
  await stage(page, 'Membrane');
  await expect(page.locator('aside')).toContainText('at least 81 in');
});
