import { readFileSync } from 'node:fs';
import { type Browser, expect, type Page, test } from '@playwright/test';
import i18next, { type TFunction } from 'i18next';
import sharp from 'sharp';
import { inTheList, open, PASSWORD } from './acting';

type Language = 'en' | 'es';
type Words = TFunction;

/** What the screens say in a language, so that the same steps are walked in both. */
function wordsOf(language: Language): Words {
  const instance = i18next.createInstance();
  void instance.init({ lng: language, initAsync: false, interpolation: { escapeValue: false }, resources: {} });
  for (const room of ['words', 'web'])
    instance.addResourceBundle(
      language,
      'translation',
      JSON.parse(readFileSync(new URL(`../${room}/src/texts/${language}.json`, import.meta.url), 'utf8')),
      true,
      true,
    );
  return instance.t;
}

/** A device of its own that speaks a language; nobody is signed in on it. */
async function deviceOf(browser: Browser, language: Language, viewport = { width: 1280, height: 800 }) {
  const context = await browser.newContext({ viewport });
  const preferences = JSON.stringify({ state: { language, unit: 'in', unitChosen: true }, version: 0 });
  await context.addInitScript((text) => localStorage.setItem('careful-seam-preferences', text), preferences);
  return { context, page: await context.newPage() };
}

async function signIn(page: Page, t: Words, who: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel(t('signIn.name')).fill(who);
  await page.getByLabel(t('signIn.password')).fill(PASSWORD);
  await page.getByRole('button', { name: t('signIn.go') }).click();
  await expect(page.getByRole('link', { name: /^3B hall/ })).toBeVisible();
}

const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

