import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { expect, inTheList, makeShower, open, read, signIn, stage, test, usedTablet } from './acting';

test('without a signal the application opens, takes entries and pictures, and sends them by itself later', async ({
  browser,
}) => {
  const { context, page } = await usedTablet(browser, 'ines');
  const name = `Cellar ${Date.now()}`;
  await makeShower(page, name);
  await expect(page.getByText('All entries sent')).toBeVisible();
  const dimensions = page.getByRole('link', { name: 'Dimensions' });
  const [at, leak] = [await dimensions.boundingBox(), await page.getByRole('link', { name: 'Leak' }).boundingBox()];
  await context.setOffline(true);
  await page.reload();
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'on wall B' }).click();
  await read(page, '1 3/4', '20');
  await page.getByRole('button', { name: 'Picture and kind' }).click();
  const large = await sharp({
    create: {
      width: 4200,
      height: 3200,
      channels: 3,
      background: '#777',
      noise: { type: 'gaussian', mean: 128, sigma: 60 },
    },
  })
    .png({ compressionLevel: 0 })
    .toFile(test.info().outputPath('large.png'));
  expect(large.size).toBeGreaterThan(40_000_000);
  await page.locator('input[type=file]').first().setInputFiles(test.info().outputPath('large.png'));
  await expect(page.getByAltText('Picture of the defect')).toBeVisible();
  await page.getByRole('button', { name: 'Keep this defect' }).click();
  // Kept is what the tablet says is kept.
  await expect(page.getByTestId('sync')).toContainText('2 entries wait');
  // Whatever it says there, no key moves from under a finger.
  expect(await dimensions.boundingBox()).toEqual(at);
  expect(await page.getByRole('link', { name: 'Leak' }).boundingBox()).toEqual(leak);

  // The tablet is switched off and on again in the cellar.
  await page.close();
  const again = await context.newPage();
  await again.goto('/');
  await expect(again.getByText('2 entries wait on this tablet', { exact: false })).toBeVisible();
  await inTheList(again, name).click();
  await stage(again, 'Membrane');
  await open(again, 'Foot of wall B');
  await expect(again.getByText('Hold: lap 1 3/4 in at 20 in')).toBeVisible();
  await again.getByRole('button', { name: 'Give it to a crew' }).click();
  await expect(again.getByAltText('Picture of the defect')).toBeVisible();
  await again.getByRole('button', { name: 'Close' }).click();
  await context.setOffline(false);
  await expect(again.getByTestId('sync')).toHaveText('All entries sent');
  await context.close();
});

test('a sign-in that ended without a signal never stops recording; its entries go out after signing in again', async ({
  browser,
}) => {
  const { context, page } = await usedTablet(browser, 'ines');
  const name = `Ended ${Date.now()}`;
  await makeShower(page, name);
  await expect(page.getByText('All entries sent')).toBeVisible();
  await context.clearCookies();
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await read(page, '2 1/4', '10');
  await expect(page.getByText('Signed out: sign in to send')).toBeVisible();
  await read(page, '2 3/8', '30');
  await expect(page.getByText('2 entries wait on this tablet')).toBeVisible();
  await page.getByRole('link', { name: 'Signed out: sign in to send' }).click();
  await signIn(page, 'ines');
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');
  await context.close();
});

test('what somebody wrote who was disabled meanwhile waits for a manager, who hands it in', async ({
  browser,
  office,
}) => {
  const { context, page } = await usedTablet(browser, 'tomas');
  await makeShower(page, `Disabled ${Date.now()}`);
  await expect(page.getByText('All entries sent')).toBeVisible();
  await context.setOffline(true);
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: "Can't see" }).click();
  await expect(page.getByText('1 entry waits on this tablet')).toBeVisible();

  await office.goto('/office/people');
  const tomas = office.getByRole('row', { name: /Tomas Ekwall/ });
  await tomas.getByRole('button', { name: 'Disable' }).click();
  await expect(tomas.getByText(/^Disabled/)).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText('Signed out: sign in to send')).toBeVisible();
  await signIn(page, 'maren');
  await page.getByRole('button', { name: 'Hand them in as manager' }).click();
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');
  await tomas.getByRole('button', { name: 'Let in again' }).click();
  await office.goto('/office/audit');
  await expect(office.getByText('1 entries of Tomas Ekwall').first()).toBeVisible();
  await context.close();
});

test('a backup made in the office is put in force again, and tablets send what it lacks', async ({
  browser,
  office: page,
}) => {
  const { context, page: tablet } = await usedTablet(browser, 'ines');
  await page.goto('/office/firm');
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Make a backup' }).click();
  const backup = readFileSync((await (await downloading).path())!);
  const name = `After the backup ${Date.now()}`;
  await makeShower(tablet, name);
  await expect(tablet.getByText('All entries sent')).toBeVisible();
  const restore = async (buffer: Buffer) => {
    await page
      .locator('input[type=file][accept*=tar]')
      .setInputFiles({ name: 'backup.tar', mimeType: 'application/x-tar', buffer });
    await page.getByLabel('Type "restore" to go on').fill('restore');
    await page.getByRole('button', { name: 'Check it and put it in force' }).click();
  };
  await restore(backup.subarray(0, 9000));
  await expect(page.getByRole('alert')).toContainText('Nothing was changed');
  await restore(backup);
  await expect(page.getByRole('status')).toContainText('every one checked');
  await expect(tablet.getByText('The server was restored from a backup.', { exact: false })).toBeVisible();
  await expect(tablet.getByRole('heading', { name })).toBeVisible();
  const { showers } = await (await page.request.get('/api/showers')).json();
  expect(showers.map((s: { name: string }) => s.name)).toContain(name);
  await context.close();
});

test('the screen locks against drops and opens when its key is held', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await page.getByRole('button', { name: 'Lock against drops' }).click();
  const lock = page.getByRole('dialog', { name: /^Locked/ });
  await page.mouse.click(300, 300);
  await page.getByRole('button', { name: 'Hold to unlock' }).click();
  await expect(lock).toBeVisible();
  const box = (await page.getByRole('button', { name: 'Hold to unlock' }).boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.down();
  await page.getByRole('button', { name: 'Let go' }).waitFor();
  await page.mouse.up();
  await expect(lock).toHaveCount(0);
  await expect(page.locator('aside h2')).toHaveText('Membrane');
});

test('for a left hand the keys lie on the left', async ({ tablet: page }) => {
  await page.getByRole('button', { name: 'Ines Corrigan' }).click();
  await page.getByRole('radio', { name: 'Left', exact: true }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: /^3B hall/ }).click();
  const [card, map] = [await page.locator('aside').boundingBox(), await page.getByTestId('map').boundingBox()];
  expect(card!.x).toBeLessThan(map!.x);
});
