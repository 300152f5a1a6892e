import {
  closeDefect,
  closeSheet,
  expect,
  inTheList,
  makeShower,
  open,
  signIn,
  stage,
  tabletOf,
  test,
  visit,
} from './acting';
import { accessible, accessibleInTheDark, fits, fitsWidth, smallTargets } from './soundness';

test('every screen fits 1280x800, keeps 48 px and meets WCAG 2.2 AA, light and dark', async ({ page }) => {
  const sheet = async () => {
    await accessible(page);
    await accessibleInTheDark(page);
    expect(await smallTargets(page)).toEqual([]);
  };
  const screen = async () => {
    await sheet();
    await fits(page);
  };
  await page.goto('/sign-in');
  await expect(page.getByLabel('Sign-in name')).toBeVisible();
  await screen();
  await signIn(page, 'ines');
  await screen();
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await screen();
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'A stretch' }).click();
  await screen();
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('button', { name: /picture, add/ }).click();
  await expect(page.getByAltText('Picture of the defect')).toBeVisible();
  await sheet();
  await closeSheet(page);
  await page.getByRole('link', { name: 'Record' }).click();
  await expect(page.getByRole('button', { name: 'Sign the record' })).toBeVisible();
  await screen();
  await visit(page, '/new');
  await expect(page.getByTestId('seam-total')).toBeVisible();
  await screen();
  await visit(page, '/');
  await page.getByRole('link', { name: /^9 garden/ }).click();
  await expect(page.getByTestId('flood-chart').locator('svg')).toBeVisible();
  await screen();
  for (const key of ['End the test', 'Read a mark']) {
    await page.getByRole('button', { name: key, exact: true }).click();
    await sheet();
    await closeSheet(page);
  }
  await visit(page, '/');
  await page.getByRole('link', { name: /^3C guest/ }).click();
  await expect(page.getByTestId('map')).toBeVisible();
  await visit(page, `${new URL(page.url()).pathname}/flood`);
  await expect(page.getByTestId('flood-plan')).toBeVisible();
  await screen();
});

test('on a phone every screen fits its width, meets WCAG 2.2 AA and keeps 48 px', async ({ tablet: page, browser }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const sound = async (on = page) => {
    await fitsWidth(on);
    expect(await smallTargets(on)).toEqual([]);
    await accessible(on);
  };
  const stranger = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await stranger.goto('/sign-in');
  await expect(stranger.getByLabel('Sign-in name')).toBeVisible();
  await sound(stranger);
  await stranger.close();
  await sound();
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await page.getByRole('combobox', { name: 'Stage' }).selectOption({ value: 'membrane' });
  await sound();
  await open(page, 'Foot of wall B');
  await sound();
  await page.getByRole('link', { name: 'Record' }).click();
  await sound();
  await visit(page, '/new');
  await expect(page.getByTestId('seam-total')).toBeVisible();
  await sound();
  await visit(page, '/');
  await page.getByRole('link', { name: /^9 garden/ }).click();
  await expect(page.getByTestId('flood-chart').locator('svg')).toBeVisible();
  await sound();
  for (const key of ['Logger file', 'Something happened', 'Temperatures', 'Look for moisture', 'Read a mark']) {
    await page.getByRole('button', { name: key, exact: true }).click();
    await sound();
    await closeSheet(page);
  }
});

test('a seam is answered in two taps, and taken back in one', async ({ tablet: page }) => {
  await inTheList(page, '3C guest').click();
  const holds = page.getByRole('button', { name: /^Hold: \d+/ });
  const before = await holds.textContent();
  await open(page, 'Corner: ');
  await page.getByRole('button', { name: /^Sound(?!.*with a picture)/ }).click();
  await closeSheet(page);
  await expect(holds).not.toHaveText(before!);
  await page.getByRole('button', { name: /^Take back/ }).click();
  await expect(holds).toHaveText(before!);
});

