import { closeSheet, expect, inTheList, open, test, visit } from './acting';
import { accessible, accessibleInTheDark, fits, fitsWidth, smallTargets } from './soundness';

const OFFICE = ['approvals', 'jobs', 'plan', 'leaks', 'people', 'links', 'firm', 'mail', 'audit', 'server'];

test('the office fits 1280x800, keeps 48 px and WCAG 2.2 AA, light and dark', async ({ office: page }) => {
  const sound = async (name: string) => {
    await accessible(page);
    await accessibleInTheDark(page);
    expect(await smallTargets(page), name).toEqual([]);
  };
  for (const name of OFFICE) {
    await visit(page, `/office/${name}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await fits(page);
    await sound(name);
  }
  await visit(page, '/week');
  await expect(page.getByRole('button', { name: /^Take the suggestion/ })).toBeVisible();
  await fits(page);
  await sound('week');
  await visit(page, '/');
  for (const key of ["Day's end", 'Find', 'Maren Oduya']) {
    await page.getByRole('button', { name: key }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await sound(key);
    await closeSheet(page);
  }
  await page.getByRole('link', { name: /^3B hall/ }).click();
  for (const key of ['Steps', 'Kit']) {
    await page.getByRole('button', { name: key, exact: true }).click();
    await sound(key);
    await closeSheet(page);
  }
  await open(page, 'Foot of wall B');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await sound('defect');
  await page.getByRole('button', { name: 'Give it to a crew' }).click();
  await sound('give');
});

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
    await page.getByRole('link', { name: /^3B hall/ }).waitFor();
    await sound();
    await page.getByRole('link', { name: /^3B hall/ }).click();
    await page
      .getByRole('button', { name: /^(Answer|Responder): / })
      .first()
      .click();
    await sound();
    await page.getByRole('button', { name: /^(Stages|Etapas)$/ }).click();
    await sound();
    await page.getByRole('button', { name: /^(Say it is done|Decir que está hecha)$/ }).click();
    await sound();
    await closeSheet(page);
    await page.goto('/');
    await page.getByRole('button', { name: 'Pavel Dunmore' }).click();
    await sound();
    await page.getByRole('button', { name: /^(Sign out|Salir)$/ }).click();
  }
});

test('a kit that is not complete becomes something to put right', async ({ tablet: page }) => {
  await inTheList(page, '1 wet corner').click();
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

test('what tests show and how often kinds leak can be figures of the firm: kept, refused where impossible, given back to what is shipped', async ({
  office: page,
}) => {
  await visit(page, '/office/leaks');
  for (const [label, shipped, own, key, path] of [
    ['Standing water finds a hole', '90', '70', 'Keep these figures', 'odds'],
    ['Figure to begin with: Drain and its flange', '4', '9', 'Keep', 'rates'],
  ] as const) {
    const field = page.getByLabel(label);
    await expect(field).toHaveAttribute('placeholder', shipped);
    const keep = page.getByRole('button', { name: key, exact: true });
    await field.fill('12000');
    await keep.click();
    // The browser names the field and its limit; nothing is sent.
    expect(await field.evaluate((e: HTMLInputElement) => e.validity.rangeOverflow)).toBe(true);
    for (const figure of [own, '']) {
      await field.fill(figure);
      const kept = page.waitForResponse((r) => r.url().endsWith(`/api/leaks/${path}`) && r.ok());
      await keep.click();
      await kept;
      await page.reload();
      await expect(field).toHaveValue(figure);
    }
  }
});
