import { expect, test } from './acting';

test('a finished shower sleeps, is found by its name, and opens in the cellar too; a password is changed on the tablet', async ({
  page,
}) => {
  // What the server says of it: finished, and touched days ago.
  await page.route('**/api/sync', async (route) => {
    const answer = await route.fetch();
    const json = await answer.json();
    const old = new Date(Date.now() - 5 * 86_400_000).toISOString();
    // Between two sign-ins the answer is a refusal, and has no list.
    for (const s of json.showers ?? []) if (s.name === '14 loft') Object.assign(s, { isSigned: true, updatedAt: old });
    await route.fulfill({ response: answer, json });
  });
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill('maren');
  await page.getByLabel('Password').fill('try-every-seam');
  await page.getByRole('button', { name: 'Sign in' }).click();
  const more = page.getByRole('button', { name: /more on this tablet/ });
  await expect(more).toBeVisible();
  await expect(page.getByTestId('sync')).toContainText('All entries sent');
  await expect(page.getByRole('link', { name: /14 loft/ })).toHaveCount(0);
  await more.click();
  const asleep = page.getByRole('link', { name: '14 loft Tannery Row' });
  await expect(asleep).toBeVisible();
  await page.getByRole('button', { name: 'Find' }).click();
  await page.getByRole('searchbox').fill('14 lo');
  await expect(page.getByRole('dialog').getByText('14 loft')).toBeVisible();
  await page.getByRole('button', { name: 'Take Tannery Row along' }).click();
  await expect(page.getByText(/showers come to this tablet/)).toBeVisible();
  await page.keyboard.press('Escape');
  // No network: it is here, and wakes.
  await page.context().setOffline(true);
  await asleep.click();
  await expect(page.getByTestId('map')).toBeVisible();
  await page.context().setOffline(false);
  await page.goto('/');
  await page.getByRole('button', { name: 'Maren Oduya' }).click();
  const change = async (old: string, password: string) => {
    await page.getByRole('button', { name: 'Change my password' }).click();
    await page.getByLabel('Password in force').fill(old);
    await page.getByLabel(/New password/).fill(password);
    const answered = page.waitForResponse((answer) => answer.url().endsWith('/api/password/own'));
    await page.getByRole('button', { name: 'Keep the new password' }).click();
    await answered;
  };
  await change('not this one', 'a long new password');
  await expect(page.getByRole('alert')).toContainText('not the password in force');
  await page.getByLabel('Password in force').fill('try-every-seam');
  await page.getByRole('button', { name: 'Keep the new password' }).click();
  await expect(page.getByText('The password is changed.', { exact: false })).toBeVisible();
  await change('a long new password', 'try-every-seam');
  await expect(page.getByText('The password is changed.', { exact: false })).toBeVisible();
});
