import { expect, makeShower, open, read, stage, tabletOf, test, usedTablet } from './acting';
import { accessible, accessibleInTheDark, smallTargets } from './soundness';
import { printed } from './waterActing';

test('a reading mistyped three days ago is corrected where it is shown: the defect that it raised goes, what it was stays', async ({
  browser,
}) => {
  test.slow();
  const { context, page } = await usedTablet(browser, 'ines', { hoursBehind: 72 });
  const name = `Mistyped ${Date.now()}`;
  await context.setOffline(true);
  await makeShower(page, name);
  const url = page.url().split('?')[0]!;
  await stage(page, 'Membrane');
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'on wall B' }).click();
  await read(page, '7/8');
  await expect(page.getByText(/^Short lap · /)).toBeVisible();
  await page.clock.fastForward(72 * 3_600_000);
  await context.setOffline(false);
  await page.goto(url);
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');

  await stage(page, 'Membrane');
  await page
    .getByRole('button', { name: /^Short lap/ })
    .first()
    .or(page.locator('aside li button', { hasText: 'Foot of wall B' }).first())
    .first()
    .click();
  await page.getByRole('button', { name: 'Was mistyped' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText(/7\/8 in at /)).toBeVisible();
  await accessible(page);
  await accessibleInTheDark(page);
  expect(await smallTargets(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Was mistyped' }).click();
  await sheet.getByLabel('Meant, in').fill('two');
  await sheet.getByRole('button', { name: 'Correct it' }).click();
  await expect(sheet.getByRole('alert')).toBeVisible();
  await sheet.getByLabel('Meant, in').fill('2 1/4');
  await sheet.getByRole('button', { name: 'Correct it' }).click();
  await expect(sheet.getByText(/2 1\/4 in at .*\(was first: .*7\/8 in at/)).toBeVisible();
  await sheet.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText(/^Short lap · /)).toHaveCount(0);
  await expect(page.getByTestId('sync')).toHaveText('All entries sent');

  // A stranger reads both in the record.
  const { corrected } = await (await page.request.get(`/api${new URL(url).pathname}/record.json`)).json();
  expect(corrected).toMatchObject([{ kind: 'reading', action: 'replace', check: 'lap', by: 'Ines Corrigan' }]);
  expect(corrected[0].nowMm).toBeCloseTo(57.15, 2);
  expect(await printed(page)).toMatch(/Corrected afterwards[\s\S]*first 7\/8 in, now 2 1\/4 in/);

  // Another inspector reads what it was, and can not change it.
  const other = await tabletOf(browser, 'tomas');
  await other.page.goto(url);
  await stage(other.page, 'Membrane');
  await open(other.page, 'Foot of wall B');
  await other.page.getByRole('button', { name: 'Was mistyped' }).click();
  await expect(other.page.getByRole('dialog').getByText('Ines Corrigan can correct it, or a manager.')).toBeVisible();
  await expect(other.page.getByRole('dialog').getByText(/was first: .*7\/8/)).toBeVisible();
  for (const c of [context, other.context]) await c.close();
});
