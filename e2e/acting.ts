import { type Browser, type BrowserContext, test as base, expect, type Page, type Request } from '@playwright/test';
import sharp from 'sharp';

export { expect, type Page };
export const PASSWORD = 'try-every-seam';

/** Somebody's page, at the beginning of a test. */
type Devices = (who: string) => Promise<Page>;

/** What the screens are set to, as text; null where nobody chose anything. */
const settings = (page: Page) => page.evaluate(() => localStorage.getItem('careful-seam-preferences'));

/**
 * Brings a device back to the list of showers without starting the application anew; where a test left a setting or an
 * open sheet behind, it is started anew.
 */
async function toTheList(page: Page, before: string | null): Promise<void> {
  await page.unrouteAll();
  await page.setViewportSize({ width: 1280, height: 800 });
  const changed = (await settings(page)) !== before;
  if (changed)
    await page.evaluate((text) => {
      if (text === null) localStorage.removeItem('careful-seam-preferences');
      else localStorage.setItem('careful-seam-preferences', text);
    }, before);
  await page.evaluate(() => {
    window.history.pushState(null, '', '/');
    window.dispatchEvent(new PopStateEvent('popstate', { state: null }));
  });
  if (changed || (await page.getByRole('dialog').count()) > 0) await page.goto('/');
  await expect(page.getByRole('link', { name: /^3B hall/ })).toBeVisible();
}

/**
 * `tablet` is the inspector's and `office` the quality manager's, each signed in once and in use all day: a test begins
 * on the list of showers, with the settings that a device comes with. What asks for a signal, a clock or a device of its
 * own takes `page`.
 */
export const test = base.extend<{ tablet: Page; office: Page }, { devices: Devices }>({
  devices: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, contextOptions, serviceWorkers } = project.use;
      const known = new Map<string, { context: BrowserContext; before: string | null }>();
      await use(async (who) => {
        const device = known.get(who);
        if (device) {
          const page = device.context.pages()[0] ?? (await device.context.newPage());
          if (page.url() === 'about:blank') await page.goto('/');
          await toTheList(page, device.before);
          return page;
        }
        const options = { baseURL: baseURL!, viewport: viewport!, serviceWorkers: serviceWorkers! };
        const context = await browser.newContext({ ...contextOptions, ...options });
        const page = await context.newPage();
        await signIn(page, who);
        known.set(who, { context, before: await settings(page) });
        return page;
      });
      for (const { context } of known.values()) await context.close();
    },
    { scope: 'worker' },
  ],
  tablet: async ({ devices }, use) => use(await devices('ines')),
  office: async ({ devices }, use) => use(await devices('maren')),
});

/** A shower that nobody has: its page says so, and is like no other. */
const NOWHERE = '/showers/00000000-0000-4000-8000-000000000000';

/**
 * Goes to an address as a tap on a link does, without starting the application anew: that costs a second and more of the machine each time.
 * What stood before is gone when it comes back, so that nothing of it is read for what was asked for.
 */
export async function visit(page: Page, path: string): Promise<void> {
  // The entry of a sheet that closes goes a moment later, and would take the address back.
  await page.waitForFunction(() => !(window.history.state as { sheets?: number } | null)?.sheets);
  const push = (to: string) =>
    page.evaluate((address) => {
      window.history.pushState(null, '', address);
      window.dispatchEvent(new PopStateEvent('popstate', { state: null }));
    }, to);
  await push(NOWHERE);
  // Some screens say that there is no such thing too: the one that stood before is told by a mark of its own.
  await page.getByTestId('no-shower').evaluate((old) => old.setAttribute('data-left', ''));
  const asked = new Set<Request>();
  const onAsked = (request: Request) => {
    // What is listened to for news never ends.
    if (request.resourceType() !== 'eventsource') asked.add(request);
  };
  const onAnswered = (request: Request) => void asked.delete(request);
  page.on('request', onAsked).on('requestfinished', onAnswered).on('requestfailed', onAnswered);
  await push(path);
  await expect(page.locator('[data-left]')).toHaveCount(0);
  // What a screen asks the server for is there, and what it asks for after that too.
  let quiet = 0;
  await expect
    .poll(
      () => {
        quiet = asked.size === 0 ? quiet + 1 : 0;
        return quiet;
      },
      { intervals: [60] },
    )
    .toBeGreaterThan(2);
  page.off('request', onAsked).off('requestfinished', onAnswered).off('requestfailed', onAnswered);
}

/** Escape closes the sheet that is open; its entry in the browser's history goes a moment later. */
export async function closeSheet(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => !(window.history.state as { sheets?: number } | null)?.sheets);
}

/** A fresh tablet (browser context of its own), signed in. */
export async function tabletOf(browser: Browser, who: string): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await signIn(page, who);
  return { context, page };
}

/**
 * A tablet with the application's shell on it, as one that was used before: it opens without a signal. `clock` sets its
 * clock before anything runs, so that what takes days can be walked through offline and sent when the clock is right.
 */
export async function usedTablet(
  browser: Browser,
  who: string,
  clock?: { hoursBehind: number; hasTouch?: boolean },
): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'allow',
    hasTouch: clock?.hasTouch ?? false,
  });
  const page = await context.newPage();
  if (clock) await page.clock.install({ time: Date.now() - clock.hoursBehind * 3_600_000 });
  await signIn(page, who);
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload();
  await expect(page.getByRole('link', { name: /^3B hall/ })).toBeVisible();
  return { context, page };
}