test('the keyboard walks the map, digits begin a reading, Enter keeps it', async ({ tablet: page }) => {
  await inTheList(page, '3C guest').click();
  await page.getByTestId('map').focus();
  await page.keyboard.press('ArrowRight');
  const first = await page.locator('aside h2').textContent();
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('aside h2')).not.toHaveText(first!);
  await closeSheet(page);
  await open(page, 'Walls ');
  await expect(page.getByLabel('Value', { exact: true })).toBeVisible();
  await page.getByTestId('map').focus();
  await page.keyboard.type('2 1/4');
  await expect(page.getByLabel('Value', { exact: true })).toHaveValue('2 1/4');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 reading so far', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: /^Take back: 2 1\/4 in/ }).click();
  await page.getByTestId('map').focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('arrows walk along the seams');
});

test('a tap on the map chooses the seam under it', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^3B hall/ }).click();
  const seam = page.locator('[data-seam^="sheet-lap"]').first();
  // The map settles into its room first.
  let box = (await seam.boundingBox())!;
  await expect(async () => {
    const before = box;
    box = (await seam.boundingBox())!;
    expect(box).toEqual(before);
  }).toPass();
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2 + 6);
  await expect(page.locator('aside h2')).toContainText('Sheet lap');
  // Enlarged it still chooses what lies under the finger; folded the same choice is lit, and another one can be made.
  await page.getByRole('button', { name: 'Larger' }).click();
  const larger = (await seam.boundingBox())!;
  expect(larger.width).toBeGreaterThan(box.width * 1.3);
  await page.getByRole('button', { name: 'Whole' }).click();
  await page.getByRole('button', { name: 'Fold' }).click();
  const folded = (await page.getByTestId('folded').boundingBox())!;
  await page.mouse.click(folded.x + folded.width / 2, folded.y + folded.height * 0.82);
  await expect(page.locator('aside h2')).not.toContainText('Sheet lap');
  await page.getByRole('button', { name: 'Fold' }).click();
  await expect(page.getByTestId('folded')).toHaveCount(0);
});

test('bad lengths are told beside their field and nothing typed is lost', async ({ tablet: page }) => {
  await visit(page, '/new');
  await page.getByLabel('Name on site').fill('Kept name');
  for (const [label, text, message] of [
    ['Width', '5 feet and a bit', "can't be read as a length"],
    ['Width', '-36', 'is negative'],
    ['Width', '2', 'At least 23 5/8 in'],
    ['Width', '900', 'At most'],
    ['Drain from left', '70', 'does not lie inside the floor'],
    ['Board joint at', '120', 'outside its wall'],
    ['Curb over drain', '1/4', 'not higher than the floor'],
  ] as const) {
    await page.getByRole('tab', { name: label === 'Board joint at' ? /Boards/ : /Room/ }).click();
    const field = page.getByLabel(label, { exact: true });
    const was = await field.inputValue();
    await field.fill(text);
    await expect(page.getByRole('alert').first()).toContainText(message);
    await expect(page.getByRole('button', { name: 'Make this shower' })).toBeDisabled();
    await expect(field).toHaveValue(text);
    await field.fill(was);
  }
  await expect(page.getByLabel('Name on site')).toHaveValue('Kept name');
  await expect(page.getByRole('button', { name: 'Make this shower' })).toBeEnabled();
});

test('the conflict of a level edge with an off-centre drain is told while drawing', async ({ tablet: page }) => {
  await visit(page, '/new');
  await expect(page.getByTestId('fall')).toContainText('Longest run 35 in');
  await page.getByLabel('Drain from left').fill('12');
  await expect(page.getByTestId('fall')).toContainText('A level edge does not work with this drain');
  await expect(page.getByTestId('fall')).toContainText('1.07 in per ft');
});

test('metric is one choice away, from the first screen, and no key shrinks by it', async ({ tablet: page }) => {
  await page.getByRole('button', { name: 'Ines Corrigan' }).click();
  await page.getByRole('radio', { name: 'Millimetres' }).click();
  await closeSheet(page);
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await open(page, 'Foot of wall B');
  await expect(page.getByText('1524 mm, measured from its left end')).toBeVisible();
  await expect(page.getByText('Hold: lap 48 mm at 356 mm', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'A stretch' }).click();
  expect(await smallTargets(page)).toEqual([]);
  await visit(page, '/new');
  await expect(page.getByTestId('seam-total')).toBeVisible();
  expect(await smallTargets(page)).toEqual([]);
});

