import { type Browser, type BrowserContext, expect, type Page } from '@playwright/test';

export const PASSWORD = 'try-every-seam';

/** A fresh tablet (browser context of its own), signed in. */
export async function tabletOf(browser: Browser, who: string): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await signIn(page, who);
  return { context, page };
}

export async function signIn(page: Page, who: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  // A fresh tablet fetches every shower first.
  await expect(page.getByText('3B hall')).toBeVisible({ timeout: 30_000 });
}

/** Makes an alcove through the form and opens it. */
export async function makeShower(
  page: Page,
  name: string,
  size: { width?: string; depth?: string; beginsAt?: string } = {},
): Promise<void> {
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  if (size.width) await page.getByLabel('Width', { exact: true }).fill(size.width);
  if (size.depth) await page.getByLabel('Depth').fill(size.depth);
  await page.getByRole('button', { name: 'Drain in the middle' }).click();
  // What lies below the base is another inspection's.
  await page.getByRole('tab', { name: 'Method' }).click();
  await page.getByLabel('Inspection begins at').selectOption(size.beginsAt ?? 'base');
  await page.getByRole('button', { name: 'Make this shower' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

/** Chooses a stage on the ladder. */
export async function stage(page: Page, name: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name }).click();
}

/** Opens what is missing by its name in the stage's list. */
export async function open(page: Page, name: string): Promise<void> {
  await page.locator('aside li button', { hasText: name }).first().click();
}

export async function read(page: Page, value: string, at?: string): Promise<void> {
  await page.getByLabel('Value', { exact: true }).fill(value);
  if (at) await page.getByLabel('Place along the seam').fill(at);
  await page.getByRole('button', { name: /^Keep / }).click();
  await expect(page.getByLabel('Value', { exact: true })).toHaveValue('');
}

/** How the fraction pad calls itself. */
const PAD = /^Reading/;

/** What fits checks that every method asks, whatever else a test says. */
const FITTING: [RegExp, string][] = [
  [/Notch of the trowel/, '3/8'],
  [/Opening less the curb/, '1/8'],
  [/Mortar kept away/, '1/2'],
  [/Flat rim left/, '3/4'],
  [/Board laps down/, '4 1/2'],
  [/Inner edge of the curb/, '1/8'],
];

/** Fills in figures and names what shows a proof, where the open card asks for them. */
async function tellFigures(page: Page): Promise<void> {
  for (const field of await page.getByTestId('figure').all()) {
    const proof = (await field.getAttribute('data-kind')) === 'looked';
    await field.getByRole('textbox').fill(proof ? 'Paper 12, signed' : '2');
    await field.getByRole('button', { name: 'Keep' }).click();
  }
}

/** Answers all that a stage still asks: sound looks by run, and readings until nothing but `but` is missing. */
export async function finishStage(
  page: Page,
  name: string,
  value: string | [RegExp, string][],
  but: RegExp | null = null,
): Promise<void> {
  await stage(page, name);
  for (let i = 0; i < 120; i += 1) {
    await page.keyboard.press('Escape');
    const release = page.getByRole('button', { name: new RegExp(`^(Release: ${name}|Hold: )`) });
    await expect(release).toBeVisible();
    if (await release.isEnabled()) return;
    const missing = page.locator('aside li button');
    const open = but === null ? missing : missing.filter({ hasNotText: but });
    if ((await open.count()) === 0) return;
    try {
      await open.first().click({ timeout: 5000 });
    } catch (failure) {
      // The entry just kept may have emptied the list between the count and the click.
      if ((await open.count()) > 0) throw failure;
      continue;
    }
    const sound = page.getByRole('button', { name: /^Sound/ });
    const text = (await page.locator('aside ul').first().textContent()) ?? '';
    if ((await sound.isVisible()) && /Not looked at|look over the whole|Not measured/.test(text)) {
      const all = page.getByRole('button', { name: 'All like it' });
      await all.click();
      await sound.click();
    }
    await tellFigures(page);
    for (let k = 0; k < 12; k += 1) {
      const pad = page.getByLabel('Value', { exact: true });
      const now = (await page.locator('aside ul').first().textContent()) ?? '';
      if (!(await pad.isVisible()) || !/Not measured|so far/.test(now)) break;
      // The pad says which check it reads: the card may hold several, and goes on to the next by itself.
      await expect(async () => {
        const asked = (await page.getByRole('region', { name: PAD }).getAttribute('aria-label')) ?? '';
        const height = /(Membrane|Sealed height) above the drain/.test(asked);
        const usual = FITTING.find(([check]) => check.test(asked))?.[1];
        const fitting = usual ?? (typeof value === 'string' ? value : value.find(([check]) => check.test(asked))?.[1]);
        if (!height && fitting === undefined) throw new Error(`no value for ${asked}`);
        await pad.fill(height ? '84' : fitting!);
        await pad.press('Enter', { timeout: 2000 });
      }).toPass({ timeout: 20_000 });
      await expect(pad).toHaveValue('');
    }
  }
  throw new Error(`stage ${name} never came to release`);
}
