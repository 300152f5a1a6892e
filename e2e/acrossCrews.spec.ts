import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { type Browser, expect, type Page, test } from '@playwright/test';
import { makeShower, open, PASSWORD, stage, visit } from './acting';
import { accessible, accessibleInTheDark, fits, smallTargets } from './soundness';
import { freePort, type Running, start, stop } from './starting';

let data = '';
let running: Running | null = null;
test.describe.configure({ mode: 'serial' });
test.beforeAll(async () => {
  data = mkdtempSync('/var/tmp/careful-seam-years-');
  chmodSync(data, 0o755);
  running = await start(data, await freePort(), { DEMO_YEARS: 'on' });
});
test.afterAll(async () => {
  if (running?.parent.exitCode === null) await stop(running);
  rmSync(data, { recursive: true, force: true });
});

/** A device on the application with the two years, signed in. */
async function device(
  browser: Browser,
  who: string,
  first: string,
  viewport = { width: 1280, height: 800 },
): Promise<Page> {
  const context = await browser.newContext({ viewport, baseURL: running!.address });
  const page = await context.newPage();
  await page.goto('/sign-in');
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText(first).first()).toBeVisible();
  return page;
}

const answer = (page: Page) => page.getByTestId('answer');

/** A page of one question, sound in both themes, within the screen. */
async function ask(page: Page, path: string): Promise<string> {
  await visit(page, path);
  await expect(answer(page)).not.toBeEmpty();
  await expect(page.getByText(/still being counted/)).toHaveCount(0);
  return answer(page).innerText();
}

test('the screens find what is true of two years: the crew, the month, the training', async ({ browser }) => {
  const page = await device(browser, 'maren', '3B hall');
  await page.getByRole('link', { name: 'Across crews' }).click();
  await expect(page.getByRole('heading', { name: 'What is open?' })).toBeVisible();
  // A server that has just begun counts two years in the background.
  await expect
    .poll(
      async () => {
        await page.goto('/across/crews?group=niche');
        await expect(answer(page)).not.toBeEmpty();
        return page.getByText(/still being counted/).count();
      },
      { intervals: [2000] },
    )
    .toBe(0);

  // The worse crew is named, with how much and how sure; the other thirteen are not.
  const crews = await ask(page, '/across/crews?group=niche');
  expect(crews).toMatch(
    /^Crew Kestrel makes [23]\.?\d? times as many defects as the others at niches \(1\.\d to [234]\.?\d?, 95 of 100\)/,
  );
  expect(crews.match(/Crew \w+/g)).toEqual(['Crew Kestrel']);
  const verdict = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) });
  await expect(verdict('Crew Kestrel')).toContainText('above chance');
  await expect(page.getByText('above chance')).toHaveCount(1);
  await fits(page);
  await accessible(page);
  await accessibleInTheDark(page);
  expect(await smallTargets(page)).toEqual([]);

  // The crew with little work looks worse, and is not called so.
  const all = await ask(page, '/across/crews');
  expect(all).not.toContain('Plover');
  await expect(verdict('Crew Plover')).toContainText('within chance');
  const rate = async (name: string) => Number(await verdict(name).getByRole('cell').nth(3).innerText());
  expect(await rate('Crew Plover')).toBeGreaterThan(await rate('Crew Heron'));

  // From a crew to its seams, and from a row to its place on the map.
  await visit(page, '/across/crews?group=niche');
  await page.getByRole('link', { name: 'Crew Kestrel' }).click();
  await expect(page).toHaveURL(/crew=crew-kestrel/);
  await expect(answer(page)).toContainText(/\d+ defects/);
  await page
    .getByRole('link', { name: /^On the map/ })
    .first()
    .click();
  await expect(page.getByTestId('map')).toBeVisible();
  await expect(page.getByText('Short lap').or(page.getByText(/Niche/)).first()).toBeVisible();

  // The month of the wrong mortar stands out; the training's interval lies below one.
  const months = await ask(page, '/across/months');
  expect(months).toMatch(/^October 20\d\d was worse than chance/);
  expect(months.match(/worse than chance/g)).toHaveLength(1);
  await fits(page);
  await accessible(page);
  await visit(page, '/across/months?group=corner');
  const training = page.getByLabel('Before and after').locator('option', { hasText: 'Training: corners' });
  await page.getByLabel('Before and after').selectOption((await training.getAttribute('value'))!);
  await expect(answer(page)).toContainText(
    /Since “Training: corners” there are 0\.\d+ times the defects of before \(0\.\d+ to 0\.\d+\): it got better\./,
  );
  await expect(answer(page)).toContainText('gets better by itself');

  for (const [path, said] of [
    ['/across/wrong', /is the most frequent: \d+ % of \d+ defects/],
    ['/across/wrong?by=cause&value=cost', /costs the most: \$[\d,]+ of \$[\d,]+/],
    ['/across/slipped', /\d+ % of \d+ defects \(\d+ to \d+ %\) were found later/],
    ['/across/holds', /Half of the holds are closed within \d/],
    ['/across/look', /Most at niches of Crew Kestrel/],
    ['/across/open?state=open', /^\d+ defects\.$/],
  ] as const) {
    expect(await ask(page, path)).toMatch(said);
    await fits(page);
    await accessible(page);
    await accessibleInTheDark(page);
    expect(await smallTargets(page)).toEqual([]);
  }
  // Nothing fits these filters: said, with the way out.
  await visit(page, '/across/open?state=open&q=nowhere');
  await expect(page.getByText('No defect fits these filters.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(answer(page)).toContainText(/\d{3,} defects/);
  await page.context().close();
});