test('dark is chosen in the settings and stays', async ({ tablet: page }) => {
  await page.getByRole('button', { name: 'Ines Corrigan' }).click();
  await page.getByRole('radio', { name: 'Cellar (dark)' }).click();
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await expect(page.getByRole('link', { name: /^3B hall/ })).toBeVisible();
  await accessible(page, 'colours');
});

test('a defect that was seen holds its check until it was redone and looked at again', async ({ tablet: page }) => {
  await inTheList(page, 'B7').click();
  await stage(page, 'Base');
  await open(page, 'Floor');
  await page.getByRole('button', { name: 'Defect', exact: true }).click();
  await page.getByLabel('Kind').selectOption({ label: 'Hollow under the base' });
  await page.getByRole('radio', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Keep this defect' }).click();
  await expect(page.getByText('Hold: Base bedded all over', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Give it to a crew' }).click();
  await page.getByRole('button', { name: 'Was redone' }).click();
  await page.getByLabel('What was done').fill('Base lifted and bedded again');
  await page.getByRole('button', { name: 'It was redone' }).click();
  await expect(page.getByText('Not looked at yet: Base bedded all over', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: /^Sound(?!.*with a picture)/ }).click();
  await page.getByRole('button', { name: 'Look again' }).click();
  await closeDefect(page);
  await expect(page.getByText('Hollow under the base · Stop')).toHaveCount(0);
  await expect(page.getByText('Base bedded all over: corner lifted, no hollow sound: sound.')).toBeVisible();
});

test('a file that is no picture is refused in words', async ({ tablet: page }) => {
  await page.getByRole('link', { name: /^3B hall/ }).click();
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('button', { name: /picture, add/ }).click();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'a.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') });
  await expect(page.getByRole('alert')).toContainText('no picture that can be read');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'a.jpg', mimeType: 'image/jpeg', buffer: Buffer.alloc(0) });
  await expect(page.getByRole('alert')).toContainText('empty');
});

test('a tablet whose clock is a day off is told so', async ({ browser }) => {
  const { context, page } = await tabletOf(browser, 'ines');
  await page.clock.install({ time: Date.now() + 26 * 3_600_000 });
  await page.goto('/');
  await inTheList(page, 'B7').click();
  await stage(page, 'Base');
  await open(page, 'Floor');
  await page.getByRole('button', { name: "Can't see" }).click();
  await expect(page.getByTestId('sync')).toContainText("clock is 26 h ahead of the server's");
  await context.close();
});

test('a crew lead sees the own crew and says work is done', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill('lucia');
  await page.getByLabel('Password').fill('try-every-seam');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('14 loft')).toBeVisible();
  await expect(page.getByRole('link', { name: /^3B hall/ })).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Crew Otter' })).toBeVisible();
  await inTheList(page, 'B7').click();
  await page.getByRole('combobox', { name: /^Stage/ }).selectOption({ label: 'Boards · open' });
  await page.getByRole('button', { name: 'Say it is done' }).click();
  await page.getByLabel('Batch').fill('B-77');
  await page.getByRole('button', { name: 'Done: Boards' }).click();
  await expect(page.getByText(/^A look was asked for/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Sound(?!.*with a picture)/ })).toHaveCount(0);
});

test('a shower is called otherwise and put to another job; what it was called stays in its record', async ({
  tablet: page,
}) => {
  const [before, after] = [`Wrong name ${Date.now()}`, `Right name ${Date.now()}`];
  await makeShower(page, before, { width: '24', depth: '24', beginsAt: 'membrane' });
  await page.getByRole('link', { name: 'Dimensions' }).click();
  await page.getByRole('button', { name: 'Name, job' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByLabel('Name on site').fill('3B hall');
  await sheet.getByLabel('Job', { exact: true }).fill('Larkspur House');
  await sheet.getByRole('button', { name: 'Call it so' }).click();
  await expect(sheet.getByRole('alert')).toContainText('is there already in Larkspur House');
  await sheet.getByLabel('Name on site').fill(after);
  await sheet.getByRole('button', { name: 'Call it so' }).click();
  await expect(sheet).toHaveCount(0);
  await page.goto('/');
  await expect(page.getByText(after)).toBeVisible();
  await expect(page.getByText(before)).toHaveCount(0);
  await page.getByText(after).click();
  await expect(page.getByRole('heading', { name: after })).toContainText('Larkspur House');
});
