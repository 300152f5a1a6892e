import { expect, type Page, test } from '@playwright/test';
import { open, signIn } from './acting';
import { accessible, fits, fitsWidth, smallTargets } from './soundness';

const OFFICE = ['approvals', 'jobs', 'people', 'links', 'firm', 'mail', 'audit'];

async function theme(page: Page, dark: boolean): Promise<void> {
  const preferences = JSON.stringify({ state: { theme: dark ? 'dark' : 'light' }, version: 0 });
  await page.addInitScript((text) => localStorage.setItem('careful-seam-preferences', text), preferences);
}

for (const dark of [false, true]) {
  test(`the office fits 1280x800, keeps 48 px and WCAG 2.2 AA, ${dark ? 'dark' : 'light'}`, async ({ page }) => {
    const sound = () => accessible(page, dark ? 'colours' : 'all');
    await theme(page, dark);
    await signIn(page, 'maren');
    // What differs in the dark is colour, and these three hold all of it.
    for (const name of dark ? ['approvals', 'people', 'firm'] : OFFICE) {
      await page.goto(`/office/${name}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForLoadState('networkidle');
      await fits(page);
      await sound();
      expect(await smallTargets(page), name).toEqual([]);
    }
    for (const key of dark ? ["Day's end"] : ["Day's end", 'Find', 'Maren Oduya']) {
      await page.goto('/');
      await page.getByRole('button', { name: key }).click();
      await sound();
      expect(await smallTargets(page), key).toEqual([]);
    }
    await page.goto('/');
    await page.getByText('3B hall').click();
    for (const key of dark ? [] : ['Steps', 'Kit']) {
      await page.getByRole('button', { name: key, exact: true }).click();
      await sound();
      expect(await smallTargets(page), key).toEqual([]);
      await page.keyboard.press('Escape');
    }
    await open(page, 'Foot of wall B');
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    await sound();
    await page.getByRole('button', { name: 'Give it to a crew' }).click();
    await sound();
    expect(await smallTargets(page)).toEqual([]);
  });
}

test("a crew's phone fits its width, keeps 48 px and WCAG 2.2 AA, in both languages", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  for (const language of ['en', 'es']) {
    await page.goto('/sign-in');
    await page.evaluate(
      (l) => localStorage.setItem('careful-seam-preferences', JSON.stringify({ state: { language: l }, version: 0 })),
      language,
    );
    await page.reload();
    await page.getByLabel(/Sign-in name|Nombre de entrada/).fill('pavel');
    await page.getByLabel(/Password|Contraseña/).fill('try-every-seam');
    await page.getByRole('button', { name: /Sign in|Entrar/ }).click();
    const sound = async () => {
      await fitsWidth(page);
      await accessible(page);
      expect(await smallTargets(page)).toEqual([]);
    };
    await page.getByText('3B hall').waitFor({ timeout: 30_000 });
    await sound();
    await page.getByText('3B hall').click();
    await page
      .getByRole('button', { name: /^(Answer|Responder)$/ })
      .first()
      .click();
    await sound();
    await page.getByRole('button', { name: /^(Say it is done|Decir que está hecha)$/ }).click();
    await sound();
    await page.keyboard.press('Escape');
    await page.goto('/');
    await page.getByRole('button', { name: 'Pavel Dunmore' }).click();
    await sound();
    await page.getByRole('button', { name: /^(Sign out|Salir)$/ }).click();
  }
});

test('a kit that is not complete becomes something to put right', async ({ page }) => {
  await signIn(page, 'ines');
  await page.getByText('1 wet corner').click();
  await page.getByRole('button', { name: 'Kit', exact: true }).click();
  const parts = page.locator('[role=dialog] li fieldset');
  for (let k = 0; k < 7; k += 1)
    await parts
      .nth(k)
      .getByRole('button', { name: k === 3 ? 'Missing' : 'There', exact: true })
      .click();
  await page.getByRole('button', { name: 'Keep: the kit is not complete' }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: /^Base/ }).click();
  await expect(page.locator('aside').getByText(/Part of the kit missing/)).toBeVisible();
});
