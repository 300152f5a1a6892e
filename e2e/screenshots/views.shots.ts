import { type Page, test } from '@playwright/test';
import { inTheList, open, PASSWORD, signIn, tapStain } from '../acting';
import { endDry, openFlood, takeFile } from '../waterActing';

const FOLDER = 'docs/screenshots';
/** Views that are shown in the light theme alone: there are fewer than twenty pictures. */
const LIGHT_ONLY = new Set([
  'day',
  'shower-seam',
  'defect',
  'record',
  'phone-seam',
  'flood',
  'survey',
  'steam-room',
  'film',
  'cure',
  'leak',
]);

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

/** The tight shower's flood, passed once, so that its record shows what water proved. */
async function passFlood(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: /^2A ensuite/ }).click();
  await page.waitForURL(/showers/);
  if (page.url().endsWith('/flood')) {
    await takeFile(page, '2a-ensuite-logger.csv', 'mm', 148);
    await endDry(page, 'Tight');
  }
}

/** A call on 3C guest, taken once, with what it is suspected to come from; and where its water could go. */
async function leaks(page: Page, dark: boolean, shoot: (name: string) => Promise<void>): Promise<void> {
  await page.goto('/');
  await inTheList(page, '3C guest').click();
  await page.getByTestId('map').waitFor();
  await page.getByRole('link', { name: 'Leak', exact: true }).click();
  if (!dark) {
    await page.getByLabel(/^What was told/).fill('A stain on the hall ceiling, larger after long showers');
    await tapStain(page, 60, -40);
    await page.getByRole('radio', { name: 'After long showers' }).click();
    await page.getByRole('radio', { name: 'Drops' }).click();
    await page.getByRole('button', { name: 'Take the call' }).click();
    await page.getByRole('button', { name: 'It shows water', exact: true }).click();
  }
  await page.getByTestId('suspects').waitFor();
  await shoot('leak');
  if (!dark) return;
  await page.getByRole('button', { name: "Water's way" }).click();
  await page.getByTestId('map').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.getByTestId('way-sides').waitFor();
  await shoot('water-way');
}

for (const dark of [false, true]) {
  test(`main views ${dark ? 'dark' : 'light'}`, async ({ page }) => {
    test.setTimeout(180_000);
    const shoot = async (name: string) => {
      if (dark && LIGHT_ONLY.has(name)) return;
      await page.mouse.move(640, 60);
      await page.waitForTimeout(500);
      await page.screenshot({ path: `${FOLDER}/${name}${dark ? '-dark' : ''}.png` });
    };
    await page.goto('/sign-in');
    await theme(page, dark);
    await page.reload();
    await signIn(page, 'ines');
    await page.getByText('All entries sent').waitFor();
    await shoot('day');
    await inTheList(page, '3B hall').click();
    await open(page, 'Foot of wall B');
    await shoot('shower-seam');
    if (dark) {
      await page.goBack();
      await page.getByRole('button', { name: /^(Walk it|Go on walking)$/ }).click();
      await page.getByTestId('walk').waitFor();
      await shoot('walk');
      await page.getByRole('button', { name: 'Stop', exact: true }).click();
      await open(page, 'Foot of wall B');
    }
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    await page.getByAltText('Picture of the defect').waitFor();
    await shoot('defect');
    await page.goto('/');
    await inTheList(page, 'Steam room').click();
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: 'Membrane' }).click();
    await open(page, 'Niche mouth');
    await shoot('steam-room');
    await page.goto('/');
    await inTheList(page, 'Loft east').click();
    await page.getByTestId('map').waitFor();
    const loft = page.url().split('?')[0];
    await page.goto(`${loft}/film`);
    await page.getByTestId('film-map').waitFor();
    await shoot('film');
    await page.goto(`${loft}/cure`);
    await page.getByTestId('climate-chart').locator('svg').waitFor();
    await shoot('cure');
    await page.goto('/');
    await inTheList(page, 'B7').click();
    await page.getByTestId('map').waitFor();
    await page.goto(`${page.url().split('?')[0]}/survey?stage=base`);
    await page.getByTestId('certainty').waitFor();
    await shoot('survey');
    await openFlood(page, '9 garden');
    await page.getByTestId('flood-chart').locator('svg').waitFor();
    await shoot('flood');
    await passFlood(page);
    await page.getByRole('link', { name: 'Record' }).click();
    await page.getByTestId('map').waitFor();
    await shoot('record');
    await leaks(page, dark, shoot);
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto('/');
    await page.getByText('All entries sent').waitFor();
    await page.goto('/');
    await inTheList(page, '3B hall').click();
    await open(page, 'Foot of wall B');
    await page.getByRole('heading', { name: 'Foot of wall B' }).scrollIntoViewIfNeeded();
    await shoot('phone-seam');
  });
}

test('across crews', async ({ page }) => {
  test.setTimeout(300_000);
  await page.setViewportSize({ width: 1440, height: 900 });
  await signIn(page, 'maren');
  for (const [name, path] of [
    ['crews', '/across/crews?group=niche'],
    ['slipped', '/across/slipped'],
  ] as const) {
    // Two years are counted in the background of a server that has just begun.
    for (;;) {
      await page.goto(path);
      await page.getByTestId('answer').waitFor();
      if ((await page.getByText(/still being counted/).count()) === 0) break;
      await page.waitForTimeout(2000);
    }
    await page.waitForTimeout(800);
    await page.screenshot({ path: `${FOLDER}/across-${name}.png` });
  }
});

test('office and crew', async ({ page, browser }) => {
  await signIn(page, 'maren');
  for (const name of ['approvals', 'rules']) {
    await page.goto(`/office/${name}`);
    await page.waitForLoadState('networkidle');
    await page.waitForTimeout(500);
    await page.screenshot({ path: `${FOLDER}/office-${name}.png` });
  }
  await page.goto('/week');
  await page.getByRole('button', { name: /^Take the suggestion/ }).waitFor();
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${FOLDER}/week.png` });
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await phone.addInitScript(() =>
    localStorage.setItem('careful-seam-preferences', JSON.stringify({ state: { language: 'es' }, version: 0 })),
  );
  await phone.goto('/sign-in');
  await phone.getByLabel('Nombre de entrada').fill('pavel');
  await phone.getByLabel('Contraseña').fill(PASSWORD);
  await phone.getByRole('button', { name: 'Entrar' }).click();
  await phone.getByText('3B hall').waitFor();
  await phone.getByText('Todo enviado').waitFor();
  await phone.screenshot({ path: `${FOLDER}/crew-day.png` });
  await context.close();
});
