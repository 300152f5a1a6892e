import { expect, makeShower, somePicture, test } from './acting';
import { accessible, accessibleInTheDark, fits, smallTargets } from './soundness';
import { printed } from './waterActing';

test('a shower comes out part by part: cautions first, what broke coming out is no cause, a pictured fault is, and the record tells all of it', async ({
  tablet: page,
}) => {
  await makeShower(page, `Strip ${Date.now()}`);
  await page.getByRole('link', { name: 'Leak', exact: true }).click();
  await page.getByLabel(/^What was told/).fill('The floor never dries');
  await page.getByRole('radio', { name: 'Only inside' }).click();
  await page.getByRole('radio', { name: 'After long showers' }).click();
  await page.getByRole('radio', { name: 'Damp' }).click();
  await page.getByRole('button', { name: 'Floor stays dark' }).click();
  await page.getByRole('button', { name: 'Take the call' }).click();

  // The floor over days: hours and look are asked before the picture, and what it shows is said.
  const floor = page.getByTestId('floor-watch');
  await floor.getByRole('button', { name: 'Picture of the floor' }).click();
  await expect(floor.getByRole('alert')).toContainText('hours since the last shower');
  for (const [hours, look] of [
    ['6', 'dark'],
    ['30', 'patchy'],
  ] as const) {
    await floor.getByLabel('Hours since the last shower').fill(hours);
    await floor.getByRole('radio', { name: look }).click();
    await floor.locator('input[type=file]').setInputFiles(await somePicture(`${hours}.jpg`));
    await expect(floor.getByText(`${hours} h: ${look}`)).toBeVisible();
  }
  await expect(floor.getByRole('status')).toContainText('Still dark after 30 h');

  await page.getByRole('button', { name: 'Strip-out', exact: true }).click();
  const part = page.getByTestId('strip-part');
  const told = page.getByTestId('stripped').getByRole('listitem');
  // Nothing comes out before the cautions.
  await expect(part).toHaveAttribute('data-part', 'safety shower');
  await expect(part).toContainText('lead and asbestos');
  await expect(part.getByText('lead and asbestos')).toBeInViewport();
  await expect(page.getByRole('button', { name: 'All parts' })).toHaveCount(0);
  await page.getByRole('button', { name: 'All of it is done' }).click();
  await expect(told).toHaveCount(1);
  await accessible(page);
  await accessibleInTheDark(page);
  await fits(page);
  expect(await smallTargets(page)).toEqual([]);

  const choose = async (name: string) => {
    await page.getByRole('button', { name: 'All parts' }).click();
    await page.getByTestId('strip').getByRole('button', { name, exact: true }).click();
    await expect(part.getByRole('heading', { name })).toBeVisible();
  };
  // A board is told by how it breaks; the first guess may be wrong.
  await choose('Board, wall B');
  await part.getByRole('radio', { name: 'In layers' }).click();
  await expect(page.getByTestId('material')).toContainText('gypsum board or cellulose-fibre board');
  await part.getByRole('radio', { name: 'White' }).click();
  await expect(page.getByTestId('material')).toContainText('gypsum board. Both signs say so.');
  await part.getByRole('button', { name: 'Broke coming out' }).click();
  await expect(told).toHaveCount(2);

  // A fault without a picture from before it was touched is told, and is no cause.
  await choose('Membrane, wall B');
  await part.getByRole('button', { name: 'At fault' }).click();
  await part.getByLabel('Where is it at fault?').selectOption({ label: 'Foot of wall B' });
  await part.getByRole('button', { name: 'Keep it: at fault' }).click();
  await expect(told.last()).toContainText('Not a cause: no picture from before it was touched.');

  // With one, and nothing under it out, it is the way, and stands first.
  await choose('Floor membrane or liner');
  await part
    .locator('input[type=file]')
    .first()
    .setInputFiles(await somePicture('cut.jpg'));
  await part.getByRole('button', { name: 'At fault' }).click();
  await part.getByLabel('Where is it at fault?').selectOption({ label: 'Foot of wall B' });
  await part.getByLabel('What was seen').fill('Lap never bonded');
  await part.getByRole('button', { name: 'Keep it: at fault' }).click();
  await expect(told.last()).toContainText('Lap never bonded');
  await expect(told.last()).not.toContainText('Not a cause');
  await expect(page.getByTestId('suspects').locator('li').first()).toContainText('Foot of wall B');

  // A trap that is narrow is replaced.
  await choose('Trap and its pipe');
  for (const which of ['Clogged?', 'Debris on its wall?'])
    await part.getByRole('radiogroup', { name: which }).getByRole('radio', { name: 'No' }).click();
  await expect(page.getByTestId('trap')).toContainText('Trap stays');
  await part.getByLabel('Pipe', { exact: true }).fill('1 1/2');
  await part.getByLabel('Pipe', { exact: true }).press('Enter');
  await expect(page.getByTestId('trap')).toContainText('narrower than 2 in');
  await part.getByRole('button', { name: 'Sound', exact: true }).click();
  await expect(told).toHaveCount(5);

  await page.getByRole('button', { name: 'Say what was found' }).click();
  await expect(page.getByRole('dialog').getByLabel('Found')).toHaveValue(/^floor-wall\|/);
  await page.keyboard.press('Escape');
  await expect(page.getByText('All entries sent')).toBeVisible();
  await page.getByRole('link', { name: 'Shower', exact: true }).click();
  const record = await printed(page);
  expect(record).toMatch(/Floor 30 h after the last shower: patchy/);
  expect(record).toMatch(/Floor membrane or liner: At fault/);
  expect(record).toMatch(/Trap is replaced: its pipe is narrower than 2 in/);
});