test('a plan that is accepted is in force, and can be ended', async ({ browser }) => {
  const page = await device(browser, 'maren', '3B hall');
  await visit(page, '/across/look?readings=600');
  await page.getByRole('button', { name: 'Accept this plan' }).click();
  await expect(answer(page)).toContainText(/In force since .* accepted by Maren Oduya/);
  await page.getByRole('button', { name: 'End the plan' }).click();
  await expect(answer(page)).toContainText('No plan is in force');
  await page.context().close();
});

test('a defect is found with its kind and cause, answered with what happened, closed with both answers, and counted within seconds', async ({
  browser,
}) => {
  const inspector = await device(browser, 'ines', '3B hall');
  const office = await device(browser, 'maren', '3B hall');
  const name = `Counted ${Date.now()}`;
  await makeShower(inspector, name, { crew: 'crew-heron' });
  await stage(inspector, 'Membrane');
  await open(inspector, 'Foot of wall B');

  // Found: the kind that is usual there stands already; why is one tap more than it was.
  let taps = 0;
  const tap = async (press: () => Promise<void>) => {
    taps += 1;
    await press();
  };
  await tap(() => inspector.getByRole('button', { name: 'Defect', exact: true }).first().click());
  await inspector.getByLabel('Kind').selectOption('wrinkle');
  await tap(() => inspector.getByRole('radio', { name: 'Workmanship' }).click());
  await tap(() => inspector.getByRole('button', { name: 'Keep this defect' }).click());
  expect(taps).toBeLessThanOrEqual(2 + 4);
  await expect(inspector.getByText('All entries sent')).toBeVisible();

  /** Seen on a page of the office, looked at again and again. */
  const seen = (path: string, said: RegExp) =>
    expect
      .poll(
        async () => {
          await office.goto(path);
          await expect(answer(office)).not.toBeEmpty();
          return office.getByRole('main').innerText();
        },
        // Within seconds; wide, because a machine that others share may stand still.
        { intervals: [200] },
      )
      .toMatch(said);
  const list = `/across/open?${new URLSearchParams({ q: name })}`;
  const lately = new Date(Date.now() - 2 * 86_400_000).toISOString().slice(0, 10);
  await seen(list, /Wrinkle or fishmouth[\s\S]*Workmanship/);
  await seen(`/across/wrong?by=kind&from=${lately}`, /Wrinkle or fishmouth/);
  await seen(`/across/slipped?from=${lately}&group=floor`, /\d+ % of \d+ defects/);

  // Given to its crew, which answers on the phone with what happened.
  await inspector.getByRole('button', { name: 'Give it to a crew', exact: true }).click();
  await inspector.getByRole('dialog').getByRole('button', { name: 'Give it to a crew', exact: true }).click();
  await inspector.getByLabel(/^What to do/).fill('Cut it out');
  await inspector
    .getByRole('dialog')
    .locator('form')
    .getByRole('button', { name: 'Give it to a crew', exact: true })
    .click();
  await expect(inspector.getByText('All entries sent')).toBeVisible();
  const phone = await device(browser, 'pavel', 'Crew Heron', { width: 390, height: 844 });
  await phone.getByText(name).click();
  await phone.getByRole('button', { name: /^Answer: / }).click();
  await phone
    .getByRole('radiogroup', { name: 'What happened?' })
    .getByRole('radio', { name: 'Method not followed' })
    .click();
  await phone.getByLabel('What you did, in a word or two').fill('Cut out, rolled again');
  await fits(phone);
  await accessible(phone);
  await phone.getByRole('button', { name: 'It is put right' }).click();
  await expect(phone.getByText('All entries sent')).toBeVisible();
  await seen(list, /Method not followed/);

  // A crew lead sees the own crew and the firm's level, and nobody else.
  await phone.goto('/across/crews');
  await expect(answer(phone)).toContainText(/^Your crew makes [\d.]+ defects in 100 ft/);
  await expect(phone.getByRole('row')).toHaveCount(2);
  await expect(phone.getByRole('link', { name: 'Months' })).toHaveCount(0);
  await accessible(phone);
  await phone.goto('/across/months');
  await expect(phone).toHaveURL(/\/$/);

  // Closed with both answers: without the second one the key does nothing.
  await inspector.getByRole('button', { name: 'Look again' }).click();
  await inspector.getByRole('button', { name: 'Looked again: close' }).click();
  const close = inspector.getByRole('button', { name: 'Looked at again: it is right' });
  await expect(inspector.getByLabel('What went wrong?')).toHaveValue('method');
  await expect(close).toBeDisabled();
  await expect(inspector.getByText('Both answers are needed; "Not known" is one.')).toBeVisible();
  await inspector.getByLabel('Why did the check before not catch it?').selectOption('not-asked');
  await inspector.getByLabel('Hours to put it right').fill('2');
  await close.click();
  await expect(inspector.getByText('All entries sent')).toBeVisible();
  await seen(
    `${list}&state=closed&columns=shower,cause,escape,hours`,
    /Method not followed\s+No check asked for it\s+2/,
  );
  for (const page of [inspector, office, phone]) await page.context().close();
});

