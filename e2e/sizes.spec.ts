import { type Browser, expect, type Page, test } from '@playwright/test';
import { PASSWORD, visit } from './acting';
import { unreadable } from './soundness';

/** Every size that a hand, a desk or a wall has. SIZES=all goes through all of them in both languages and themes; else the tightest one in the wordier language. */
const ALL = process.env.SIZES === 'all';
const SIZES = (ALL ? ['768x1024', '1024x768', '1280x800', '1440x900', '1920x1080', '390x844'] : ['390x844']).map(
  (size) => size.split('x').map(Number) as [number, number],
);
const THEMES = ALL ? ['light', 'dark'] : ['light'];
const LANGUAGES = ALL ? (['en', 'es'] as const) : (['es'] as const);

/** Faults of all views, each with the view and size that it was found at. */
class Views {
  readonly faults: string[] = [];
  count = 0;
  constructor(
    readonly page: Page,
    readonly language: string,
  ) {}
  /** Measures what is open at every size, in the light and in the dark. */
  async look(view: string): Promise<void> {
    for (const [width, height] of SIZES) {
      await this.page.setViewportSize({ width, height });
      for (const theme of THEMES) {
        await this.page.evaluate((to) => {
          document.documentElement.dataset.theme = to;
        }, theme);
        // What measures itself, as the map and the charts do, draws once more.
        await this.page.waitForTimeout(theme === 'light' ? 250 : 50);
        this.count += 1;
        for (const fault of await unreadable(this.page))
          this.faults.push(`${view}, ${this.language}, ${width}x${height}, ${theme}: ${fault}`);
      }
    }
    await this.page.setViewportSize({ width: 1280, height: 800 });
  }
  async go(path: string, ready: string): Promise<void> {
    await visit(this.page, path);
    await this.page.locator(ready).first().waitFor();
    await this.look(path.replace(/[0-9a-f-]{36}/, ':id'));
  }
}

/** Somebody's own device in a language, signed in. */
async function deviceOf(browser: Browser, language: 'en' | 'es', who: string): Promise<Views> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addInitScript(
    (state) => localStorage.setItem('careful-seam-preferences', JSON.stringify({ state, version: 0 })),
    { language, unit: 'in', unitChosen: true },
  );
  const page = await context.newPage();
  const views = new Views(page, language);
  await page.goto('/sign-in');
  const fields = page.locator('form input');
  await fields.first().waitFor();
  await views.look('sign-in');
  await fields.nth(0).fill(who);
  await fields.nth(1).fill(PASSWORD);
  await page.locator('form [type=submit]').first().click();
  await page.getByRole('link', { name: /^3B hall/ }).waitFor();
  return views;
}

/** The address of a shower on the list. */
async function addressOf(page: Page, name: string): Promise<string> {
  await page.goto('/');
  const href = await page.locator('a[href^="/showers/"]', { hasText: name }).first().getAttribute('href');
  return href!.split(/[?]|\/flood/)[0]!;
}

for (const language of LANGUAGES) {
  test(`an inspector's screens can be read at every size (${language}) @slow`, async ({ browser }) => {
    const views = await deviceOf(browser, language, 'ines');
    const { page } = views;
    await views.look('the day');
    const hall = await addressOf(page, '3B hall');
    const seam = await page.evaluate(async (id) => {
      const open = indexedDB.open('careful-seam');
      await new Promise((done) => {
        open.onsuccess = done;
      });
      const all = open.result.transaction('entries').objectStore('entries').index('byShower').getAll(id);
      await new Promise((done) => {
        all.onsuccess = done;
      });
      open.result.close();
      const bodies = (all.result as { text: string }[]).map(
        (e) => JSON.parse(e.text) as { kind: string; body: { place?: { element: string } } },
      );
      return bodies.find((e) => e.kind === 'reading' && e.body.place?.element.includes('|'))!.body.place!.element;
    }, hall.split('/')[2]!);
    await views.go(`${hall}?stage=membrane`, '[data-testid=map]');
    await views.go(`${hall}?stage=membrane&element=${encodeURIComponent(seam)}`, '[data-testid=map]');
    for (const stage of ['framing', 'base', 'flood-test', 'tile'])
      await views.go(`${hall}?stage=${stage}`, '[data-testid=map]');
    await views.go(`${hall}?stage=membrane&walk=1`, '[data-testid=map]');
    await views.go(`${hall}/record`, '[data-testid=map]');
    await views.go(`${hall}/dimensions`, 'main');
    await views.go('/new', '[data-testid=seam-total]');
    for (const tab of await page.getByRole('tab').all()) {
      await tab.click();
      await views.look('/new, a tab');
    }
    const loft = await addressOf(page, 'Loft east');
    await views.go(`${loft}/film`, '[data-testid=film-map]');
    await views.go(`${loft}/cure`, 'h1');
    await views.go(`${loft}/materials`, 'h1');
    const b7 = await addressOf(page, 'B7');
    await views.go(`${b7}/survey?stage=base`, 'h1, h2');
    const garden = await addressOf(page, '9 garden');
    await views.go(`${garden}/flood`, 'h1');
    const guest = await addressOf(page, '3C guest');
    await views.go(`${guest}/flood`, 'h1');
    await views.go(`${guest}/call`, 'h1');
    await page.locator('header button[aria-pressed=false]').click();
    await views.look('the way of water');
    await views.go(`${hall}/call`, 'h1');
    console.log(`${views.count} pictures of screens measured`);
    expect(views.faults).toEqual([]);
    await page.context().close();
  });

  test(`the office and the crew's phone can be read at every size (${language}) @slow`, async ({ browser }) => {
    const office = await deviceOf(browser, language, 'maren');
    for (const page of [
      'approvals',
      'jobs',
      'plan',
      'leaks',
      'people',
      'links',
      'rules',
      'firm',
      'mail',
      'audit',
      'server',
    ])
      await office.go(`/office/${page}`, 'h1, h2, [role=tab]');
    await office.go('/week', 'aside h2');
    for (const page of ['open?state=open', 'crews', 'wrong', 'slipped', 'look', 'holds', 'months', 'eyes', 'report'])
      await office.go(`/across/${page}`, 'h1, h2');
    const crew = await deviceOf(browser, language, 'pavel');
    await crew.look('the crew’s day');
    await crew.page.getByRole('link', { name: /^3B hall/ }).click();
    await crew.page.getByTestId('map').waitFor();
    await crew.look('a hold of the crew');
    console.log(`${office.count + crew.count} pictures of screens measured`);
    expect([...office.faults, ...crew.faults]).toEqual([]);
    for (const { page } of [office, crew]) await page.context().close();
  });
}
