import { readFileSync } from 'node:fs';
import { englishIn, englishLabels, englishPhrases } from '@careful-seam/words/tests/englishWords';
import { closeSheet, expect, PASSWORD, type Page, test, visit } from './acting';
import { unreadable } from './soundness';

const texts = (language: 'en' | 'es') => JSON.parse(readFileSync(`web/src/texts/${language}.json`, 'utf8'));
const TEXTS = { en: texts('en'), es: texts('es') };
const PHRASES = englishPhrases(TEXTS);
const LABELS = englishLabels(TEXTS);

/** Everything that a page says: what is drawn, and what a screen reader is told. What says itself to be in another language, such as a letter that was sent, is left out. */
async function saidOn(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const told = [...document.querySelectorAll('[aria-label], [title], [placeholder], img[alt]')].flatMap((one) =>
      ['aria-label', 'title', 'placeholder', 'alt'].flatMap((name) => one.getAttribute(name) ?? []),
    );
    const drawn = [...document.querySelectorAll('svg text, svg title')].map((one) => one.textContent ?? '');
    const letters = [...document.querySelectorAll<HTMLElement>(':not(html)[lang]:not([lang=es])')].flatMap((one) =>
      one.innerText.split('\n').map((line) => line.trim()),
    );
    return [...document.body.innerText.split('\n'), ...told, ...drawn, document.title]
      .map((line) => line.trim())
      .filter((line) => !letters.includes(line));
  });
}

/** The tightest screen; every other size is measured by `npm run sizes`. */
const PHONE = { width: 390, height: 844 };

/** Collects the English on the pages that are walked, and what can't be read on a phone: Spanish is the wordier language. */
class Walk {
  readonly english = new Map<string, string>();
  readonly unreadable: string[] = [];
  pages = 0;
  constructor(readonly page: Page) {}
  async look(where: string): Promise<void> {
    const lines = await saidOn(this.page);
    this.pages += 1;
    for (const line of lines)
      for (const found of [...englishIn(line, PHRASES), ...(LABELS.has(line) ? [line] : [])])
        this.english.set(found, where);
  }
  /** The same on a phone, where what is measured itself draws once more. */
  async lookOnPhone(where: string): Promise<void> {
    await this.look(where);
    const size = this.page.viewportSize()!;
    await this.page.setViewportSize(PHONE);
    await this.page.waitForTimeout(250);
    for (const fault of await unreadable(this.page)) this.unreadable.push(`${where}: ${fault}`);
    await this.page.setViewportSize(size);
  }
  async go(path: string, ready = 'h1, h2, [data-testid]'): Promise<void> {
    if (this.page.url() === 'about:blank') await this.page.goto(path, { waitUntil: 'networkidle' });
    else await visit(this.page, path);
    await this.page.locator(ready).first().waitFor();
    await this.lookOnPhone(path);
  }
}

async function enter(page: Page, who: string): Promise<Walk> {
  await page.addInitScript(() =>
    localStorage.setItem('careful-seam-preferences', JSON.stringify({ state: { language: 'es' }, version: 0 })),
  );
  const walk = new Walk(page);
  await walk.go('/sign-in', 'input');
  await page.getByLabel('Nombre de entrada').fill(who);
  await page.getByLabel('Contraseña').fill('no es esta');
  await page.getByRole('button', { name: 'Entrar' }).click();
  await expect(page.getByRole('alert')).toContainText('no corresponden');
  await walk.look('a wrong password');
  await page.getByLabel('Contraseña').fill(PASSWORD);
  await page.getByRole('button', { name: 'Entrar' }).click();
  await page.getByText('Todo enviado').waitFor();
  await walk.look('the day');
  return walk;
}

/** The addresses of the showers on the list. */
const showersOn = (page: Page) =>
  page
    .locator('a[href^="/showers/"]')
    .evaluateAll((links) => [...new Set(links.map((a) => a.getAttribute('href')!.split('/').slice(0, 3).join('/')))]);

test('an inspector with Spanish reads no English word on any screen', async ({ page }) => {
  const walk = await enter(page, 'ines');
  // A fresh tablet fetches every shower first.
  await expect.poll(async () => (await showersOn(page)).length).toBeGreaterThan(10);
  const showers = await showersOn(page);
  for (const key of ['Buscar', 'Ines Corrigan']) {
    await page.getByRole('button', { name: key }).click();
    await page.getByRole('dialog').waitFor();
    await walk.look(key);
    await closeSheet(page);
  }
  // Every fourth has each method and each stage among them.
  for (const path of showers.filter((_, i) => i % 4 === 0)) {
    await walk.go(path, '[data-testid=map], h1');
    const stages = page.getByRole('navigation').locator('button');
    for (let k = 0; k < (await stages.count()); k += 1) {
      await stages.nth(k).click();
      await walk.look(`${path}, stage ${k}`);
    }
  }
  const some = showers.filter((_, i) => i % 8 === 0);
  for (const path of some)
    for (const room of ['flood', 'survey?stage=base', 'film', 'cure', 'materials', 'record', 'call'])
      await walk.go(`${path}/${room}`, 'h1, h2, [role=alert]');
  await walk.go('/new', '[data-testid=seam-total]');
  for (let k = 0; k < (await page.getByRole('tab').count()); k += 1) {
    await page.getByRole('tab').nth(k).click();
    await walk.lookOnPhone(`new shower, tab ${k}`);
  }
  await page.getByRole('tab').first().click();
  await page.locator('input:not([type=radio])').nth(2).fill('nada');
  await page.locator('input:not([type=radio])').nth(2).press('Enter');
  await walk.look('a length that is none');
  await page.goto('/showers/00000000-0000-4000-8000-000000000000');
  await page.getByTestId('no-shower').waitFor();
  await walk.look('a shower that nobody has');
  console.log(`${walk.pages} pages of an inspector read`);
  expect([...walk.english]).toEqual([]);
  expect(walk.unreadable).toEqual([]);
});

test('a manager and a crew with Spanish read no English word in the office or on the phone', async ({
  page,
  browser,
}) => {
  const walk = await enter(page, 'maren');
  for (const name of ['approvals', 'jobs', 'plan', 'leaks', 'people', 'links', 'rules', 'firm', 'mail', 'server'])
    await walk.go(`/office/${name}`, 'h1');
  await walk.go('/week', 'aside h2');
  await walk.go('/office/rules', 'h1');
  await walk.page.getByRole('button', { name: 'Tipos y causas' }).click();
  for (const path of [
    'open',
    'crews',
    'crews?group=niche',
    'wrong',
    'wrong?by=cause',
    'slipped',
    'months',
    'holds',
    'look',
    'eyes',
    'report',
  ])
    await walk.go(`/across/${path}`, '[data-testid=answer]');
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await enter(await context.newPage(), 'pavel');
  await phone.page.locator('a[href^="/"]').first().waitFor();
  for (const path of (
    await phone.page.locator('a').evaluateAll((all) => all.map((a) => a.getAttribute('href')!))
  ).slice(0, 6))
    await phone.go(path, 'h1, h2, main');
  await phone.go('/across/crews', '[data-testid=answer]');
  await context.close();
  console.log(`${walk.pages + phone.pages} pages of manager and crew read`);
  expect([...walk.english, ...phone.english]).toEqual([]);
  expect([...walk.unreadable, ...phone.unreadable]).toEqual([]);
});
