import { type Page, test } from '@playwright/test';
import { open, signIn } from '../acting';

const FOLDER = 'docs/screenshots';

async function theme(page: Page, dark: boolean): Promise<void> {
  await page.evaluate(
    (d) =>
      localStorage.setItem(
        'careful-seam-preferences',
        JSON.stringify({ state: { unit: 'in', theme: d ? 'dark' : 'light', keys: true }, version: 0 }),
      ),
    dark,
  );
}

for (const dark of [false, true]) {
  const end = dark ? '-dark' : '';
  test(`main views ${dark ? 'dark' : 'light'}`, async ({ page }) => {
    const shoot = async (name: string) => {
      await page.mouse.move(640, 60);
      await page.waitForTimeout(400);
      await page.screenshot({ path: `${FOLDER}/${name}${end}.png` });
    };
    await page.goto('/sign-in');
    await theme(page, dark);
    await page.reload();
    await shoot('sign-in');
    await signIn(page, 'ines');
    await page.getByText('All entries sent').waitFor();
    await shoot('day');
    await page.getByText('3B hall').click();
    await shoot('shower-stage');
    await open(page, 'Foot of wall B');
    await shoot('shower-seam');
    await page.getByRole('button', { name: /picture, add/ }).click();
    await page.getByAltText('Picture of the defect').waitFor();
    await shoot('defect');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: 'Record' }).click();
    await shoot('record');
    await page.goto('/new');
    await page.getByTestId('seam-total').waitFor();
    await page.getByLabel('Drain from left').fill('12');
    await shoot('new-shower');
    await page.goto('/');
    await page.getByText('1 wet corner').click();
    await shoot('corner-covered');
  });
}
