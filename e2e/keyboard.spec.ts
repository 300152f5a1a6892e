import { closeSheet, expect, makeShower, type Page, stage, test } from './acting';
import { accessible } from './soundness';

const asks = (page: Page) => page.getByTestId('walk');

/** Presses a letter once its key takes it: right after an answer all keys rest for a moment. */
async function press(page: Page, letter: string): Promise<void> {
  await expect(
    page.locator(`[aria-keyshortcuts=${letter.toUpperCase()}]:not([aria-disabled=true])`).first(),
  ).toBeAttached();
  await page.keyboard.press(letter);
}

/** Presses a letter until the walk asks this; each time it goes on by one stop. */
async function until(page: Page, letter: string, what: string): Promise<void> {
  for (let k = 0; k < 60 && (await asks(page).getAttribute('data-asks')) !== what; k += 1) {
    const before = await asks(page).getAttribute('data-stop');
    await press(page, letter);
    await expect(asks(page)).not.toHaveAttribute('data-stop', before!);
  }
  await expect(asks(page)).toHaveAttribute('data-asks', what);
}

test('a walk is answered by letters alone: sound, not seen, a defect, next and back; none of them once they are off', async ({
  tablet: page,
}) => {
  await makeShower(page, `Letters ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await expect(page).toHaveTitle(/^Letters \d+ · Careful Seam$/);
  await stage(page, 'Membrane');
  // Its key is there once the stage is shown.
  await expect(page.getByRole('button', { name: 'Walk it' })).toBeVisible();
  await press(page, 'n');
  await expect(asks(page)).toBeVisible();
  const entries = () => page.getByTestId('sync').textContent();
  await until(page, 'n', 'look');

  // What is looked at is sound by one letter, and the walk goes on by itself.
  const stop = await asks(page).getAttribute('data-stop');
  await press(page, 's');
  await expect(asks(page)).not.toHaveAttribute('data-stop', stop!);
  await until(page, 'n', 'reading');
  const reading = (await asks(page).getAttribute('data-stop'))!;
  await press(page, 'n');
  await expect(asks(page)).not.toHaveAttribute('data-stop', reading);
  await press(page, 'b');
  await expect(asks(page)).toHaveAttribute('data-stop', reading);
  // Digits begin a reading; in its empty field a letter still answers.
  await page.keyboard.type('60');
  await page.keyboard.press('Enter');
  // One outside its limit stops the walk; letters go on from there too.
  await expect(asks(page)).toContainText('Hold: ');
  await press(page, 'n');
  await expect(asks(page)).not.toHaveAttribute('data-stop', reading);
  const unseen = (await asks(page).getAttribute('data-stop'))!;
  await press(page, 'v');
  await expect(asks(page)).not.toHaveAttribute('data-stop', unseen);
  await until(page, 'n', 'reading');
  await press(page, 'd');
  const sheet = page.getByRole('dialog');
  await expect(sheet).toContainText('What is wrong');
  // Under a sheet no letter answers what lies beneath it.
  const under = (await asks(page).getAttribute('data-stop'))!;
  await sheet.getByRole('button', { name: 'Fix', exact: true }).or(sheet.getByRole('radio').first()).first().focus();
  await page.keyboard.press('n');
  await closeSheet(page);
  await expect(asks(page)).toHaveAttribute('data-stop', under);

  const here = page.url();
  await page.goto('/');
  await page.getByRole('button', { name: 'Ines Corrigan' }).click();
  await page.getByRole('radiogroup', { name: 'Single keys' }).getByRole('radio', { name: 'Off' }).click();
  await closeSheet(page);
  await page.goto(here);
  await expect(asks(page)).toHaveAttribute('data-stop', under);
  const before = await entries();
  for (const letter of 'sdvnb') await page.keyboard.press(letter);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(asks(page)).toHaveAttribute('data-stop', under);
  expect(await entries()).toBe(before);
});

test('who walks the map by arrows is told each seam and how it stands', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await stage(page, 'Membrane');
  await page.getByTestId('map').focus();
  const told = page.getByTestId('map-told');
  let before = await told.textContent();
  for (const key of ['ArrowRight', 'ArrowDown', 'ArrowRight']) {
    await page.keyboard.press(key);
    await expect(told).toHaveText(/\w/);
    await expect(told).not.toHaveText(before ?? '');
    before = await told.textContent();
    // What is asked follows the walk.
    await expect
      .poll(async () => before?.includes((await page.locator('aside h2').textContent())!.split(' · ')[0]!))
      .toBe(true);
  }
});

test('in colours of one’s own a key that is chosen and a seam can be told; paper carries no keys', async ({ page }) => {
  const { signIn } = await import('./acting');
  await signIn(page, 'ines');
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await page.emulateMedia({ forcedColors: 'active' });
  const ink = await page.evaluate(() => {
    const probe = document.createElement('p');
    probe.style.color = 'CanvasText';
    document.body.append(probe);
    const { color } = getComputedStyle(probe);
    probe.remove();
    return color;
  });
  const stroke = page.getByTestId('map').locator('[data-line=measured], [data-line=seen]').first();
  await expect(stroke).toBeAttached();
  expect(await stroke.evaluate((e) => getComputedStyle(e).stroke)).toBe(ink);
  const chosen = page.getByRole('button', { pressed: true }).first();
  if ((await chosen.count()) > 0)
    expect(await chosen.evaluate((e) => getComputedStyle(e).backgroundColor)).not.toBe(
      await page.evaluate(() => getComputedStyle(document.body).backgroundColor),
    );
  await accessible(page);
  await page.emulateMedia({ forcedColors: 'none', media: 'print' });
  for (const key of await page.locator('.key').all()) await expect(key).toBeHidden();
  await expect(page.getByTestId('map')).toBeVisible();
  // Dark and light come from the device until one is chosen.
  await page.emulateMedia({ media: 'screen', colorScheme: 'dark' });
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
});