/** Texts that a screen asked for and does not have, on any device of this worker. */
const missingTexts: string[] = [];
/** Notes them on a page, once. */
function noteMissing(page: Page): void {
  page.on('console', (line) => {
    if (line.text().startsWith('no text: ')) missingTexts.push(line.text());
  });
}
test.afterEach(() => {
  expect(missingTexts.splice(0)).toEqual([]);
});

export async function signIn(page: Page, who: string): Promise<void> {
  noteMissing(page);
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  // A fresh tablet fetches every shower first.
  await expect(page.getByRole('link', { name: /^3B hall/ })).toBeVisible();
}

/** A shower in a list of showers, by its name. What moved names showers too: a name alone may be read twice. */
export const inTheList = (page: Page, name: string) =>
  page.getByRole('link', { name: new RegExp(`^${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`) });

/** Makes an alcove through the form and opens it. */
export async function makeShower(
  page: Page,
  name: string,
  size: { width?: string; depth?: string; beginsAt?: string; crew?: string } = {},
): Promise<void> {
  await page.getByRole('link', { name: 'New shower' }).click();
  await page.getByLabel('Name on site').fill(name);
  await page.getByLabel('Job').fill('Test house');
  if (size.crew) await page.getByRole('combobox', { name: /^Crew/ }).selectOption(size.crew);
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
  // Its card stands before anything on it is read: the stage that was open before may be released, this one not.
  await expect(page.getByRole('heading', { level: 2, name })).toBeVisible();
}

/** Opens the rows of what is missing, so that each place shows; gives the places. */
async function missingPlaces(page: Page) {
  // All at once: a test that goes through hundreds of places would tap for minutes.
  await page.evaluate(() => {
    for (const row of document.querySelectorAll<HTMLDetailsElement>('aside details')) row.open = true;
  });
  return page.locator('aside [data-testid=missing] [data-element]');
}

/** Opens what is missing by its name in the stage's list. */
export async function open(page: Page, name: string | RegExp): Promise<void> {
  const place = page.locator('aside [data-testid=missing] [data-element]').filter({ hasText: name }).first();
  // The list may come a moment after the stage; what is asked of many places stands in a row that opens.
  await expect(async () => {
    await missingPlaces(page);
    await expect(place).toBeVisible({ timeout: 1000 });
  }).toPass();
  await place.click();
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

/** A picture as a camera gives it, of nothing. */
export const somePicture = async (name = 'seen.jpg') => ({
  name,
  mimeType: 'image/jpeg',
  buffer: await sharp({ create: { width: 640, height: 480, channels: 3, background: '#7c8a6b' } })
    .jpeg()
    .toBuffer(),
});

/** Draws a circle on the picture of the form that is open, as a finger does. */
export async function circleOnPicture(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Circle' }).click();
  const marks = page.getByTestId('marks');
  await marks.scrollIntoViewIfNeeded();
  const box = (await marks.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByLabel('1 mark on the picture')).toBeVisible();
}

/** Fills in figures and names what shows a proof, where the open card asks for them. */
async function tellFigures(page: Page): Promise<void> {
  for (const field of await page.getByTestId('figure').all()) {
    const proof = (await field.getAttribute('data-kind')) === 'looked';
    const camera = field.locator('input[type=file]').first();
    if ((await camera.count()) > 0) {
      await camera.setInputFiles(await somePicture());
      await expect(field.getByText('Keeping the picture…')).toHaveCount(0);
      continue;
    }
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
    const missing = await missingPlaces(page);
    const open = but === null ? missing : missing.filter({ hasNotText: but });
    if ((await open.count()) === 0) return;
    try {
      await open.first().click({ timeout: 20_000 });
    } catch (failure) {
      // The entry just kept may have emptied the list between the count and the click.
      if ((await open.count()) > 0) throw failure;
      continue;
    }
    const sound = page.getByRole('button', { name: /^Sound(?!.*with a picture)/ });
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
        await pad.press('Enter', { timeout: 5000 });
      }).toPass();
      await expect(pad).toHaveValue('');
    }
  }
  throw new Error(`stage ${name} never came to release`);
}

/** Says both answers that what stops or is fixed ends with, and closes it. */
export async function closeDefect(page: Page, cause = 'unknown'): Promise<void> {
  await page.getByLabel('What went wrong?').selectOption(cause);
  await page.getByLabel('Why did the check before not catch it?').selectOption('unknown');
  await page.getByRole('button', { name: 'Looked at again: it is right' }).click();
}

/** Taps the plan of the ceiling below at a place of the shower's own plan, mm from its left front corner. */
export async function tapStain(page: Page, xMm: number, yMm: number): Promise<void> {
  const at = await page.getByTestId('stain-plan').evaluate(
    (svg, [x, y]) => {
      const { height } = (svg as unknown as SVGSVGElement).viewBox.baseVal;
      // Round the shower 600 mm of the ceiling are drawn, its front below.
      const to = new DOMPoint(x! + 600, height - (y! + 600)).matrixTransform(
        (svg as unknown as SVGSVGElement).getScreenCTM()!,
      );
      return { x: to.x, y: to.y };
    },
    [xMm, yMm],
  );
  await page.mouse.click(at.x, at.y);
}
