import { expect, open, stage, test } from './acting';
import { accessible } from './soundness';

test('a curb’s cut, a niche’s layout and a substrate’s readiness are worked out on site and kept in the record', async ({
  tablet: page,
}) => {
  const name = `Sums ${Date.now()}`;
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  await page.getByRole('tab', { name: /Niches/ }).click();
  await page.getByRole('button', { name: 'Add a niche' }).click();
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();

  // Dust is what everything would bond to: the step that is missing is named, and holds.
  await stage(page, 'Subfloor');
  await page.getByRole('button', { name: 'Ready?' }).click();
  const ready = page.getByRole('dialog');
  await ready.getByRole('radio', { name: 'Cement board' }).click();
  for (const step of ['Sound', 'Swept', 'Wiped with']) await ready.getByLabel(step).check();
  await expect(ready.getByTestId('ready')).toHaveText('Missing: Dampened, no standing water.');
  await ready.getByRole('button', { name: 'Keep: not ready' }).click();
  await expect(page.locator('aside')).toContainText('Wiped, dampened or primed');

  await page.getByRole('button', { name: 'Sums' }).click();
  const sums = page.getByRole('dialog');
  await sums.getByLabel('Gaps, parted by semicolons').fill('0; 1/16; 1/8; 0; 0');
  await expect(sums.getByTestId('sum')).toContainText('12 in: 1/8 in');
  await sums.getByRole('button', { name: 'Close' }).click();
  await stage(page, 'Drain rough-in');
  await page.getByRole('button', { name: 'Sums' }).click();
  await sums.getByRole('radio', { name: 'Flange level' }).click();
  await sums.getByLabel('Left over right').fill('-1/8');
  await sums.getByLabel('Front over back').fill('0');
  await expect(sums.getByTestId('sum')).toContainText('Raise it at the left by 1/8 in');
  await sums.getByRole('button', { name: 'Close' }).click();

  await stage(page, 'Curb');
  await open(page, /Curb . top/);
  await page.getByRole('button', { name: 'Work it out' }).click();
  const sum = page.getByRole('dialog');
  await sum.getByLabel('Distances between the walls').fill('48 1/4; 48x');
  await expect(sum.getByRole('alert')).toContainText('48x');
  await sum.getByLabel('Distances between the walls').fill('48 1/4; 48');
  await expect(sum.getByTestId('sum')).toContainText('Cut the curb to 47 3/4 in.');
  await sum.getByRole('radio', { name: 'in all' }).click();
  await expect(sum.getByTestId('sum')).toContainText('Cut the curb to 47 7/8 in.');
  await sum.getByRole('button', { name: 'Keep as a note' }).click();
  await expect(page.locator('aside')).toContainText('Cut the curb to 47 7/8 in.');
  await page.keyboard.press('Escape');

  await stage(page, 'Niche');
  await open(page, /niche/i);
  await page.getByRole('button', { name: 'Work it out' }).click();
  await sum.getByLabel('Sill wanted over the foot').fill('47');
  await sum.getByLabel('Height wanted').fill('24');
  await sum.getByLabel('Shelf wanted').fill('10');
  await expect(sum.getByTestId('sum')).toContainText('Sill at 48 1/2 in');
  await expect(sum.getByTestId('sum')).toContainText('2 courses high: 24 1/8 in');
  await accessible(page);
  await sum.getByRole('button', { name: 'Keep as a note' }).click();
  await expect(page.locator('aside')).toContainText('Sill at 48 1/2 in');
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');
  const id = /showers\/([^/?]+)/.exec(page.url())![1];
  const notes = async () => {
    const record = await (await page.request.get(`/api/showers/${id}/record.json`)).json();
    return record.notes.map((n: { words: string }) => n.words).join(' ');
  };
  await expect.poll(notes).toMatch(/47 7\/8 in.*Sill at 48 1\/2 in/);
});