test('two inspectors answer the same blind, and only then the manager reads where they differ', async ({ browser }) => {
  const [ines, tomas, maren] = [
    await device(browser, 'ines', '3B hall'),
    await device(browser, 'tomas', '3B hall'),
    await device(browser, 'maren', '3B hall'),
  ];
  const name = `Blind ${Date.now()}`;
  await makeShower(ines, name, { crew: 'crew-heron' });
  await stage(ines, 'Membrane');
  // What one of them has answered already is left out.
  await open(ines, 'Foot of wall B');
  await ines.getByRole('button', { name: 'Sound', exact: true }).first().click();
  await expect(ines.getByText('All entries sent')).toBeVisible();

  await maren.goto('/across/eyes');
  await expect(answer(maren)).toContainText('no two inspectors have answered the same places blind yet');
  await maren.getByRole('button', { name: 'Ask for a blind look' }).click();
  await maren.getByRole('searchbox').fill(name);
  await maren.getByRole('button', { name }).click();
  const question = maren.getByRole('radio', { name: /^Membrane: .*\(\d+ places\)/ }).first();
  const label = (await question.innerText()).replace(/^Membrane: | \(\d+ places\)$/g, '');
  await question.click();
  await maren.getByLabel('First inspector').selectOption({ label: 'Ines Corrigan' });
  await maren.getByLabel('Second inspector').selectOption({ label: 'Tomas Ekwall' });
  await accessible(maren);
  await maren.getByRole('button', { name: 'Ask both' }).click();
  await expect(maren.getByRole('row', { name: new RegExp(name) })).toContainText('Waits for Ines');

  /** Answers each place with one tap: "Not sound" at those of the numbers. */
  const answers = async (page: Page, wrong: readonly number[]) => {
    await page.goto('/');
    await page.getByRole('button', { name: '1 blind look', exact: true }).click();
    await page.getByRole('button', { name: new RegExp(label.slice(0, 12)) }).click();
    const places = page.getByRole('dialog').getByRole('radiogroup');
    const count = await places.count();
    for (let i = 0; i < count; i += 1)
      await places
        .nth(i)
        .getByRole('radio', { name: wrong.includes(i) ? 'Not sound' : 'Sound', exact: true })
        .click();
    return count;
  };
  const count = await answers(ines, [0, 2]);
  await accessible(ines);
  // Closed half way, nothing tapped is lost.
  await ines.reload();
  await ines.getByRole('button', { name: '1 blind look', exact: true }).click();
  await ines.getByRole('button', { name: new RegExp(label.slice(0, 12)) }).click();
  await ines.getByRole('button', { name: 'Keep my answers' }).click();
  await expect(ines.getByText('You saw 2 places that are not sound.')).toBeVisible();
  await ines.getByRole('dialog').getByRole('link').first().click();
  await expect(ines.getByTestId('map')).toBeVisible();

  await maren.reload();
  await expect(maren.getByRole('row', { name: new RegExp(name) })).toContainText(/^(?!.*Ines.*Ines).*Waits for Tomas/);
  await expect(answer(maren)).toContainText('Too little to tell');
  expect(await answers(tomas, [2])).toBe(count);
  await tomas.getByRole('button', { name: 'Keep my answers' }).click();
  await expect(tomas.getByText('You saw 1 place that is not sound.')).toBeVisible();

  const said = await ask(maren, '/across/eyes');
  expect(said).toMatch(new RegExp(`the same at ${count - 1} of ${count} places`));
  expect(said).toContain('At 1 place one saw something wrong that the other did not.');
  await maren.getByRole('button', { name: '1 differs: show' }).click();
  await expect(maren.getByTestId('map')).toBeVisible();
  await expect(maren.getByText(/Ines Corrigan Not sound, Tomas \w+ Sound/).first()).toBeVisible();
  await fits(maren);
  await accessible(maren);
  await accessibleInTheDark(maren);
  expect(await smallTargets(maren)).toEqual([]);
  for (const page of [ines, tomas, maren]) await page.context().close();
});

