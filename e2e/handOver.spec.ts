import { expect, makeShower, PASSWORD, test } from './acting';
import { accessible, smallTargets } from './soundness';

test('one stage of a shower is handed to another crew, whose lead sees it beside the own one', async ({
  office: page,
  browser,
}) => {
  const name = `Handed ${Date.now()}`;
  await makeShower(page, name, { crew: 'crew-heron' });
  await page.goto(`${page.url().split('?')[0]}/dimensions`);
  await page.getByRole('button', { name: 'Hand over' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByRole('button', { name: 'Give it to this crew' })).toBeDisabled();
  await sheet.getByLabel('What is handed over').selectOption({ label: 'Membrane' });
  await sheet.getByLabel('Crew').selectOption({ label: 'Crew Otter' });
  await accessible(page);
  expect(await smallTargets(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Give it to this crew' }).click();
  await expect(sheet).toHaveCount(0);
  await page.getByRole('button', { name: 'Hand over' }).click();
  await expect(sheet.getByLabel('What is handed over')).toContainText('Membrane (now Crew Otter)');
  await sheet.getByRole('button', { name: 'Close' }).click();
  for (const who of ['pavel', 'lucia']) {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const phone = await context.newPage();
    await phone.goto('/sign-in');
    await phone.getByLabel('Sign-in name').fill(who);
    await phone.getByLabel('Password').fill(PASSWORD);
    await phone.getByRole('button', { name: 'Sign in' }).click();
    await expect(phone.getByText(name)).toBeVisible();
    await context.close();
  }
});
