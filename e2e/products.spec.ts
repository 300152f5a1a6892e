import { expect, stage, test } from './acting';
import { accessible } from './soundness';

test('a product entered from its label sets the limits where it is used, and parts of two makers are told apart', async ({
  tablet: page,
  office,
}) => {
  const mark = Date.now();
  await office.goto('/office/rules');
  await office.getByRole('button', { name: /^Products/ }).click();
  const enter = async (name: string, maker: string, kind: string) => {
    await office.getByRole('button', { name: 'Enter a product' }).click();
    const form = office.getByRole('dialog');
    await form.getByLabel('Name of the product').fill(name);
    await form.getByRole('button', { name: 'Keep in the draft' }).click();
    await expect(form.getByRole('alert')).toHaveText(/Name the maker/);
    await form.getByLabel('Maker', { exact: true }).fill(maker);
    await form.getByLabel('Where the figures were read').fill('label, today');
    await form.getByLabel('What it is').selectOption({ label: kind });
    await form.getByLabel('Liquid-applied membrane').check();
    return form;
  };
  const film = await enter(`Film ${mark}`, 'Maker Q', 'Membrane');
  await film.getByLabel('Wet film of a coat (mil, or write mm) least').fill('22 mm');
  await film.getByRole('button', { name: 'Keep in the draft' }).click();
  await expect(film.getByRole('alert')).toContainText('check the unit');
  await film.getByLabel('Wet film of a coat (mil, or write mm) least').fill('22');
  await film.getByLabel('Coats at least').fill('3');
  await film
    .getByLabel(/solids/i)
    .first()
    .fill('550');
  await film.getByRole('button', { name: 'Keep in the draft' }).click();
  await expect(film.getByRole('alert')).toContainText('solids over 100 %');
  await film
    .getByLabel(/solids/i)
    .first()
    .fill('');
  await film.getByLabel('Its warranty asks').check();
  await accessible(office);
  await film.getByRole('button', { name: 'Keep in the draft' }).click();
  const primer = await enter(`Wash ${mark}`, 'Maker R', 'Primer');
  await primer.getByRole('button', { name: 'Keep in the draft' }).click();
  const publish = office.getByRole('button', { name: /^Publish version \d+: 2 changes/ });
  const version = /\d+/.exec((await publish.textContent())!)![0];
  await publish.click();
  await expect(office.getByRole('button', { name: 'Nothing changed' })).toBeVisible();

  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(`Two makers ${mark}`);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('tab', { name: 'Method' }).click();
  // The tablet hears of a new version with its next round.
  await page.getByLabel(`Method, Rule book ${version}`).selectOption({ label: 'Liquid-applied membrane' });
  await page.getByLabel('Inspection begins at').selectOption('membrane');
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name: `Two makers ${mark}` })).toBeVisible();
  await stage(page, 'Membrane');
  await page.getByRole('button', { name: 'Kit' }).click();
  const kit = page.getByRole('dialog');
  await expect(kit.getByRole('button', { name: 'There' }).first()).toBeVisible();
  for (const there of await kit.getByRole('button', { name: 'There' }).all()) await there.click();
  await kit.getByRole('button', { name: `Film ${mark}` }).click();
  await expect(kit.getByTestId('mixed')).toBeEmpty();
  await kit.getByRole('button', { name: `Wash ${mark}` }).click();
  await expect(kit.getByTestId('mixed')).toContainText('outside a warranty');
  await kit.getByRole('button', { name: 'Keep: the kit is not complete' }).click();
  await expect(kit).toHaveCount(0);
  // What is loose is something to put right, and the label's own figure now is the limit.
  await expect(page.locator('aside')).toContainText('Nobody has read a coat of it; 3 are asked');
  await page.getByRole('button', { name: 'Steps' }).click();
  await expect(page.getByRole('dialog')).toContainText(
    'Film by zone: coats, bucket, gauge (at least 22 mil wet a coat)',
  );
});