test('a table of defects from before is looked at, put right, taken in, found in the list, and taken out again', async ({
  browser,
}) => {
  const page = await device(browser, 'maren', '3B hall');
  await page.goto('/across/open?q=Orchard+Lane');
  await expect(answer(page)).toContainText('No defect like that.');
  await page.getByRole('button', { name: 'Old defects' }).click();
  const rows = [
    'When,Defect,Job,Room,Crew,Notes',
    '03/04/2023,Short lap,Orchard Lane,Guest,Crew Heron,at the niche',
    '03/09/2023,Fishmouth,Orchard Lane,Guest,Heron,',
    'spring,Short lap,Orchard Lane,Main,Crew Heron,',
  ];
  const sheet = page.getByRole('dialog');
  await sheet
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'before.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
  await expect(sheet.getByText('0 of 3 rows would be taken.')).toBeVisible();
  await sheet.getByLabel('Day it was found').selectOption({ label: 'When' });
  await expect(sheet.getByText('1 of 3 rows would be taken.')).toBeVisible();
  await expect(sheet.getByText('Line 4, Day it was found: “spring” is no day.')).toBeVisible();
  await expect(sheet.getByText('They could be the other way round too: choose.')).toBeVisible();
  await sheet.getByLabel('Days are written').selectOption('dmy');
  await sheet.getByLabel('Kind: “Fishmouth” (1 row)').selectOption({ label: 'Wrinkle or fishmouth' });
  await sheet.getByLabel('Made by (crew): “Heron” (1 row)').selectOption({ label: 'Crew Heron' });
  await expect(sheet.getByText('2 of 3 rows would be taken.')).toBeVisible();
  await accessible(page);
  expect(await smallTargets(page)).toEqual([]);
  const take = sheet.getByRole('button', { name: 'Take 2 defects in' });
  await expect(take).toBeDisabled();
  await sheet.getByLabel('Leave out 1 row that can’t be taken').check();
  await take.click();
  await expect(sheet.getByText('2 defects were taken in.')).toBeVisible();
  await sheet.getByRole('button', { name: 'Close' }).click();
  await expect(answer(page)).toContainText('2 defects.');
  await expect(page.getByRole('row', { name: /Guest, Orchard Lane Wrinkle or fishmouth.*from a table/ })).toBeVisible();
  await page.getByRole('button', { name: 'Old defects' }).click();
  await page.getByRole('button', { name: 'Take out' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(answer(page)).toContainText('No defect like that.');
  await page.context().close();
});
