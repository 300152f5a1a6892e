import { expect, makeShower, somePicture, stage, test } from './acting';
import { accessible, smallTargets } from './soundness';
import { printed } from './waterActing';

test('what the next layer hides is answered by its picture, or named as missing; pictures and notes stand in the record and its PDF', async ({
  tablet: page,
}) => {
  await makeShower(page, `Pictures ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'drain-rough-in' });
  await stage(page, 'Drain rough-in');
  // Two taps from anywhere: the key, and the camera.
  await page.getByRole('button', { name: 'Picture, note' }).click();
  const sheet = page.getByRole('dialog');
  await accessible(page);
  expect(await smallTargets(page)).toEqual([]);
  await sheet
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('room.jpg'));
  await page.getByLabel('Words').fill('Room before the base');
  await page.getByRole('button', { name: 'Keep 1 picture' }).click();
  await expect(sheet).toHaveCount(0);
  const strip = page.getByTestId('pictures');
  await expect(strip.getByRole('button')).toHaveCount(1);
  await strip.getByRole('button').click();
  await expect(sheet).toContainText('Room before the base');
  await page.getByRole('button', { name: 'Was taken by mistake' }).click();
  await expect(sheet).toHaveCount(0);
  await expect(strip).toHaveCount(0);

  // The pipe is hidden by the next layer: named before the release until its look was answered by a picture.
  await expect(page.getByTestId('pictures-missing')).toContainText('No picture yet of: Pipe cut to height');
  await page.getByRole('button', { name: 'Walk it' }).click();
  const walk = page.getByTestId('walk');
  for (let k = 0; k < 30 && (await walk.locator('label.key-main').count()) === 0; k += 1) {
    await walk.getByRole('button', { name: 'Skip', exact: true }).click();
    await expect(walk.locator('[aria-disabled=true]')).toHaveCount(0);
  }
  await walk
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('pipe.jpg'));
  await expect(page.getByRole('button', { name: /^Take back: the last look/ })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByTestId('pictures-missing')).toHaveCount(0);
  await expect(strip.getByRole('button')).toHaveCount(1);
  await page.getByRole('button', { name: 'Picture, note' }).click();
  await page.getByLabel('Words').fill('Plumber comes on Friday');
  await page.getByRole('button', { name: 'Keep the note' }).click();
  await expect(sheet).toHaveCount(0);

  const text = await printed(page);
  expect(text).toContain('Pictures of what was sound');
  expect(text).toContain('Plumber comes on Friday');
  await expect(page.getByTestId('record-pictures').getByRole('button')).toHaveCount(1);
});