async function makeShower(page: Page, t: Words, name: string): Promise<void> {
  await page.getByRole('link', { name: t('today.new') }).click();
  await page.getByLabel(t('new.name'), { exact: true }).fill(name);
  await page.getByLabel(t('new.job'), { exact: true }).fill('Linden Court');
  await key(page, t('new.centre')).click();
  await key(page, t('new.make')).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

/** The membrane's stage, and on it the foot of wall B, measured on the wall. */
async function openFoot(page: Page, t: Words): Promise<void> {
  await page
    .getByRole('navigation', { name: t('ladder.label').split(',')[0]! })
    .getByRole('button', { name: /^Membran[ea]/ })
    .click();
  await open(page, t('seam.floor-wall', { a: 'B' }));
  await page.getByRole('button', { name: t('side', { part: t('part.wall', { letter: 'B' }) }) }).click();
}

async function read(page: Page, t: Words, value: string, at: string): Promise<void> {
  const field = page.getByLabel(t('pad.value'), { exact: true });
  await field.fill(value);
  await page.getByLabel(t('pad.at'), { exact: true }).fill(at);
  await page
    .getByRole('button', { name: t('pad.keep', { value: '', at: '' }).split(' ')[0]! })
    .first()
    .click();
  await expect(field).toHaveValue('');
}

const picture = async () => ({
  name: 'after.jpg',
  mimeType: 'image/jpeg',
  buffer: await sharp({ create: { width: 480, height: 360, channels: 3, background: '#a66b3f' } })
    .jpeg()
    .toBuffer(),
});

/** The crew's link as the manager makes it in the office. */
async function crewLink(manager: Page): Promise<string> {
  await manager.goto('/office/links');
  await manager.getByLabel('For whom').fill('Van phone');
  await key(manager, 'Make the link').click();
  return manager.getByLabel('The link').inputValue();
}

/** Spanish on the first tablet and the crew's phone, English on the second and in the office: one firm, one record. */
test("a defect lives from found to closed, on two tablets, a crew's phone and in the office, in two languages", async ({
  browser,
}) => {
  const [t, english] = [wordsOf('es'), wordsOf('en')];
  const name = `Life ${Date.now()}`;
  const manager = await deviceOf(browser, 'en');
  const first = await deviceOf(browser, 'es');
  const second = await deviceOf(browser, 'en');
  const phone = await deviceOf(browser, 'es', { width: 390, height: 844 });
  await Promise.all([
    signIn(manager.page, english, 'maren'),
    signIn(first.page, t, 'ines'),
    signIn(second.page, english, 'tomas'),
  ]);
  await makeShower(first.page, t, name);
  await expect(first.page.getByText(t('sync.allSent'))).toBeVisible();
  await inTheList(second.page, name).click();

  // Both without a signal, on the same shower: one finds a short lap and gives it to the crew, the other asks.
  await Promise.all([first, second].map(({ context }) => context.setOffline(true)));
  await openFoot(first.page, t);
  await read(first.page, t, '1 7/8', '14');
  await key(first.page, t('next.found')).click();
  const sheet = first.page.getByRole('dialog');
  await sheet.getByRole('button', { name: t('life.assign'), exact: true }).click();
  await sheet.getByLabel(t('life.whatToDo')).fill('10-18 in');
  await sheet
    .locator('form')
    .getByRole('button', { name: t('life.assign'), exact: true })
    .click();
  await openFoot(second.page, english);
  await read(second.page, english, '2 1/4', '40');
  await key(second.page, english('card.back')).click();
  const top = english('seam.top-termination', { a: 'A' });
  await open(second.page, top);
  await key(second.page, english('deviation.open')).click();
  await second.page.getByLabel(english('deviation.reason')).fill('Pipe in front');
  await key(second.page, english('deviation.ask')).click();
  await expect(second.page.getByText(english('sync.waiting', { count: 2 }))).toBeVisible();
  await Promise.all([first, second].map(({ context }) => context.setOffline(false)));
  await expect(first.page.getByText(t('sync.allSent'))).toBeVisible();
  await expect(second.page.getByText(english('sync.allSent'))).toBeVisible();

  // The crew comes by a link, sees what right looks like, and answers with a picture and a word.
  await phone.page.goto(await crewLink(manager.page));
  await phone.page.getByText(name).click();
  await expect(phone.page.getByText('10-18 in')).toBeVisible();
  await expect(phone.page.getByText(t('limit.atLeast', { least: '2 in' }))).toBeVisible();
  await phone.page.getByRole('button', { name: t('crew.answerTo').split('{{')[0]! }).click();
  // The picture takes its time: what it shows is told before it arrives.
  let arrive = (): void => undefined;
  const mayArrive = new Promise<void>((resolve) => {
    arrive = resolve;
  });
  await phone.page.route('**/api/photos/*', async (route) => {
    if (route.request().method() === 'PUT') await mayArrive;
    await route.continue();
  });
  // Whoever says that it is fixed while the picture is still being made smaller loses none.
  await phone.page.evaluate(() => {
    const real = window.createImageBitmap.bind(window);
    window.createImageBitmap = (async (...args: Parameters<typeof createImageBitmap>) => {
      await new Promise((later) => setTimeout(later, 3000));
      return real(...args);
    }) as typeof createImageBitmap;
  });
  await phone.page
    .locator('input[type=file]')
    .first()
    .setInputFiles(await picture());
  await phone.page.getByLabel(t('crew.words')).fill('Cut out, new band');
  await key(phone.page, t('crew.sayFixed')).click();
  await expect(phone.page.getByText(t('step.answered'))).toBeVisible();

  // Looked at, not right yet, sent back; answered again; built again is written down.
  await key(first.page, t('next.answered')).click();
  await expect(first.page.getByTestId('before-after').getByText(t('picture.pending'))).toBeVisible();
  arrive();
  await expect(first.page.getByTestId('before-after').locator('img')).toHaveCount(1);
  await key(first.page, t('life.sendBack')).click();
  await first.page.getByLabel(t('life.whatIsWrongStill')).fill('Still short at 15 in');
  await first.page
    .getByRole('button', { name: t('life.sendBack'), exact: true })
    .last()
    .click();
  await expect(phone.page.getByText('Still short at 15 in')).toBeVisible();
  await phone.page.getByRole('button', { name: t('crew.answerTo').split('{{')[0]! }).click();
  await phone.page.getByLabel(t('crew.words')).fill('Done again');
  await key(phone.page, t('crew.sayFixed')).click();
  await key(first.page, t('next.answered')).click();
  await key(first.page, t('defect.redone')).click();
  await first.page.getByLabel(t('redo.reason')).fill('New band');
  await key(first.page, t('redo.keep')).click();

  // What must be shown again is listed; it is shown; the two questions are answered and it is closed.
  await key(first.page, t('next.redone')).click();
  await expect(first.page.getByTestId('prove-again')).toContainText(t('seam.floor-wall', { a: 'B' }));
  await key(first.page, t('sheet.close')).click();
  await read(first.page, t, '2 1/4', '14');
  await key(first.page, t('next.redone')).click();
  await first.page.getByLabel(t('life.whatWentWrong')).selectOption('workmanship');
  await first.page.getByRole('radio', { name: t('confidence.admitted') }).click();
  await first.page.getByLabel(t('life.whyNotCaught')).selectOption('not-done');
  await first.page.getByLabel(t('life.hours')).fill('1,5');
  await key(first.page, t('life.close')).click();
  await expect(key(first.page, t('next.redone'))).toHaveCount(0);
  await expect(phone.page.getByText(t('crew.noHolds'))).toBeVisible();

  // The deviation that was asked without a signal is decided in the office, by somebody else.
  await manager.page.goto('/office/approvals');
  await manager.page.locator('li button', { hasText: name }).click();
  await manager.page.getByLabel('Why, in words for the record').fill('Owner agrees');
  await key(manager.page, 'Accept').click();
  await expect(manager.page.getByText(/Accepted by Maren Oduya: Owner agrees/).first()).toBeVisible();
  await expect(second.page.getByText(/Owner agrees/).first()).toBeVisible();

  // Both tablets show the same.
  await expect
    .poll(async () => {
      const figures = await Promise.all([first, second].map(({ page }) => page.getByTestId('figures').textContent()));
      // Words differ with the language, what they count does not.
      return figures[0]?.replaceAll(/\D+/g, ' ') === figures[1]?.replaceAll(/\D+/g, ' ');
    })
    .toBe(true);
  for (const { context } of [manager, first, second, phone]) await context.close();
});

test('a guessed link opens nothing, and says what to do', async ({ page }) => {
  for (const path of ['/crew-link/guessed', '/r/guessed']) {
    await page.goto(path);
    await expect(page.getByRole('alert')).toContainText('This link is not valid, or not any more.');
  }
});
