import { expect, inTheList, makeShower, open, read, stage, tabletOf, test } from './acting';

test('two tablets, one without network, end in the same state', async ({ browser, tablet }) => {
  const first = { page: tablet };
  const second = await tabletOf(browser, 'tomas');
  const name = `Two ${Date.now()}`;
  await makeShower(first.page, name);
  await expect(first.page.getByText('All entries sent')).toBeVisible();
  await inTheList(second.page, name).click();
  await second.context.setOffline(true);

  for (const { page } of [first, second]) {
    await stage(page, 'Membrane');
    await open(page, 'Foot of wall B');
    await page.getByRole('button', { name: 'on wall B' }).click();
  }
  await read(second.page, '1 3/4', '20');
  await read(second.page, '2 1/2', '40');
  await expect(second.page.getByText(/2 entries wait on this tablet/)).toBeVisible();
  await expect(second.page.getByText('No connection: everything is kept here')).toBeVisible();
  await read(first.page, '2 3/8', '6');
  await expect(first.page.getByText('All entries sent')).toBeVisible();

  // Reloading is the service worker's matter; closing the card and coming back is not.
  await second.page.keyboard.press('Escape');
  await open(second.page, 'Foot of wall B');
  await second.context.setOffline(false);
  await expect(second.page.getByText('All entries sent')).toBeVisible();

  const hold = 'Hold: lap 1 3/4 in at 20 in from the left end; needs at least 2 in.';
  for (const { page } of [first, second]) {
    await expect(page.getByText(hold)).toBeVisible();
    await expect(page.getByRole('button', { name: 'on wall B · 3' })).toBeVisible();
  }
  const figures = await Promise.all([first, second].map(({ page }) => page.getByTestId('figures').textContent()));
  expect(figures[0]).toBe(figures[1]);
  await second.context.close();
});

test('what is typed survives closing the browser tab while the server is away', async ({ tablet: page }) => {
  const name = `Kept ${Date.now()}`;
  await makeShower(page, name);
  await expect(page.getByText('All entries sent')).toBeVisible();
  await page.route('**/api/showers/*/entries', (route) => route.abort());
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await read(page, '2 1/4', '10');
  await page.close();
  const again = await page.context().newPage();
  await again.goto('/');
  await inTheList(again, name).click();
  await expect(again.getByText('All entries sent')).toBeVisible();
  await stage(again, 'Membrane');
  await open(again, 'Foot of wall B');
  await expect(again.getByText('1 reading so far', { exact: false })).toBeVisible();
});

test('what is typed while a figure is being written is the next figure, and two taps write it once', async ({
  tablet: page,
}) => {
  await makeShower(page, `Quick ${Date.now()}`);
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  const pad = page.getByLabel('Value', { exact: true });
  await pad.fill('2 1/4');
  await pad.press('Enter');
  await page.keyboard.press('Enter');
  await page.keyboard.type('2 3/8');
  await expect(pad).toHaveValue('2 3/8');
  await expect(page.getByText('1 reading so far', { exact: false })).toBeVisible();
  await expect(pad).toHaveValue('2 3/8');
});
