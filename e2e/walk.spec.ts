import { expect, makeShower, open, type Page, stage, test } from './acting';
import { accessible, fits, smallTargets } from './soundness';

/** WCAG 2.2 AA, nothing under 48 px, and no page scroll. */
async function sound(page: Page): Promise<void> {
  await accessible(page);
  await fits(page);
  expect(await smallTargets(page)).toEqual([]);
}

/** Skips stops until one that asks this. */
async function skipTo(page: Page, asks: string): Promise<void> {
  const walk = page.getByTestId('walk');
  for (let k = 0; k < 80 && (await walk.getAttribute('data-asks')) !== asks; k += 1) {
    const before = await walk.getAttribute('data-stop');
    await walk.getByRole('button', { name: 'Skip', exact: true }).click();
    await expect(walk).not.toHaveAttribute('data-stop', before!);
  }
  await expect(walk).toHaveAttribute('data-asks', asks);
}

/** How many stops are left, as the card of the walk says. */
const left = async (page: Page) =>
  Number(/(\d+) stops? left/.exec((await page.getByTestId('walk-left').textContent()) ?? '')![1]);

test('a walk fits and is accessible at a reading, a look and its end; what was skipped is left, and a reload comes back to its stop', async ({
  tablet: page,
}) => {
  await makeShower(page, `Walk ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  await page.getByRole('button', { name: 'Walk it' }).click();
  const walk = page.getByTestId('walk');
  await expect(walk).toHaveAttribute('data-asks', 'look');
  await skipTo(page, 'reading');
  await sound(page);
  await skipTo(page, 'look');
  await sound(page);
  const stop = await walk.getAttribute('data-stop');
  await page.reload();
  await expect(walk).toHaveAttribute('data-stop', stop!);
  // One that is not as the rest is answered on its own card, and the walk is where it was.
  await walk.locator('[data-element]').first().click();
  await expect(page.getByRole('button', { name: 'Back to the walk' })).toBeVisible();
  await page.goBack();
  await expect(walk).toHaveAttribute('data-stop', stop!);
  await skipTo(page, 'end');
  await expect(walk).toContainText(/stops were left out/);
  await expect(page.getByRole('button', { name: /^Hold: / })).toBeDisabled();
  await sound(page);
  await walk.getByRole('button', { name: 'Walk what is left' }).click();
  await expect(walk).toHaveAttribute('data-asks', 'look');
});

test('two taps on a value keep one reading; one outside the limit stops the walk, and was mistyped', async ({
  tablet: page,
}) => {
  await makeShower(page, `Twice ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  await page.getByRole('button', { name: 'Walk it' }).click();
  const walk = page.getByTestId('walk');
  await skipTo(page, 'reading');
  const around = walk.getByRole('group', { name: 'Values around the limit' });
  // One reading of the wall's height is enough: the walk goes on to a lap, whose keys lie where the finger is.
  const before = await left(page);
  const height = await around
    .getByRole('button', { name: /\d in$/ })
    .first()
    .boundingBox();
  await page.mouse.dblclick(height!.x + height!.width / 2, height!.y + height!.height / 2);
  await expect.poll(() => left(page)).toBe(before - 1);
  await expect(around.locator('[aria-disabled=true]')).toHaveCount(0);
  await expect(walk).toContainText('Not measured yet');
  expect(await left(page)).toBe(before - 1);

  await around
    .getByRole('button', { name: /outside the limit/ })
    .first()
    .click();
  await expect(walk).toContainText(/Hold: .+ in/);
  await expect(page.getByTestId('walk-rest')).toHaveCount(0);
  await walk.getByRole('button', { name: 'Was mistyped' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await expect(walk).toHaveAttribute('data-asks', 'reading');
  await expect(around).toBeVisible();
});

test('a value without its space, or far from its limit, is asked about before it is kept', async ({ tablet: page }) => {
  await makeShower(page, `Doubt ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  const value = page.getByLabel('Value', { exact: true });
  await value.fill('225');
  await value.press('Enter');
  const doubt = page.getByTestId('doubt');
  await expect(doubt).toContainText('225 in is far from the limit');
  await expect(page.locator('aside')).not.toContainText('so far');
  await doubt.getByRole('button', { name: '2.25 in' }).click();
  await expect(page.locator('aside ul').first()).toContainText('1 reading so far');
  // Said again it is kept, as a defect that anybody sees.
  await value.fill('17/8');
  await value.press('Enter');
  await expect(doubt.getByRole('button', { name: '1 7/8 in', exact: true })).toBeVisible();
  await value.press('Enter');
  await expect(doubt).toHaveCount(0);
  await expect(page.locator('aside ul').first()).toContainText('2 readings so far');
});

test('the second tap of a finger skips nothing and answers nothing of the next stop', async ({ tablet: page }) => {
  await makeShower(page, `Finger ${Date.now()}`, { width: '24', depth: '24', beginsAt: 'membrane' });
  await stage(page, 'Membrane');
  await page.getByRole('button', { name: 'Walk it' }).click();
  const walk = page.getByTestId('walk');
  await skipTo(page, 'look');
  const before = await left(page);
  const sound = (await page.getByTestId('walk-sound').boundingBox())!;
  const [x, y] = [sound.x + sound.width / 2, sound.y + sound.height / 2];
  await page.mouse.dblclick(x, y);
  await expect(walk.locator('[aria-disabled=true]')).toHaveCount(0);
  expect(await left(page)).toBe(before - 1);
  await expect(page.getByRole('button', { name: /^Take back: the last look/ })).toBeVisible();
});
